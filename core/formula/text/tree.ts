/** A formula as a tree, with the place of every part in its text. */

/** Offsets into the formula's text; `to` is not included. */
export type Place = { readonly from: number; readonly to: number };

export type Comparator = '<' | '<=' | '>' | '>=' | '=' | '!=';
export type Operator = '+' | '-' | '*' | '/' | '**';

/** What a loop goes through: the items of a list, or from one value to another. */
export type Through = { readonly name: string; readonly over: Expression; readonly to?: Expression };

export type Entry = { readonly name: string; readonly nameAt: Place; readonly value: Expression };

export type Argument = { readonly name?: string; readonly nameAt?: Place; readonly value: Expression };

export type Expression = Place &
  (
    | { kind: 'number'; value: number }
    | { kind: 'text'; value: string }
    | { kind: 'date'; value: string }
    | { kind: 'yes/no'; value: boolean }
    | { kind: 'nothing' }
    /** A time, a date and time, or a duration, after an `@`. */
    | { kind: 'moment'; text: string }
    | { kind: 'name'; name: string }
    | { kind: 'negate'; of: Expression }
    | { kind: 'arithmetic'; operator: Operator; left: Expression; right: Expression }
    | { kind: 'compare'; comparator: Comparator; left: Expression; right: Expression }
    | { kind: 'between'; of: Expression; low: Expression; high: Expression }
    | { kind: 'in'; of: Expression; tests: Test[] }
    | { kind: 'and' | 'or'; left: Expression; right: Expression }
    | { kind: 'if'; condition: Expression; holds: Expression; otherwise: Expression }
    | { kind: 'call'; name: string; nameAt: Place; args: Argument[] }
    /** A function that is not called by its name: `(function(x) x + 1)(2)`. */
    | { kind: 'use'; of: Expression; args: Argument[] }
    | { kind: 'list'; items: Expression[] }
    | { kind: 'row'; entries: Entry[] }
    | { kind: 'range'; test: Test & { kind: 'interval' | 'compare' } }
    | { kind: 'path'; of: Expression; name: string; nameAt: Place }
    | { kind: 'filter'; of: Expression; by: Expression }
    | { kind: 'for'; through: Through[]; gives: Expression }
    | { kind: 'some' | 'every'; through: Through[]; holds: Expression }
    | { kind: 'function'; parameters: string[]; gives: Expression }
    | { kind: 'instance of'; of: Expression; type: string }
  );

export type Test =
  | { kind: 'value'; value: Expression }
  | { kind: 'compare'; comparator: Comparator; value: Expression }
  | { kind: 'interval'; low: Expression; high: Expression; lowOpen: boolean; highOpen: boolean };

export type Problem = Place & { message: string };

/** The expressions in a test. */
export const partsOfTest = (test: Test): Expression[] =>
  test.kind === 'interval' ? [test.low, test.high] : [test.value];

const partsOfThrough = (through: Through): Expression[] => (through.to ? [through.over, through.to] : [through.over]);

/** The parts of an expression, in their order. */
export function partsOf(e: Expression): Expression[] {
  switch (e.kind) {
    case 'arithmetic':
    case 'compare':
    case 'and':
    case 'or':
      return [e.left, e.right];
    case 'negate':
    case 'instance of':
    case 'path':
      return [e.of];
    case 'between':
      return [e.of, e.low, e.high];
    case 'in':
      return [e.of, ...e.tests.flatMap(partsOfTest)];
    case 'if':
      return [e.condition, e.holds, e.otherwise];
    case 'call':
      return e.args.map(arg => arg.value);
    case 'use':
      return [e.of, ...e.args.map(arg => arg.value)];
    case 'list':
      return e.items;
    case 'row':
      return e.entries.map(entry => entry.value);
    case 'range':
      return partsOfTest(e.test);
    case 'filter':
      return [e.of, e.by];
    case 'for':
      return [...e.through.flatMap(partsOfThrough), e.gives];
    case 'some':
    case 'every':
      return [...e.through.flatMap(partsOfThrough), e.holds];
    case 'function':
      return [e.gives];
    case 'number':
    case 'text':
    case 'date':
    case 'yes/no':
    case 'nothing':
    case 'moment':
    case 'name':
      return [];
  }
}

/** The names that an expression gives a meaning of its own inside of it: what a loop goes through, what a function takes. */
export function namesBoundIn(e: Expression): readonly string[] {
  switch (e.kind) {
    case 'for':
      return [...e.through.map(t => t.name), 'partial'];
    case 'some':
    case 'every':
      return e.through.map(t => t.name);
    case 'function':
      return e.parameters;
    case 'row':
      return e.entries.map(entry => entry.name);
    case 'filter':
      return ['item'];
    default:
      return [];
  }
}

/** Every part of a formula, from the outside in. */
export function eachPart(e: Expression, visit: (e: Expression) => void): void {
  visit(e);
  for (const part of partsOf(e)) eachPart(part, visit);
}
