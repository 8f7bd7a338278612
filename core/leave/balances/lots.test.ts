/** Parts of a balance with a last day of their own: for any course of putting on and taking, nothing is lost and nothing is kept too long. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { annual, bookOf, date, person } from '../../testing/house.ts';
import { addDays, addMonths, fromDay, toDay } from '../../time/index.ts';
import type { LeaveType } from '../rules/type.ts';
import { statementOf } from '../statements.ts';

const ina = person('ina');
const kept = (earnedMonths?: number): LeaveType => ({
  ...annual,
  ...{ id: 'earned', name: 'Time earned', takesFrom: 'earned' },
  ...(earnedMonths === undefined ? {} : { earnedMonths }),
});
const moves = fc.array(
  fc.record({ day: fc.integer({ min: 0, max: 500 }), amount: fc.integer({ min: -8, max: 12 }).filter(n => n !== 0) }),
  { minLength: 1, maxLength: 14 },
);
const first = date('2026-01-05');
const end = date('2029-01-01');
const bookWith = (type: LeaveType, all: readonly { day: number; amount: number }[]) =>
  bookOf([], {
    types: [type],
    adjustments: all.map(({ day, amount }, n) => ({
      ...{ person: ina, type: 'earned', amount, reason: `${n}` },
      date: addDays(first, day),
    })),
  });

describe('time earned that lapses', () => {
  test('each line adds up, and the balance is what was put on less what was taken and what has lapsed', () => {
    fc.assert(
      fc.property(moves, all => {
        const { lines, balance } = statementOf(bookWith(kept(6), all), ina, kept(6), end) ?? { lines: [], balance: 0 };
        let sum = 0;
        for (const line of lines) {
          sum += line.amount;
          expect(line.balance).toBeCloseTo(sum, 6);
        }
        expect(balance).toBeCloseTo(sum, 6);
        // Long after the last of it nothing stands there but what is owed.
        expect(balance).toBeLessThanOrEqual(0);
      }),
      { numRuns: 100 },
    );
  });

  test('nothing lapses before its months are over, and never more than was put on by then', () => {
    fc.assert(
      fc.property(moves, all => {
        const { lines } = statementOf(bookWith(kept(6), all), ina, kept(6), end) ?? { lines: [] };
        const ends = new Set(
          all.filter(one => one.amount > 0).map(one => fromDay(addMonths(toDay(addDays(first, one.day)), 6))),
        );
        for (const line of lines.filter(one => one.kind === 'lapsed')) expect(ends).toContain(line.date);
        const put = all.reduce((sum, one) => sum + Math.max(0, one.amount), 0);
        const lapsed = lines.reduce((sum, one) => sum - (one.kind === 'lapsed' ? one.amount : 0), 0);
        expect(lapsed).toBeLessThanOrEqual(put);
      }),
      { numRuns: 100 },
    );
  });

  test('without an end it is what it would be as one sum', () => {
    fc.assert(
      fc.property(moves, all => {
        const { balance } = statementOf(bookWith(kept(), all), ina, kept(), end) ?? { balance: Number.NaN };
        expect(balance).toBe(all.reduce((sum, one) => sum + one.amount, 0));
      }),
      { numRuns: 60 },
    );
  });
});
