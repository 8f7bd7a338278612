/**
 * Checks the types of a formula against the names it may use, then turns it into closures, once.
 * What is not known (`null`) stays not known: comparing with it or adding to it gives nothing, as FEEL has it.
 */
import { builtIns, houseFunctions, isHouseFunction, signatureOf, type Type, type Value } from './functions.ts';
import { type Comparator, type Expression, type Operator, type Problem, readFormula, type Test } from './tree.ts';

/** Names and their types. */
export type Names = Readonly<Record<string, Type>>;

/** What a formula is worked out over: values by name, and the house's functions. */
export type Scope = {
  readonly values: Readonly<Record<string, Value>>;
  readonly call: (name: string, args: Value[]) => Value;
};

export type Formula = {
  readonly source: string;
  readonly gives: Type;
  /** The names that it looks at, in the order of their first use. */
  readonly uses: readonly string[];
  readonly run: (scope: Scope) => Value;
};

export type Compiled = { ok: true; formula: Formula } | { ok: false; problems: Problem[] };

type Run = Formula['run'];
type Checked = { type: Type; run: Run };

/** Decimal results are taken to 15 digits, so that 0.1 + 0.2 is 0.3. */
const exact = (value: number): number => (Number.isInteger(value) ? value : Number(value.toPrecision(15)));

const arithmetic: Record<Operator, (a: number, b: number) => number | null> = {
  '+': (a, b) => exact(a + b),
  '-': (a, b) => exact(a - b),
  '*': (a, b) => exact(a * b),
  '/': (a, b) => (b === 0 ? null : exact(a / b)),
  '**': (a, b) => exact(a ** b),
};

type Orderable = number | string;
const comparing: Record<Comparator, (a: Orderable, b: Orderable) => boolean> = {
  '<': (a, b) => a < b,
  '<=': (a, b) => a <= b,
  '>': (a, b) => a > b,
  '>=': (a, b) => a >= b,
  '=': (a, b) => a === b,
  '!=': (a, b) => a !== b,
};

const orderable = (value: Value): value is Orderable => typeof value === 'number' || typeof value === 'string';

function compareValues(comparator: Comparator, a: Value, b: Value): boolean | null {
  if (comparator === '=') return a === b;
  if (comparator === '!=') return a !== b;
  if (!orderable(a) || !orderable(b) || typeof a !== typeof b) return null;
  return comparing[comparator](a, b);
}

const spoken: Record<Type, string> = {
  number: 'a number',
  text: 'a text',
  'yes/no': 'yes or no',
  date: 'a date',
  time: 'a time',
  'leave span': 'a span of leave',
  'date range': 'a range of dates',
  list: 'a list',
  person: 'a person',
  anything: 'anything',
};

const fits = (given: Type, wanted: Type): boolean => given === wanted || given === 'anything' || wanted === 'anything';

/** The nearest of the known names, when it is near enough to be a slip of the pen. */
export function nearest(word: string, known: Iterable<string>): string | undefined {
  let best: string | undefined;
  let least = Math.max(1, Math.floor(word.length / 3)) + 1;
  for (const candidate of known) {
    const far = distance(word.toLowerCase(), candidate.toLowerCase());
    if (far < least) [best, least] = [candidate, far];
  }
  return best;
}

/** Letters to add, drop, change, or swap with their neighbour, to make one word of the other. */
export function distance(a: string, b: string): number {
  let before: number[] = [];
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) {
      const changed = row[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1);
      const swapped = i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1] ? before[j - 2] + 1 : Infinity;
      next.push(Math.min(row[j] + 1, next[j - 1] + 1, changed, swapped));
    }
    before = row;
    row = next;
  }
  return row[b.length];
}

class Checker {
  readonly problems: Problem[] = [];
  readonly uses = new Set<string>();
  readonly #names: Names;
  constructor(names: Names) {
    this.#names = names;
  }

