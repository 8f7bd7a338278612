import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { evaluate } from 'feelin';
import { type Sample, sampleOf } from '../testing/expressions.ts';
import { worked } from './index.ts';

/** Plain values, numbers alike to twelve digits. */
function alike(a: unknown, b: unknown): boolean {
  if (typeof a === 'number' && typeof b === 'number')
    return a === b || Math.abs(a - b) <= 1e-12 * Math.max(1, Math.abs(a), Math.abs(b));
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((one, i) => alike(one, b[i]));
  if (a !== null && b !== null && typeof a === 'object' && typeof b === 'object') {
    const names = Object.keys(a);
    return (
      names.length === Object.keys(b).length &&
      names.every(name => alike((a as Record<string, unknown>)[name], (b as Record<string, unknown>)[name]))
    );
  }
  return a === b;
}

const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value ?? null));
const ours = (sample: Sample): unknown => plain(worked(sample as Parameters<typeof worked>[0]));
const theirs = (sample: Sample): unknown => plain(evaluate(sample.formula, { ...sample.values }).value);

/** Where the two differ, with the sentence of the standard that decides. */
const differences: { because: string; is: (formula: string, ours: unknown, theirs: unknown) => boolean }[] = [
  {
    // DMN 1.5, table 42: lists are equal when they have the same size and equal items; that gives false, not null.
    because: 'a list of one is not equal to a longer list',
    // What stands around the comparison may turn its answer, or another way may follow from it.
    is: formula => /[\])A-Za-z] (=|!=) [([A-Z]/.test(formula),
  },
  {
    // DMN 1.5, 10.3.2.3.1: numbers are decimals of 34 digits, in which 72.1 has no rest below its last digit.
    because: 'a decimal is rounded as it is written',
    is: formula => /round|floor|ceiling|modulo|decimal/.test(formula),
  },
];

/** How many agree, and what the others are. */
function compared(from: number, many: number) {
  let agree = 0;
  const others: { formula: string; ours: unknown; theirs: unknown }[] = [];
  for (let seed = from; seed < from + many; seed++) {
    const sample = sampleOf(seed);
    const [a, b] = [ours(sample) as { value?: unknown }, theirs(sample)];
    if ('value' in a && alike(a.value, b)) agree += 1;
    else others.push({ formula: sample.formula, ours: a.value ?? a, theirs: b });
  }
  return { agree, others };
}

/** One seed in the usual run, new ones in the long one. */
const [first] = fc.sample(fc.nat(2 ** 30), 1);

describe('FEEL, held against another reader of it', () => {
  test('of generated expressions at least 99 in 100 agree, and the standard decides about each of the others', () => {
    const { agree, others } = compared(first, 2_000);
    expect(agree).toBeGreaterThanOrEqual(1_980);
    const unexplained = others.filter(one => !differences.some(known => known.is(one.formula, one.ours, one.theirs)));
    expect(unexplained).toEqual([]);
  });

  // What this reader does as the standard says it, and the other one does not.
  test.each<[formula: string, ours: unknown, because: string]>([
    ['duration("P1D") * 2', 'P2D', 'table 57: a duration times a number'],
    ['duration("P2D") / duration("P1D")', 2, 'table 57: a duration by a duration'],
    ['-duration("P1D")', '-P1D', '10.3.2.11: the minus sign of durations'],
    ['0.1 + 0.2', 0.3, '10.3.2.3.1: numbers are decimal'],
    ['decimal(2.345, 2)', 2.34, 'table 73: halves to the even side'],
    ['median([10, 9, 1])', 9, 'table 75: in the order of numbers'],
    ['index of([@"2026-01-01"], @"2026-01-01")', [1], 'table 75: by equality'],
    ['list contains([@"2026-01-01"], @"2026-01-01")', true, 'table 75: by equality'],
    ['years and months duration(@"2026-01-31", @"2026-03-30")', 'P1M', 'table 71: years and months alone'],
    ['substring("harbour", 0)', null, 'table 74: places are counted from 1, or from the end'],
    ['during(5, [1..10])', true, 'table 78'],
    ['finishes(10, [1..10])', true, 'table 78'],
    ['starts([1..3], [1..10])', true, 'table 78'],
    ['coincides([1..3], [1..3])', true, 'table 78'],
    ['overlaps before([1..5], [3..8])', true, 'table 78'],
    ['range("[1..3]")', '[1..3]', 'table 71'],
    ['string(1e21)', '1000000000000000000000', 'table 71'],
    ['[1, 2] = [1]', false, 'table 42'],
    ['1 in [0..2] or false', true, 'grammar rules 49 to 51: “in” binds more than “or”'],
    ['1 in > 5 or true', true, 'grammar rules 49 to 51'],
    ['7 in [0..2] and true or 1 in (1, 2)', true, 'grammar rules 49 to 51'],
  ])('%s is %j (%s)', (formula, value) => {
    expect(worked({ formula, names: {}, values: {} })).toEqual({ value });
  });
});
