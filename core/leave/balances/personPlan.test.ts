/** Whoever goes over to another plan keeps what they earned by the one before, and the years before stay as they were. */
import { describe, expect, test } from '@jest/globals';
import type { Person } from '../../people/index.ts';
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
import { type LeaveBook, linesThrough, type NamedPlan, planOf, statementOf } from '../index.ts';

const ina = person('ina');
const keeper: NamedPlan = {
  ...standard,
  id: 'keeper',
  name: 'Keeper',
  rules: { ...standard.rules, perYear: [{ fromServiceYears: 0, amount: 38 }], carryOver: { max: 10 } },
};
const crew: NamedPlan = {
  ...standard,
  id: 'crew',
  name: 'Crew',
  unit: 'hours',
  rules: { ...standard.rules, perYear: [{ fromServiceYears: 0, amount: 240 }] },
};

/** Ina on the standard plan, and from a day on another one. */
function goesOver(plan: string, from: string, change: Partial<LeaveBook> = {}, planPer?: number): LeaveBook {
  const [own] = directory.people.filter(one => one.id === ina) as [Person];
  const records = [...own.records, { ...own.records[0]!, from: date(from), plan, planPer }];
  const people = directory.people.map(one => (one.id === ina ? { ...own, records } : one));
  const index = withDirectory({ people });
  return bookOf([], { index, plans: [standard, keeper, crew], ...change });
}
const on = (book: LeaveBook, day: string) => statementOf(book, ina, annual, date(day))?.balance;
const before = bookOf([], { plans: [standard, keeper, crew] });

describe('a person who goes over to another plan', () => {
  test('has earned by the one before until then, in years that are over and in the one that runs', () => {
    const book = goesOver('keeper', '2026-07-01', { today: date('2026-09-01') });
    expect(planOf(book, ina)?.name).toBe('Keeper');
    // Years before are as they were.
    for (const day of ['2024-12-31', '2025-03-31', '2025-12-31']) expect(on(book, day)).toBe(on(before, day));
    // Half a year of 26 and half a year of 38, beside the five days that were carried and have lapsed.
    expect(on(book, '2026-12-31')).toBe(13 + 19);
  });

  test('who is still to go over has the name of today’s plan, and a balance that knows it already', () => {
    const book = goesOver('keeper', '2026-07-01');
    expect(planOf(book, ina)?.name).toBe('Standard');
    expect(on(book, '2026-12-31')).toBe(32);
    expect(on(before, '2026-12-31')).toBe(26);
  });

  test('into another unit takes along what is left, at what a day is worth, and is charged in the unit of each day', () => {
    const taken = [
      entry({ request: 'R-7', span: halves('2025-08-04', '2025-08-15') }),
      entry({ request: 'R-8', span: halves('2026-03-02', '2026-03-03') }),
    ];
    const book = goesOver('crew', '2026-01-01', { entries: taken }, 7.5);
    const found = statementOf(book, ina, annual, date('2026-12-31'));
    expect(found).toMatchObject({ unit: 'hours', plan: 'Crew' });
    // 16 days of 2025 at 7½ hours, and two days of seven and a half hours from 240: no year ends on the day of the break.
    expect(found?.balance).toBe(120 + 240 - 15);
    expect(found?.lines.filter(line => line.date === '2026-01-01')).toMatchObject([
      {
        kind: 'brought along',
        amount: 120,
        balance: 120,
        reason: 'brought along from Standard: 16 days at 7½ hours for 1 day',
      },
      { kind: 'accrued', amount: 240, balance: 360 },
    ]);
    // What lies before stands in the unit of its day, and says so.
    const units = new Map(found?.lines.map(line => [line.date, line.unit]));
    expect([units.get(date('2025-08-04')), units.get(date('2026-03-02'))]).toEqual(['days', undefined]);
    const today = date('2025-12-31');
    const then = statementOf(book, ina, annual, today)!;
    expect(new Set(linesThrough(then, found!, today).map(line => line.unit))).toEqual(new Set(['days', 'hours']));
    expect(linesThrough(then, then, today).every(line => line.unit === undefined)).toBe(true);
    expect(statementOf(book, ina, annual, date('2025-12-31'))).toMatchObject({
      unit: 'days',
      plan: 'Standard',
      balance: 16,
    });
  });

  test('whose leave years begin on another day has no quarter twice, and no year that was closed changes', () => {
    const autumn = { ...keeper, id: 'autumn', name: 'Autumn', rules: { ...keeper.rules, yearStart: '09-01' } };
    const book = goesOver('autumn', '2026-03-01', { plans: [standard, autumn] });
    const alike = bookOf([], { plans: [standard, autumn] });
    for (const day of ['2024-12-31', '2025-12-31']) expect(on(book, day)).toBe(on(alike, day));
    const lines =
      statementOf(book, ina, annual, date('2026-09-01'))?.lines.filter(line => line.date >= '2026-01-01') ?? [];
    // Two leave months of 26 a year and six of 38, both rounded to halves; what was carried lapses on its own day.
    expect(lines.map(({ date: day, kind, amount }) => [day, kind, amount])).toEqual([
      ['2026-01-01', 'lapsed', -21],
      ['2026-01-01', 'carried', 0],
      ['2026-01-01', 'accrued', 4.5],
      ['2026-03-01', 'brought along', 9.5],
      ['2026-03-01', 'accrued', 19],
      ['2026-03-31', 'lapsed', -5],
      ['2026-09-01', 'lapsed', -13.5],
      ['2026-09-01', 'carried', 0],
      ['2026-09-01', 'accrued', 38],
    ]);
  });

  test('who will be on no plan any more keeps what they have, and earns no more', () => {
    const [own] = directory.people.filter(one => one.id === ina) as [Person];
    const records = [...own.records, { ...own.records[0]!, from: date('2026-07-01'), plan: null }];
    const people = directory.people.map(one => (one.id === ina ? { ...one, records } : one));
    const book = bookOf([], { index: withDirectory({ people }), plans: [standard] });
    expect(statementOf(book, ina, annual, date('2026-12-31'))).toMatchObject({ balance: 13, plan: 'Standard' });
  });

  test('and back again on the day after is as if nothing had been, but for that day', () => {
    const [own] = directory.people.filter(one => one.id === ina) as [Person];
    const at = (from: string, plan: string) => ({ ...own.records[0]!, from: date(from), plan });
    const records = [...own.records, at('2026-05-01', 'keeper'), at(addDays(date('2026-05-01'), 1), 'standard')];
    const people = directory.people.map(one => (one.id === ina ? { ...own, records } : one));
    const book = bookOf([], { index: withDirectory({ people }), plans: [standard, keeper] });
    // A day of 38 a year for one of 26, rounded to halves.
    expect(on(book, '2026-12-31')).toBe(on(before, '2026-12-31'));
  });
});
