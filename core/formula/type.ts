/** What kind of value a part of a formula gives, known before anything is worked out. */

/** A value of a formula; `null` is "not known". Outside of formulas dates, times and durations are ISO 8601 texts. */
export type Value = number | string | boolean | null | object;

/** Kinds by their names, as a definition and the calculation door write them. */
export const atoms = [
  'number',
  'money',
  'text',
  'yes/no',
  'date',
  'time',
  'date and time',
  'days and time duration',
  'years and months duration',
  'leave span',
  'date range',
  'person',
  'list',
  'row',
  'range',
  'function',
  'anything',
] as const;
export type Atom = (typeof atoms)[number];

/** Entries of a row by their names; one that is not there gives nothing. */
export type Entries = Readonly<Record<string, Type>>;

export type Type =
  | Atom
  | { readonly list: Type }
  | { readonly row: Entries }
  | { readonly range: Type }
  | { readonly takes: number; readonly gives: Type }
  | { readonly either: readonly Type[] };

const words: Record<Atom, string> = {
  number: 'a number',
  money: 'an amount of money',
  text: 'a text',
  'yes/no': 'yes or no',
  date: 'a date',
  time: 'a time',
  'date and time': 'a date and time',
  'days and time duration': 'a duration in days and time',
  'years and months duration': 'a duration in years and months',
  'leave span': 'a span of leave',
  'date range': 'a range of dates',
  person: 'a person',
  list: 'a list',
  row: 'a row',
  range: 'a range',
  function: 'a function',
  anything: 'anything',
};

/** `a number`, `a list`, `a number or a text`. */
export function spoken(type: Type): string {
  if (typeof type === 'string') return words[type];
  if ('list' in type) return 'a list';
  if ('row' in type) return 'a row';
  if ('range' in type) return type.range === 'date' ? 'a range of dates' : 'a range';
  if ('gives' in type) return 'a function';
  return type.either.map(spoken).join(' or ');
}

/** The kind without what is inside of it. */
export function atomOf(type: Type): Atom {
  if (typeof type === 'string') return type;
  if ('list' in type) return 'list';
  if ('row' in type) return 'row';
  if ('range' in type) return 'range';
  if ('gives' in type) return 'function';
  return 'anything';
}

/** What the items of a list are; anything where that is not known. */
export const itemsOf = (type: Type): Type =>
  typeof type === 'object' && 'list' in type ? type.list : type === 'list' || type === 'anything' ? 'anything' : type;

/** What the ends of a range are. */
export const endsOf = (type: Type): Type =>
  typeof type === 'object' && 'range' in type ? type.range : type === 'date range' ? 'date' : 'anything';

/** What a row is known to have in it; nothing where it may have whatever it likes. */
export const entriesOf = (type: Type): Entries | undefined =>
  typeof type === 'object' && 'row' in type ? type.row : undefined;

const isEither = (type: Type): type is { readonly either: readonly Type[] } =>
  typeof type === 'object' && 'either' in type;

/** Whether a value of one kind can stand where another is asked for. What is not known fits everywhere. */
export function fits(given: Type, wanted: Type): boolean {
  if (given === wanted || given === 'anything' || wanted === 'anything') return true;
  if (isEither(wanted)) return wanted.either.some(one => fits(given, one));
  if (isEither(given)) return given.either.some(one => fits(one, wanted));
  const [a, b] = [atomOf(given), atomOf(wanted)];
  // A plain number beside an amount is an amount in the same currency.
  if ((a === 'number' && b === 'money') || (a === 'money' && b === 'number')) return true;
  if (a === 'list' && b === 'list') return fits(itemsOf(given), itemsOf(wanted));
  if (a === 'row' && b === 'row') {
    const [has, needs] = [entriesOf(given), entriesOf(wanted)];
    return !has || !needs || Object.entries(needs).every(([name, type]) => name in has && fits(has[name], type));
  }
  const isRange = (atom: Atom) => atom === 'range' || atom === 'date range';
  if (isRange(a) && isRange(b)) return fits(endsOf(given), endsOf(wanted));
  return a === b && a === 'function';
}

/** The kind that values of both have; nothing where they have none. */
export function common(a: Type, b: Type): Type | undefined {
  if (a === 'anything' || b === 'anything') return a === b ? a : a === 'anything' ? b : a;
  if (a === b) return a;
  if (!fits(a, b) && !fits(b, a)) return undefined;
  const [one, other] = [atomOf(a), atomOf(b)];
  if (one === 'money' || other === 'money') return 'money';
  if (one === 'list') return { list: common(itemsOf(a), itemsOf(b)) ?? 'anything' };
  if (one === 'row') {
    const [left, right] = [entriesOf(a), entriesOf(b)];
    if (!left || !right) return 'row';
    const names = new Set([...Object.keys(left), ...Object.keys(right)]);
    return {
      row: Object.fromEntries(
        [...names].map(n => [n, n in left && n in right ? (common(left[n], right[n]) ?? 'anything') : 'anything']),
      ),
    };
  }
  return fits(a, b) ? b : a;
}

/** What a list of these is: rows that differ have the entries of all of them. */
export function commonOf(types: readonly Type[]): Type {
  let all: Type | undefined;
  for (const type of types) {
    if (all === undefined) all = type;
    else if (atomOf(all) === 'row' && atomOf(type) === 'row') all = { row: { ...looser(all, type) } };
    else all = common(all, type) ?? 'anything';
    if (all === 'anything' && types.some(t => t !== 'anything')) return 'anything';
  }
  return all ?? 'anything';
}

function looser(a: Type, b: Type): Entries {
  const [left, right] = [entriesOf(a) ?? {}, entriesOf(b) ?? {}];
  const names = new Set([...Object.keys(left), ...Object.keys(right)]);
  return Object.fromEntries(
    [...names].map(name => {
      const [one, other] = [left[name], right[name]];
      return [name, one !== undefined && other !== undefined ? (common(one, other) ?? 'anything') : (one ?? other)];
    }),
  );
}

const ordered = new Set<Atom>([
  'number',
  'money',
  'text',
  'date',
  'time',
  'date and time',
  'days and time duration',
  'years and months duration',
  'anything',
]);

/** Whether values of the kind come before and after one another. */
export const hasOrder = (type: Type): boolean =>
  isEither(type) ? type.either.some(hasOrder) : ordered.has(atomOf(type));
