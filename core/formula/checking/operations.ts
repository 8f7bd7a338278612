/** Operators, comparisons and conditions, checked and made into closures. */
import { both, calculate, compareValues, either, negated, ofNumbers, resultOf, takes } from '../operators.ts';
import type { Comparator, Expression, Test } from '../text/tree.ts';
import { atomOf, common, endsOf, fits, spoken, type Type } from '../type.ts';
import { Range } from '../values/range.ts';
import { isIn } from '../values/relations.ts';
import { same, type Value } from '../values/value.ts';
import { type Checked, type Checking, type Frame, fixed, nothing } from './frame.ts';

export function checkMinus(c: Checking, e: Extract<Expression, { kind: 'negate' }>): Checked {
  const { type, run, fixed: of } = c.check(e.of);
  if (!takes('*', type, 0)) c.say(e.of, `A minus sign needs a number, this is ${spoken(type)}.`);
  if (typeof of === 'number') return fixed('number', of === 0 ? 0 : -of);
  return { type: type === 'anything' ? 'number' : type, run: frame => negated(run(frame)) };
}

export function checkArithmetic(c: Checking, e: Extract<Expression, { kind: 'arithmetic' }>): Checked {
  const left = c.check(e.left);
  const right = c.check(e.right);
  const { operator } = e;
  const type = resultOf(operator, left.type, right.type);
  if (type === undefined) {
    const numbers = [left, right].some(side => fits(side.type, 'number'));
    for (const [side, at, i] of [[left, e.left, 0] as const, [right, e.right, 1] as const]) {
      if (numbers ? !fits(side.type, 'number') : !takes(operator, side.type, i))
        c.say(at, `“${operator}” needs numbers, this is ${spoken(side.type)}.`);
    }
    if (c.problems.length === 0)
      c.say(e, `“${operator}” does not go with ${spoken(left.type)} and ${spoken(right.type)}.`);
    return nothing;
  }
  const [a, b] = [left.run, right.run];
  if (left.type === 'number' && right.type === 'number') {
    const work = ofNumbers[operator];
    if (typeof left.fixed === 'number' && typeof right.fixed === 'number')
      return fixed('number', work(left.fixed, right.fixed));
    if (typeof right.fixed === 'number') {
      const y = right.fixed;
      return {
        type: 'number',
        run: frame => {
          const x = a(frame);
          return typeof x === 'number' ? work(x, y) : null;
        },
      };
    }
    return {
      type: 'number',
      run: frame => {
        const x = a(frame);
        const y = b(frame);
        return typeof x === 'number' && typeof y === 'number' ? work(x, y) : null;
      },
    };
  }
  if (type === 'text' || type === 'anything')
    return {
      type,
      run: frame => {
        const value = calculate(operator, a(frame), b(frame));
        return typeof value === 'string' ? frame.meter.text(value) : value;
      },
    };
  return { type, run: frame => calculate(operator, a(frame), b(frame)) };
}

export function checkComparison(c: Checking, e: Extract<Expression, { kind: 'compare' }>): Checked {
  const left = c.check(e.left);
  const right = c.check(e.right);
  const isEquality = e.comparator === '=' || e.comparator === '!=';
  c.alike(left.type, right.type, e);
  if (!isEquality) c.ordered(left.type, e);
  const { comparator } = e;
  const { run } = left;
  if (left.type === 'number' && typeof right.fixed === 'number') {
    const holds = againstNumber(comparator, right.fixed);
    return {
      type: 'yes/no',
      run: frame => {
        const value = run(frame);
        return typeof value === 'number' ? holds(value) : compareValues(comparator, value, right.fixed as number);
      },
    };
  }
  if (left.fixed !== undefined && right.fixed !== undefined)
    return fixed('yes/no', compareValues(comparator, left.fixed, right.fixed));
  if (isEquality && (typeof right.fixed === 'string' || typeof right.fixed === 'boolean') && left.type === right.type) {
    const { fixed: other } = right;
    const equal = comparator === '=';
    return { type: 'yes/no', run: frame => (run(frame) === other) === equal };
  }
  return { type: 'yes/no', run: frame => compareValues(comparator, run(frame), right.run(frame)) };
}

