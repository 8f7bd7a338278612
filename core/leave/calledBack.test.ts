import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { halves } from '../testing/house.ts';
import { addDays, halfIndex, toDay } from '../time/index.ts';
import { leftOfLeave } from './calledBack.ts';
import { type HalfSpan, halvesOf } from './span.ts';

describe('called back from leave', () => {
  const leave = halves('2026-02-09', '2026-02-13');
  test('in the middle: what is before and what is after stays leave', () => {
    expect(leftOfLeave(leave, halves('2026-02-11', '2026-02-12'))).toEqual({
      before: halves('2026-02-09', '2026-02-10'),
      after: halves('2026-02-13', '2026-02-13'),
    });
    expect(leftOfLeave(leave, halves('2026-02-11', '2026-02-11', { from: 'pm' }))).toEqual({
      before: halves('2026-02-09', '2026-02-11', { to: 'am' }),
      after: halves('2026-02-12', '2026-02-13'),
    });
  });
  test('at its begin or to its end one side is left, of all of it none', () => {
    expect(leftOfLeave(leave, halves('2026-02-02', '2026-02-10'))).toEqual({
      before: null,
      after: halves('2026-02-11', '2026-02-13'),
    });
    expect(leftOfLeave(leave, halves('2026-02-12', '2026-02-20'))).toEqual({
      before: halves('2026-02-09', '2026-02-11'),
      after: null,
    });
    expect(leftOfLeave(leave, leave)).toEqual({ before: null, after: null });
  });
  test('not for days that are none of it, nor for days that end before they begin', () => {
    expect(leftOfLeave(leave, halves('2026-02-14', '2026-02-15'))).toBeUndefined();
    expect(leftOfLeave(leave, halves('2026-02-12', '2026-02-10'))).toBeUndefined();
  });
  test('law: every half day of the leave is left or worked, and none is both', () => {
    const day = fc.integer({ min: 0, max: 40 }).map(n => addDays(leave.from.date, n));
    const span = fc
      .record({
        from: day,
        to: day,
        a: fc.constantFrom('am' as const, 'pm' as const),
        b: fc.constantFrom('am' as const, 'pm' as const),
      })
      .map(({ from, to, a, b }) => halves(from, to, { from: a, to: b }));
    const has = (one: HalfSpan | null, half: number) => {
      if (!one) return false;
      const { first, last } = halvesOf(one);
      return first <= half && half <= last;
    };
    fc.assert(
      fc.property(span, span, (whole, days) => {
        const { first, last } = halvesOf(whole);
        fc.pre(first <= last);
        const left = leftOfLeave(whole, days);
        const begin = halfIndex(toDay(leave.from.date), 'am') - 4;
        for (let half = begin; half < begin + 100; half++) {
          const sides = [left?.before ?? null, left?.after ?? null].filter(side => has(side, half)).length;
          const isLeft = left === undefined ? has(whole, half) : has(whole, half) && !has(days, half);
          if (left !== undefined) expect(sides).toBe(isLeft ? 1 : 0);
        }
      }),
    );
  });
});
