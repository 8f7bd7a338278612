/** Expressions of FEEL, made up by a seed: those that two readers of the language should agree on. */

export type Sample = {
  readonly formula: string;
  readonly names: Readonly<Record<string, string>>;
  readonly values: Readonly<Record<string, unknown>>;
};

type Kind =
  | 'number'
  | 'text'
  | 'yes/no'
  | 'date'
  | 'time'
  | 'date and time'
  | 'days'
  | 'months'
  | 'numbers'
  | 'texts'
  | 'rows'
  | 'row'
  | 'range';

/** A generator of even numbers between 0 and 1, the same for the same seed. */
export function chance(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const known: Record<string, { kind: Kind; type: string; value: unknown }> = {
  Days: { kind: 'number', type: 'number', value: 4.5 },
  'Balance after': { kind: 'number', type: 'number', value: -1.25 },
  Nights: { kind: 'number', type: 'number', value: 3 },
  Programme: { kind: 'text', type: 'text', value: 'Tide watch' },
  Place: { kind: 'text', type: 'text', value: 'Ovay' },
  Urgent: { kind: 'yes/no', type: 'yes/no', value: true },
  Abroad: { kind: 'yes/no', type: 'boolean', value: false },
  Amounts: { kind: 'numbers', type: 'list<number>', value: [12.5, 40, 7, 40] },
  Ports: { kind: 'texts', type: 'list<string>', value: ['Ovay', 'Skarn', 'Hollin'] },
  Costs: {
    kind: 'rows',
    type: 'list<context<What: string, Net amount: number>>',
    value: [
      { What: 'ferry', 'Net amount': 12.5 },
      { What: 'bed', 'Net amount': 80 },
      { What: 'bus', 'Net amount': 3.2 },
    ],
  },
};

/** One expression. @param seed which one */
export function sampleOf(seed: number): Sample {
  const next = chance(seed);
  const int = (low: number, high: number) => low + Math.floor(next() * (high - low + 1));
  const pick = <T>(of: readonly T[]): T => of[int(0, of.length - 1)];
  const two = (n: number) => String(n).padStart(2, '0');
  const own: { name: string; kind: Kind }[] = [];
  const comparator = () => pick(['<', '<=', '>', '>=', '=', '!=']);

  const literal = (kind: Kind): string => {
    switch (kind) {
      case 'number':
        return pick([String(int(0, 20)), String(int(-9, 9)), `${int(0, 9)}.${pick(['5', '25', '1', '75'])}`]);
      case 'text':
        return JSON.stringify(pick(['Ovay', 'Skarn', 'tide watch', 'a', '', 'North pier', 'ON-114', 'æøå']));
      case 'yes/no':
        return pick(['true', 'false']);
      case 'date': {
        const text = `${int(2024, 2028)}-${two(int(1, 12))}-${two(int(1, 28))}`;
        return pick([`date("${text}")`, `@"${text}"`]);
      }
      case 'time':
        return `time("${two(int(0, 23))}:${two(int(0, 59))}:00")`;
      case 'date and time':
        return `date and time("2026-${two(int(1, 12))}-${two(int(1, 28))}T${two(int(0, 23))}:${two(int(0, 59))}:00")`;
      case 'days':
        return pick([`duration("P${int(1, 40)}D")`, `@"P${int(1, 9)}D"`, `duration("PT${int(1, 60)}H")`]);
      case 'months':
        return pick([`duration("P${int(1, 30)}M")`, `duration("P${int(1, 3)}Y${int(1, 11)}M")`]);
      case 'numbers':
        return `[${Array.from({ length: int(1, 5) }, () => literal('number')).join(', ')}]`;
      case 'texts':
        return `[${Array.from({ length: int(1, 4) }, () => literal('text')).join(', ')}]`;
      case 'rows':
        return `[${Array.from({ length: int(1, 3) }, () => `{What: ${literal('text')}, Net amount: ${literal('number')}}`).join(', ')}]`;
      case 'row':
        return `{berths: ${literal('number')}, name: ${literal('text')}}`;
      case 'range': {
        const low = int(-3, 8);
        return `${pick(['[', '('])}${low}..${low + int(1, 9)}${pick([']', ')'])}`;
      }
    }
  };

  const named = (kind: Kind): string | undefined => {
    const fitting = [
      ...own.filter(one => one.kind === kind).map(one => one.name),
      ...Object.keys(known).filter(name => known[name].kind === kind),
    ];
    return fitting.length > 0 ? pick(fitting) : undefined;
  };

  const leaf = (kind: Kind): string => (next() < 0.5 ? (named(kind) ?? literal(kind)) : literal(kind));

  const within = <T>(name: string, kind: Kind, work: () => T): T => {
    own.push({ name, kind });
    const made = work();
    own.pop();
    return made;
  };

  /** Kinds whose expressions bind less than what stands around them. */
  const bare = new Set<Kind>(['yes/no', 'numbers', 'texts', 'rows']);

  const make = (kind: Kind, deep: number): string => {
    if (deep <= 0 || next() < 0.15) return leaf(kind);
    const of = (k: Kind) => make(k, deep - 1);
    const branches = formsOf(kind, of);
    const made = pick(branches)();
    return bare.has(kind) ? `(${made})` : made;
  };

  const formsOf = (kind: Kind, of: (k: Kind) => string): (() => string)[] => {
    const choice = () => `if ${of('yes/no')} then ${of(kind)} else ${of(kind)}`;
    switch (kind) {
      case 'number':
        return [
          () => `(${of('number')} ${pick(['+', '-', '*'])} ${of('number')})`,
          () => `(${of('number')} / ${int(1, 8)})`,
          () => `(${choice()})`,
          () => `${pick(['abs', 'floor', 'ceiling'])}(${of('number')})`,
          () =>
            `${pick(['round up', 'round down', 'round half up', 'round half down'])}(${of('number')}, ${int(0, 2)})`,
          () => `modulo(${of('number')}, ${int(1, 9)})`,
          () => `${pick(['sum', 'min', 'max', 'mean', 'count', 'product'])}(${of('numbers')})`,
          () => `${pick(['min', 'max', 'sum'])}(${of('number')}, ${of('number')}, ${of('number')})`,
          () => `string length(${of('text')})`,
          () => `count(${of(pick(['texts', 'numbers', 'rows'] as const))})`,
          () => `${of('date')}.${pick(['year', 'month', 'day', 'weekday'])}`,
          () => `${leaf('days')}.${pick(['days', 'hours'])}`,
          () => `${leaf('months')}.${pick(['years', 'months'])}`,
          () => `${of('numbers')}[${pick(['1', '-1'])}]`,
          () => `${pick(['day of year', 'week of year'])}(${of('date')})`,
          () => `${leaf('row')}.berths`,
          () => `number("${int(0, 999)}.${int(0, 9)}", ",", ".")`,
          () => `(-(${of('number')}))`,
          () => `decimal(stddev([${int(1, 5)}, ${int(6, 9)}, ${int(1, 9)}]), 6)`,
          () => `(${int(2, 5)} ** ${int(0, 4)})`,
        ];
      case 'text':
        return [
          () => `(${of('text')} + ${of('text')})`,
          () => `(${choice()})`,
          () => `${pick(['upper case', 'lower case'])}(${of('text')})`,
          () => `substring(${of('text')}, ${pick(['1', '2', '-1'])})`,
          () => `substring(${of('text')}, 1, ${int(1, 3)})`,
          () => `${pick(['substring before', 'substring after'])}(${of('text')}, ${literal('text')})`,
          () => `string(${of(pick(['number', 'yes/no', 'date', 'time', 'days'] as const))})`,
          () => `string join(${of('texts')}, ", ")`,
          () =>
            `replace(${of('text')}, "${pick(['a', '[aeiou]', '\\\\s', '[0-9]+', '(t)(i)'])}", "${pick(['-', 'x', ''])}")`,
          () => `${pick(['day of week', 'month of year'])}(${of('date')})`,
          () => `${of('texts')}[1]`,
          () => `${leaf('row')}.name`,
        ];
      case 'yes/no':
        return [
          () => `${of('number')} ${comparator()} ${of('number')}`,
          () => `${of('text')} ${comparator()} ${of('text')}`,
          () => `${of('date')} ${comparator()} ${of('date')}`,
          () => `${leaf('time')} ${comparator()} ${leaf('time')}`,
          () => `${leaf('date and time')} ${comparator()} ${leaf('date and time')}`,
          () => `${leaf('days')} ${comparator()} ${leaf('days')}`,
          () => `(${of('yes/no')} ${pick(['and', 'or'])} ${of('yes/no')})`,
          () => `not(${of('yes/no')})`,
          () => `${of('number')} between ${int(-5, 3)} and ${int(3, 12)}`,
          () => `${of('number')} in ${literal('range')}`,
          () => `${of('number')} in (${int(0, 4)}, > ${int(5, 9)}, ${literal('range')})`,
          () => `${of('text')} in (${literal('text')}, ${literal('text')})`,
          () => `${of('date')} in [${literal('date')}..@"2028-12-31"]`,
          () => `${pick(['contains', 'starts with', 'ends with'])}(${of('text')}, ${literal('text')})`,
          () => `matches(${of('text')}, "${pick(['^O', '[a-z]+', 'er$', '^[A-Z]{2}-[0-9]+$', '(a|t)i'])}")`,
          () => `list contains(${of('numbers')}, ${literal('number')})`,
          () => `list contains(${of('texts')}, ${literal('text')})`,
          () => `${pick(['odd', 'even'])}(floor(${of('number')}))`,
          () => `${pick(['all', 'any'])}([${of('yes/no')}, ${of('yes/no')}])`,
          () => {
            const list = of('numbers');
            return within('n', 'number', () => `${pick(['some', 'every'])} n in ${list} satisfies ${of('yes/no')}`);
          },
          () => `some c in ${leaf('rows')} satisfies c.Net amount > ${int(0, 50)}`,
          () => `every c in ${leaf('rows')} satisfies string length(c.What) < ${int(2, 6)}`,
          () => `${of('numbers')} = ${of('numbers')}`,
          () => `${pick(['before', 'after'])}(${int(0, 9)}, ${literal('range')})`,
          () => `${pick(['overlaps', 'meets', 'met by'])}(${literal('range')}, ${literal('range')})`,
          () => `includes(${literal('range')}, ${int(0, 9)})`,
          () => `${of('number')} instance of ${pick(['number', 'string', 'boolean'])}`,
          () => `is(${of('number')}, ${literal('number')})`,
        ];
      case 'date':
        return [
          () => `(${of('date')} ${pick(['+', '-'])} duration("P${int(1, 60)}D"))`,
          () => `(${of('date')} ${pick(['+', '-'])} ${leaf('months')})`,
          () => `date(${int(2024, 2028)}, ${int(1, 12)}, ${int(1, 28)})`,
          () => `date(${leaf('date and time')})`,
          () => `(${choice()})`,
        ];
      case 'time':
        return [
          () => `(${leaf('time')} ${pick(['+', '-'])} duration("PT${int(1, 30)}H"))`,
          () => `time(${int(0, 23)}, ${int(0, 59)}, ${int(0, 59)})`,
        ];
      case 'date and time':
        return [
          () => `(${leaf('date and time')} ${pick(['+', '-'])} ${leaf('days')})`,
          () => `date and time(${of('date')}, ${leaf('time')})`,
        ];
      case 'days':
        return [
          () => `(${of('date')} - ${of('date')})`,
          () => `(${leaf('days')} ${pick(['+', '-'])} ${leaf('days')})`,
          () => `(${leaf('date and time')} - ${leaf('date and time')})`,
          () => `abs(${leaf('days')})`,
        ];
      case 'months':
        return [
          () => `(${leaf('months')} + ${leaf('months')})`,
          () =>
            `years and months duration(date("20${int(10, 24)}-${two(int(1, 12))}-15"), date("2026-${two(int(1, 12))}-15"))`,
        ];
      case 'numbers':
        return [
          () => `${of('numbers')}[item > ${int(0, 9)}]`,
          () => {
            const list = of('numbers');
            return within('n', 'number', () => `for n in ${list} return ${of('number')}`);
          },
          () => within('i', 'number', () => `for i in 1..${int(1, 5)} return ${of('number')}`),
          () => `${pick(['reverse', 'distinct values', 'flatten'])}(${of('numbers')})`,
          () => `${pick(['concatenate', 'union'])}(${of('numbers')}, ${of('numbers')})`,
          () => `append(${of('numbers')}, ${of('number')})`,
          () => `sublist(${literal('numbers')}, 1, ${int(1, 3)})`,
          () => `insert before(${literal('numbers')}, 1, ${literal('number')})`,
          () => `remove(${literal('numbers')}, 1)`,
          () => `index of(${of('numbers')}, ${literal('number')})`,
          () => `sort(${of('numbers')}, function(a, b) a ${pick(['<', '>'])} b)`,
          () => `${leaf('rows')}.Net amount`,
          () => `for c in ${leaf('rows')} return c.Net amount * ${int(1, 4)}`,
          () => `${leaf('rows')}[Net amount > ${int(0, 40)}].Net amount`,
        ];
      case 'texts':
        return [
          () => `split(${literal('text')}, " ")`,
          () => `${leaf('rows')}.What`,
          () => `${leaf('texts')}[item != ${literal('text')}]`,
          () => `for c in ${leaf('rows')} return upper case(c.What)`,
          () => `reverse(${leaf('texts')})`,
          () => `distinct values(${leaf('texts')})`,
        ];
      case 'rows':
        return [
          () => `${leaf('rows')}[Net amount ${pick(['<', '>='])} ${int(0, 80)}]`,
          () => `${leaf('rows')}[What != ${literal('text')}]`,
          () => `sort(${leaf('rows')}, function(a, b) a.Net amount < b.Net amount)`,
        ];
      case 'row':
        return [
          () => `{berths: ${of('number')}, name: ${of('text')}}`,
          () => `context put(${literal('row')}, "berths", ${of('number')})`,
          () => `context merge([${literal('row')}, {name: ${of('text')}}])`,
        ];
      case 'range':
        return [() => literal('range')];
    }
  };

  const kinds: Kind[] = [
    'number',
    'number',
    'yes/no',
    'yes/no',
    'text',
    'date',
    'time',
    'date and time',
    'days',
    'months',
    'numbers',
    'texts',
    'rows',
    'row',
  ];
  return {
    formula: make(pick(kinds), 3),
    names: Object.fromEntries(Object.entries(known).map(([name, of]) => [name, of.type])),
    values: Object.fromEntries(Object.entries(known).map(([name, of]) => [name, of.value])),
  };
}
