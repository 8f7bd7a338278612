/** What is said before a date is set is what it will be once it is on file. */
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  annual,
  bookOf,
  date,
  directory,
  entry,
  halves,
  person,
  standard,
  withDirectory,
} from '../../testing/house.ts';
import { addDays } from '../../time/index.ts';
import { amountOf, atJoining, atLeaving, leaveAfter, type NamedPlan, statementOf, takenDays } from '../index.ts';

const ina = person('ina');
const monthly: NamedPlan = {
  ...standard,
  rules: { ...standard.rules, accrual: 'monthly-in-arrears', rounding: { step: 0.01, mode: 'nearest' } },
};
const entries = [
  entry({ request: 'R-7', span: halves('2026-03-02', '2026-03-06') }),
  entry({ request: 'R-8', span: halves('2026-06-29', '2026-07-03') }),
  entry({ request: 'R-9', span: halves('2026-09-07', '2026-09-08'), state: 'held' }),
];

test('the balance at leaving is that of the statement once the last day is on file, on whatever day it is', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 500 }),
      fc.constantFrom(standard, monthly),
      fc.integer({ min: 1, max: 10 }),
      (days, plan, tenths) => {
        const on = addDays(date('2026-02-02'), days);
        const people = (left: typeof on | null) =>
          directory.people.map(one =>
            one.id === ina ? { ...one, left, records: one.records.map(r => ({ ...r, fte: tenths / 10 })) } : one,
          );
        const book = bookOf(entries, { plans: [plan], index: withDirectory({ people: people(null) }) });
        const gone = { ...book, index: withDirectory({ people: people(on) }) };
        const said = atLeaving(book, ina, annual, on);
        expect(said?.balance).toBe(statementOf(gone, ina, annual, on)?.balance);
      },
    ),
  );
});

test('leave that goes on after the last day is named, booked or asked for, and not taken from the balance', () => {
  const book = bookOf(entries);
  const said = atLeaving(book, ina, annual, date('2026-06-30'));
  expect(leaveAfter(book, ina, date('2026-06-30')).map(one => one.request)).toEqual(['R-8', 'R-9']);
  // Half of 26 days, and 5 carried that lapse on 31 March unless taken; 5 in March, and two of June.
  expect(said).toMatchObject({ entitled: 13, balance: 11, unit: 'days', plan: 'Standard' });
  expect(atLeaving(book, ina, { ...annual, takesFrom: 'nothing' }, date('2026-06-30'))).toBeUndefined();
  expect(atLeaving(book, person('nobody'), annual, date('2026-06-30'))).toBeUndefined();
});

test('leave after a last day is taken from no balance, and is there again when that moves: there and back leaves every balance', () => {
  const goes = (left: string | null) => {
    const people = directory.people.map(one =>
      one.id === ina ? { ...one, left: left === null ? null : date(left) } : one,
    );
    return bookOf(entries, { index: withDirectory({ people }) });
  };
  const gone = goes('2026-07-01');
  // Of R-8 three days lie before the end and two after it, and R-9 after it as a whole.
  expect(takenDays(gone, ina, date('2026-06-01'), date('2026-12-31')).map(one => one.date)).toEqual([
    '2026-06-29',
    '2026-06-30',
    '2026-07-01',
  ]);
  expect(amountOf(gone, ina, annual, halves('2026-06-29', '2026-07-03'))?.amount).toBe(3);
  expect(amountOf(gone, ina, annual, halves('2026-09-07', '2026-09-08'))?.amount).toBe(0);
  const said = atLeaving(goes(null), ina, annual, date('2026-07-01'));
  expect(statementOf(gone, ina, annual, date('2026-12-31'))?.balance).toBe(said?.balance);
  fc.assert(
    fc.property(fc.integer({ min: -30, max: 700 }), fc.integer({ min: 0, max: 900 }), (days, asOf) => {
      const left = addDays(date('2026-02-02'), days);
      const on = addDays(date('2026-01-01'), asOf);
      const back = { ...goes(left), index: goes(null).index };
      expect(statementOf(back, ina, annual, on)).toEqual(statementOf(goes(null), ina, annual, on));
      // Nothing moves a balance after the last day.
      const lines = statementOf(goes(left), ina, annual, on)?.lines ?? [];
      expect(lines.filter(line => line.date > left)).toEqual([]);
    }),
    { numRuns: 200 },
  );
});

test('a joiner is told the first leave year by the days of it, and a whole one after it', () => {
  expect(atJoining(standard, date('2026-07-01'), 1)).toEqual([
    { until: '2026-12-31', amount: 13 },
    { until: '2027-12-31', amount: 26 },
  ]);
  expect(atJoining(monthly, date('2026-07-16'), 0.5)).toEqual([
    { until: '2026-12-31', amount: 5.98 },
    { until: '2027-12-31', amount: 13 },
  ]);
  const anniversary: NamedPlan = { ...standard, rules: { ...standard.rules, yearStart: 'anniversary' } };
  expect(atJoining(anniversary, date('2028-02-29'), 1)).toEqual([
    { until: '2029-02-28', amount: 26 },
    { until: '2030-02-28', amount: 26 },
  ]);
});
