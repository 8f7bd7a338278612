/** Everybody’s balances: every row adds up, and is what the statement says. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { annual, bookOf, date, person } from '../../testing/house.ts';
import { addDays } from '../../time/index.ts';
import {
  filteredStandings,
  type LeaveEntry,
  type StandingRow,
  sortedStandings,
  standingOf,
  statementOf,
} from '../index.ts';

const ina = person('ina');
const days = fc.integer({ min: 0, max: 700 });
const entry = fc.record({ at: days, length: fc.integer({ min: 1, max: 9 }), held: fc.boolean() }).map(
  ({ at, length, held }): Omit<LeaveEntry, 'request'> => ({
    person: ina,
    type: 'annual',
    span: {
      from: { date: addDays(date('2025-03-01'), at), half: 'am' },
      to: { date: addDays(date('2025-03-01'), at + length - 1), half: 'pm' },
    },
    state: held ? 'held' : 'booked',
  }),
);
const adjustment = fc.record({ at: days, amount: fc.integer({ min: -6, max: 6 }) });

describe('a row of everybody’s balances', () => {
  test('adds up to what is left, and says today what the statement says', () => {
    fc.assert(
      fc.property(fc.array(entry, { maxLength: 8 }), fc.array(adjustment, { maxLength: 3 }), days, (all, given, on) => {
        const today = addDays(date('2025-06-01'), Math.floor(on / 2));
        const book = {
          ...bookOf(all.map((one, n) => ({ ...one, request: `R-${n}` }))),
          today,
          adjustments: given.map(({ at, amount }) => ({
            person: ina,
            type: 'annual',
            date: addDays(date('2025-03-01'), at),
            amount,
            reason: 'x',
          })),
        };
        const row = standingOf(book, ina, annual)!;
        const { carried, entitled, adjusted, taken, planned, held, lapsed, lapsing, free } = row;
        expect(carried + entitled + adjusted - taken - planned - held - lapsed - lapsing).toBeCloseTo(free, 6);
        expect(row.now).toBeCloseTo(statementOf(book, ina, annual, today)!.balance, 6);
      }),
      { numRuns: 150 },
    );
  });

  test('is not there for whoever has no plan, and is found and sorted', () => {
    const row = (name: string, free: number, lapsing = 0): StandingRow => ({
      person: person(name),
      name,
      place: 'ovay',
      department: 'stores',
      ...{ unit: 'days', plan: 'Standard', from: date('2026-01-01'), to: date('2026-12-31') },
      ...{
        carried: 0,
        entitled: 26,
        adjusted: 0,
        taken: 0,
        planned: 0,
        held: 0,
        lapsed: 0,
        lapsing,
        atTurn: 0,
        now: free,
        free,
      },
      lapsesOn: lapsing > 0 ? date('2026-03-31') : null,
    });
    const rows = [row('Ulf Ægir', -1), row('Ada Lund', 20, 3), row('Ben Lund', 2)];
    const names = (all: readonly StandingRow[]) => all.map(one => one.name);
    expect(names(filteredStandings(rows, { only: 'below zero' }))).toEqual(['Ulf Ægir']);
    expect(names(filteredStandings(rows, { only: 'lapsing' }))).toEqual(['Ada Lund']);
    expect(names(filteredStandings(rows, { only: 'much left' }))).toEqual(['Ada Lund']);
    expect(names(filteredStandings(rows, { words: 'lund b' }))).toEqual(['Ben Lund']);
    expect(names(filteredStandings(rows, { place: 'skarn' }))).toEqual([]);
    expect(names(sortedStandings(rows, 'free', true))).toEqual(['Ada Lund', 'Ben Lund', 'Ulf Ægir']);
    expect(names(sortedStandings(rows, 'lapsing', false))).toEqual(['Ben Lund', 'Ulf Ægir', 'Ada Lund']);
    expect(names(sortedStandings(rows, 'name', true))).toEqual(['Ulf Ægir', 'Ben Lund', 'Ada Lund']);
  });
});