  #say(at: { from: number; to: number }, message: string): void {
    this.problems.push({ from: at.from, to: at.to, message });
  }

  #want(expression: Expression, wanted: Type, why: string): Run {
    const { type, run } = this.check(expression);
    if (!fits(type, wanted)) this.#say(expression, `${why} needs ${spoken[wanted]}, this is ${spoken[type]}.`);
    return run;
  }

  #alike(a: Type, b: Type, at: { from: number; to: number }): void {
    if (!fits(a, b)) this.#say(at, `${capital(spoken[a])} cannot be compared with ${spoken[b]}.`);
  }

  check(e: Expression): Checked {
    switch (e.kind) {
      case 'number':
      case 'text':
      case 'yes/no':
      case 'date': {
        const { value } = e;
        return { type: e.kind, run: () => value };
      }
      case 'nothing':
        return { type: 'anything', run: () => null };
      case 'name':
        return this.#name(e);
      case 'negate': {
        const run = this.#want(e.of, 'number', 'A minus sign');
        return {
          type: 'number',
          run: scope => {
            const value = run(scope);
            return typeof value === 'number' ? -value : null;
          },
        };
      }
      case 'arithmetic':
        return this.#arithmetic(e);
      case 'compare': {
        const left = this.check(e.left);
        const right = this.check(e.right);
        const isEquality = e.comparator === '=' || e.comparator === '!=';
        this.#alike(left.type, right.type, e);
        if (!isEquality && unordered.has(left.type)) {
          this.#say(e, `${capital(spoken[left.type])} has no order; only = and != make sense here.`);
        }
        const { comparator } = e;
        return { type: 'yes/no', run: scope => compareValues(comparator, left.run(scope), right.run(scope)) };
      }
      case 'between': {
        const of = this.check(e.of);
        const low = this.check(e.low);
        const high = this.check(e.high);
        this.#alike(of.type, low.type, e.low);
        this.#alike(of.type, high.type, e.high);
        return {
          type: 'yes/no',
          run: scope => {
            const value = of.run(scope);
            return both(compareValues('>=', value, low.run(scope)), compareValues('<=', value, high.run(scope)));
          },
        };
      }
      case 'in':
        return this.#in(e);
      case 'and':
      case 'or': {
        const word = e.kind === 'and' ? '“and”' : '“or”';
        const left = this.#want(e.left, 'yes/no', word);
        const right = this.#want(e.right, 'yes/no', word);
        const join = e.kind === 'and' ? both : either;
        return { type: 'yes/no', run: scope => join(left(scope), right(scope)) };
      }
      case 'if': {
        const condition = this.#want(e.condition, 'yes/no', '“if”');
        const then = this.check(e.holds);
        const otherwise = this.check(e.otherwise);
        if (!fits(then.type, otherwise.type)) {
          this.#say(e, `“then” gives ${spoken[then.type]} and “else” gives ${spoken[otherwise.type]}.`);
        }
        return {
          type: then.type === 'anything' ? otherwise.type : then.type,
          run: scope => (condition(scope) === true ? then.run(scope) : otherwise.run(scope)),
        };
      }
      case 'call':
        return this.#call(e);
    }
  }

  #name(e: Extract<Expression, { kind: 'name' }>): Checked {
    const { name } = e;
    const dot = name.indexOf('.');
    if (dot > 0 && Object.hasOwn(this.#names, `${name.slice(0, dot)}.*`)) {
      this.uses.add(name);
      return { type: 'anything', run: scope => scope.values[name] ?? null };
    }
    if (!Object.hasOwn(this.#names, name)) {
      const near = nearest(name, Object.keys(this.#names));
      this.#say(e, `There is no “${name}”.${near ? ` Did you mean “${near}”?` : ''}`);
      return { type: 'anything', run: () => null };
    }
    this.uses.add(name);
    return { type: this.#names[name], run: scope => scope.values[name] ?? null };
  }

  #arithmetic(e: Extract<Expression, { kind: 'arithmetic' }>): Checked {
    const left = this.check(e.left);
    const right = this.check(e.right);
    if (e.operator === '+' && left.type === 'text' && right.type === 'text') {
      return {
        type: 'text',
        run: scope => {
          const a = left.run(scope);
          const b = right.run(scope);
          return typeof a === 'string' && typeof b === 'string' ? a + b : null;
        },
      };
    }
    for (const [side, at] of [[left, e.left] as const, [right, e.right] as const]) {
      if (!fits(side.type, 'number')) this.#say(at, `“${e.operator}” needs numbers, this is ${spoken[side.type]}.`);
    }
    const work = arithmetic[e.operator];
    return {
      type: 'number',
      run: scope => {
        const a = left.run(scope);
        const b = right.run(scope);
        return typeof a === 'number' && typeof b === 'number' ? work(a, b) : null;
      },
    };
  }

  #in(e: Extract<Expression, { kind: 'in' }>): Checked {
    const of = this.check(e.of);
    const tests = e.tests.map(test => this.#test(of.type, test));
    return {
      type: 'yes/no',
      run: scope => {
        const value = of.run(scope);
        let result: Value = false;
        for (const test of tests) result = either(result, test(value, scope));
        return result;
      },
    };
  }

  #test(type: Type, test: Test): (value: Value, scope: Scope) => Value {
    if (test.kind === 'interval') {
      const low = this.check(test.low);
      const high = this.check(test.high);
      this.#alike(type, low.type, test.low);
      this.#alike(type, high.type, test.high);
      const above = test.lowOpen ? '>' : '>=';
      const below = test.highOpen ? '<' : '<=';
      return (value, scope) =>
        both(compareValues(above, value, low.run(scope)), compareValues(below, value, high.run(scope)));
    }
    const { type: given, run } = this.check(test.value);
    this.#alike(type, given, test.value);
    const comparator = test.kind === 'compare' ? test.comparator : '=';
    return (value, scope) => compareValues(comparator, value, run(scope));
  }

  #call(e: Extract<Expression, { kind: 'call' }>): Checked {
    const signature = signatureOf(e.name);
    if (!signature) {
      const near = nearest(e.name, [...Object.keys(builtIns), ...Object.keys(houseFunctions)]);
      this.#say(e.nameAt, `There is no function “${e.name}”.${near ? ` Did you mean “${near}”?` : ''}`);
      for (const arg of e.args) this.check(arg);
      return { type: 'anything', run: () => null };
    }
    const { takes, andMore, gives } = signature;
    if (andMore ? e.args.length < takes.length : e.args.length !== takes.length) {
      this.#say(e, `“${e.name}” takes ${takes.map(t => spoken[t]).join(' and ')}${andMore ? ' or more' : ''}.`);
    }
    const args = e.args.map((arg, i) => this.#want(arg, takes[Math.min(i, takes.length - 1)], `“${e.name}”`));
    const { name } = e;
    if (isHouseFunction(name))
      return {
        type: gives,
        run: scope =>
          scope.call(
            name,
            args.map(run => run(scope)),
          ),
      };
    const { work } = builtIns[name];
    return { type: gives, run: scope => work(args.map(run => run(scope))) };
  }
}

const unordered = new Set<Type>(['yes/no', 'leave span', 'date range', 'person', 'list']);

const capital = (text: string): string => text[0].toUpperCase() + text.slice(1);

function both(a: Value, b: Value): boolean | null {
  if (a === false || b === false) return false;
  return a === true && b === true ? true : null;
}

function either(a: Value, b: Value): boolean | null {
  if (a === true || b === true) return true;
  return a === false && b === false ? false : null;
}

/**
 * @param names what the formula may look at, with types
 * @param wanted the type it must give
 */
export function compile(source: string, names: Names, wanted: Type = 'anything'): Compiled {
  const known = [...Object.keys(names), ...Object.keys(builtIns), ...Object.keys(houseFunctions)];
  const reading = readFormula(source, known);
  if (!reading.ok) return reading;
  const checker = new Checker(names);
  const { type, run } = checker.check(reading.tree);
  if (checker.problems.length === 0 && !fits(type, wanted)) {
    checker.problems.push({
      from: 0,
      to: source.length,
      message: `This gives ${spoken[type]}; ${spoken[wanted]} is needed here.`,
    });
  }
  if (checker.problems.length > 0) return { ok: false, problems: checker.problems };
  return { ok: true, formula: { source, gives: type, uses: [...checker.uses], run } };
}