export function checkBetween(c: Checking, e: Extract<Expression, { kind: 'between' }>): Checked {
  const of = c.check(e.of);
  const low = c.check(e.low);
  const high = c.check(e.high);
  c.alike(of.type, low.type, e.low);
  c.alike(of.type, high.type, e.high);
  c.ordered(of.type, e.of);
  const inside = withinFixed(low, high, false, false);
  return {
    type: 'yes/no',
    run: frame => {
      const value = of.run(frame);
      if (inside && typeof value === 'number') return inside(value);
      return both(compareValues('>=', value, low.run(frame)), compareValues('<=', value, high.run(frame)));
    },
  };
}

export function checkIn(c: Checking, e: Extract<Expression, { kind: 'in' }>): Checked {
  const of = c.check(e.of);
  const tests = e.tests.map(test => checkTest(c, test, of.type));
  return {
    type: 'yes/no',
    run: frame => {
      const value = of.run(frame);
      let result: Value = false;
      for (const test of tests) result = either(result, test(value, frame));
      return result;
    },
  };
}

export function checkTest(c: Checking, test: Test, of: Type): (value: Value, frame: Frame) => Value {
  if (test.kind === 'interval') {
    const low = c.check(test.low);
    const high = c.check(test.high);
    c.alike(of, low.type, test.low);
    c.alike(of, high.type, test.high);
    const above = test.lowOpen ? '>' : '>=';
    const below = test.highOpen ? '<' : '<=';
    const inside = withinFixed(low, high, test.lowOpen, test.highOpen);
    return (value, frame) =>
      inside && typeof value === 'number'
        ? inside(value)
        : both(compareValues(above, value, low.run(frame)), compareValues(below, value, high.run(frame)));
  }
  const { type, run, fixed: other } = c.check(test.value);
  if (test.kind === 'compare') {
    c.alike(of, type, test.value);
    const { comparator } = test;
    if (of === 'number' && typeof other === 'number') {
      const holds = againstNumber(comparator, other);
      return value => (typeof value === 'number' ? holds(value) : compareValues(comparator, value, other));
    }
    return (value, frame) => compareValues(comparator, value, run(frame));
  }
  const atom = atomOf(type);
  if (atom === 'range' || atom === 'date range') c.alike(of, endsOf(type), test.value);
  else if (atom !== 'list') c.alike(of, type, test.value);
  if (of === type && (typeof other === 'number' || typeof other === 'string')) return value => value === other;
  return (value, frame) => isAmong(value, run(frame));
}

export function checkIf(c: Checking, e: Extract<Expression, { kind: 'if' }>): Checked {
  const condition = c.want(e.condition, 'yes/no', '“if”');
  const then = c.check(e.holds);
  const otherwise = c.check(e.otherwise);
  const type = common(then.type, otherwise.type);
  if (type === undefined) c.say(e, `“then” gives ${spoken(then.type)} and “else” gives ${spoken(otherwise.type)}.`);
  return {
    type: type ?? 'anything',
    run: frame => (condition(frame) === true ? then.run(frame) : otherwise.run(frame)),
  };
}

/** Whether a number stands so to another, which is the same each time. */
function againstNumber(comparator: Comparator, b: number): (a: number) => boolean {
  switch (comparator) {
    case '<':
      return a => a < b;
    case '<=':
      return a => a <= b;
    case '>':
      return a => a > b;
    case '>=':
      return a => a >= b;
    case '=':
      return a => a === b;
    case '!=':
      return a => a !== b;
  }
}

/** Whether a number lies between two that are the same each time; nothing where they are not. */
function withinFixed(
  low: Checked,
  high: Checked,
  lowOpen: boolean,
  highOpen: boolean,
): ((n: number) => boolean) | undefined {
  const [a, b] = [low.fixed, high.fixed];
  if (typeof a !== 'number' || typeof b !== 'number') return undefined;
  return n => (lowOpen ? n > a : n >= a) && (highOpen ? n < b : n <= b);
}

function isAmong(value: Value, of: Value): Value {
  if (of === null) return value === null ? true : null;
  if (of instanceof Range) return isIn(value, of);
  if (!Array.isArray(of)) return same(value, of);
  let result: Value = false;
  for (const one of of as Value[]) {
    const is =
      one instanceof Range
        ? isIn(value, one)
        : Array.isArray(value) || !Array.isArray(one)
          ? same(value, one)
          : isAmong(value, one);
    result = either(result, is ?? (one instanceof Range ? null : false));
  }
  if (Array.isArray(value) && result !== true && same(value, of) === true) return true;
  return result;
}
