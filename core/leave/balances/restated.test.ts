import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { edited, editsOf } from '../../facts/index.ts';
import { indexDirectory } from '../../people/index.ts';
import { annual, date, directory, instant, person, standard } from '../../testing/house.ts';
import { addDays } from '../../time/index.ts';
import { amountOf, type LeaveBook, type LeaveEntry, statementOf } from '../index.ts';
import { type Restatement, standing, withRestated } from './restated.ts';

const ina = person('ina');
const entry = (request: string, from: string, days: number): LeaveEntry => ({
  request,
  person: ina,
  type: 'annual',
  state: 'booked',
  span: { from: { date: date(from), half: 'am' }, to: { date: addDays(date(from), days), half: 'pm' } },
});
const bookOf = (house: typeof directory, entries: readonly LeaveEntry[]): LeaveBook => ({
  index: indexDirectory(house),
  types: [annual],
  plans: [standard],
  entries,
  adjustments: [],
  today: date('2026-12-01'),
});
const withHoliday = (house: typeof directory, day: string, part: 'day' | 'am' | 'pm') => {
  const calendar = house.calendars.find(one => one.id === 'ovay') ?? house.calendars[0];
  const holidays = [
    ...calendar.holidays.map(({ name = 'Holiday', ...own }) => ({ ...own, name })),
    { date: date(day), part, name: 'Regatta' },
  ];
  const { id, name, buildsOn, rules = [] } = calendar;
  const change = { what: 'calendar' as const, calendar: { id, name, buildsOn, rules: [...rules], holidays } };
  const found = editsOf(house, change, [{ id: 'standard' }]);
  const now = found.ok ? edited(house, found.edits) : null;
  return now?.ok ? now.directory : house;
};
const restatement = (change: number, own: LeaveEntry, before: number, after: number): Restatement => ({
  ...{ request: own.request, type: own.type, span: own.span, before, after, change },
  unit: 'days',
  at: instant('2026-11-01T10:00:00Z'),
  cause: `Change ${change}`,
});

describe('a statement after a change of the past', () => {
  test('shows the booking as it was booked, and the difference with its cause beneath it', () => {
    const own = entry('R-1', '2026-03-02', 4);
    const before = bookOf(directory, [own]);
    const after = bookOf(withHoliday(directory, '2026-03-04', 'day'), [own]);
    const [was, is] = [before, after].map(book => amountOf(book, ina, annual, own.span)?.amount ?? 0);
    expect([was, is]).toEqual([5, 4]);
    const found = statementOf(after, ina, annual, date('2026-12-01'));
    const lines = withRestated(found?.lines ?? [], [restatement(7, own, was ?? 0, is ?? 0)]);
    expect(lines.filter(line => line.request === 'R-1').map(line => [line.kind, line.amount, line.reason])).toEqual([
      ['taken', -5, 'taken with request R-1'],
      ['restated', 1, 'Change 7'],
    ]);
    expect(lines.at(-1)?.balance).toBe(found?.balance);
  });

  test('law: restated and booked together equal counting from nothing, after any holidays in any order', () => {
    const starts = fc.uniqueArray(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 5 });
    const holidays = fc.array(
      fc.record({
        day: fc.integer({ min: 0, max: 290 }),
        part: fc.constantFrom('day' as const, 'am' as const, 'pm' as const),
      }),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(starts, holidays, (weeks, days) => {
        const entries = weeks.map((week, i) => entry(`R-${i}`, addDays(date('2026-01-05'), week * 7), 4));
        let house = directory;
        const restated: Restatement[] = [];
        for (const [n, { day, part }] of days.entries()) {
          const next = withHoliday(house, addDays(date('2026-01-05'), day), part);
          const [was, is] = [bookOf(house, entries), bookOf(next, entries)];
          for (const own of entries) {
            const [before, after] = [was, is].map(book => amountOf(book, ina, annual, own.span)?.amount ?? 0) as [
              number,
              number,
            ];
            if (before !== after) restated.push(restatement(n, own, before, after));
          }
          house = next;
        }
        const found = statementOf(bookOf(house, entries), ina, annual, date('2026-12-01'));
        const told = withRestated(found?.lines ?? [], standing(restated, entries));
        // The balance at the end is that of counting from nothing, and every line leads to the next.
        expect(told.at(-1)?.balance).toBeCloseTo(found?.lines.at(-1)?.balance ?? 0, 6);
        for (const own of entries) {
          const booked = told.filter(line => line.request === own.request);
          const sum = booked.reduce((all, line) => all + line.amount, 0);
          const now = amountOf(bookOf(house, entries), ina, annual, own.span)?.amount ?? 0;
          // A booking of which nothing is left has no line to stand beneath.
          if (booked.length > 0) expect(-sum).toBeCloseTo(now, 6);
          const first = amountOf(bookOf(directory, entries), ina, annual, own.span)?.amount ?? 0;
          const taken = booked.filter(line => line.kind === 'taken').reduce((all, line) => all + line.amount, 0);
          if (booked.length > 0) expect(-taken).toBeCloseTo(first, 6);
        }
      }),
    );
  });

  test('a booking that was changed since is counted anew as a whole', () => {
    const own = entry('R-1', '2026-03-02', 4);
    expect(standing([restatement(7, own, 5, 4)], [entry('R-1', '2026-03-02', 3)])).toEqual([]);
    expect(standing([restatement(7, own, 5, 4)], [{ ...own, state: 'held' }])).toEqual([]);
  });
});
