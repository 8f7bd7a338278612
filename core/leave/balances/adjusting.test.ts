/** What a balance bears to be taken off: as much as it never falls below what its type allows, with everything planned. */
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { annual, bookOf, date, entry, halves, person, sick, standard } from '../../testing/house.ts';
import { addDays } from '../../time/index.ts';
import { adjusting, statementOf } from '../index.ts';

const ina = person('ina');
const on = date('2026-02-02');

test('days that are booked and asked for cannot be sold', () => {
  // 26 of this year and 5 carried until 31 March, less 20 in summer and 3 asked for.
  const book = bookOf([
    entry({ request: 'R-7', span: halves('2026-07-06', '2026-07-31') }),
    entry({ request: 'R-8', span: halves('2026-10-05', '2026-10-07'), state: 'held' }),
  ]);
  const fits = (amount: number) => adjusting(book, ina, annual, on, amount)?.fits;
  expect(fits(-3)).toBe(true);
  expect(fits(-3.5)).toBe(false);
  expect(fits(40)).toBe(true);
  expect(adjusting(book, ina, { ...annual, overdraft: 5 }, on, -8)?.fits).toBe(true);
  expect(adjusting(book, ina, sick, on, 1)).toBeUndefined();
  expect(adjusting(book, person('nobody'), annual, on, 1)).toBeUndefined();
});

test('what is borne leaves no day of this leave year and the next below zero that was not', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 0, max: 300 }), (halvesOff, later) => {
      const from = addDays(on, later);
      const book = bookOf([entry({ span: halves(from, addDays(from, 9)) })], { plans: [standard] });
      const amount = -halvesOff / 2;
      const after = { ...book, adjustments: [{ person: ina, type: 'annual', date: on, amount, reason: 'Sold' }] };
      const balances = [0, 60, 150, 300, 332, 400, 500, 690].map(days => {
        const day = addDays(on, days);
        return [statementOf(book, ina, annual, day), statementOf(after, ina, annual, day)].map(
          one => one?.balance ?? 0,
        );
      });
      if (adjusting(book, ina, annual, on, amount)?.fits)
        expect(balances.every(([before, now]) => (now ?? 0) >= 0 || now === before)).toBe(true);
    }),
  );
});

test('of time earned no more is put on than may stand on it; what is there and what was taken counts', () => {
  const earned = { ...annual, id: 'earned', name: 'Time earned', takesFrom: 'earned' as const, earnedMost: 40 };
  const book = bookOf([entry({ type: 'earned', span: halves('2026-01-14', '2026-01-14') })], {
    types: [earned],
    adjustments: [{ person: ina, type: 'earned', date: date('2026-01-12'), amount: 38, reason: 'Storm watch' }],
  });
  // A day of 7½ hours is taken, so 30½ stand there.
  const room = (amount: number) => adjusting(book, ina, earned, on, amount)?.room;
  expect([room(5), room(9.5), room(12)]).toEqual([5, 9.5, 9.5]);
  expect(adjusting(book, ina, { ...earned, earnedMost: 30 }, on, 4)).toMatchObject({ fits: true, room: 0 });
  expect(adjusting(book, ina, earned, on, -4)?.room).toBe(-4);
});
