import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { date, standard } from '../../testing/house.ts';
import { addDays, fromDay, toDay } from '../../time/index.ts';
import {
  type BalanceInput,
  balance,
  type LeavePlan,
  leaveYearFrom,
  movedOf,
  planSchedule,
  statement,
} from '../index.ts';
import { alone } from './course.ts';
import { fraction, plus, toNumber, zero } from './fraction.ts';
import { leaveYears, rate } from './plan.ts';

const plan = (change: Partial<LeavePlan> = {}): LeavePlan => ({ ...standard.rules, ...change });
const years = (yearStart: string, joined: string, last: string) =>
  [...leaveYears(plan({ yearStart }), date(joined), toDay(last))].map(y => [fromDay(y.first), fromDay(y.next)]);

describe('leave years', () => {
  test('begin on the plan’s day, the first one holding the day of joining', () => {
    expect(years('09-01', '2024-05-10', '2025-10-01')).toEqual([
      ['2023-09-01', '2024-09-01'],
      ['2024-09-01', '2025-09-01'],
      ['2025-09-01', '2026-09-01'],
    ]);
  });

  test('begin on the anniversary of joining, also for who joined on 29 February', () => {
    expect(years('anniversary', '2024-02-29', '2026-03-01')).toEqual([
      ['2024-02-29', '2025-03-01'],
      ['2025-03-01', '2026-03-01'],
      ['2026-03-01', '2027-03-01'],
    ]);
  });

  test('have twelve months, clipped to each month’s end, that leave no day out', () => {
    const [first] = leaveYears(plan({ yearStart: 'anniversary' }), date('2026-01-31'), toDay('2026-02-01'));
    expect(first.months.slice(0, 4).map(fromDay)).toEqual(['2026-01-31', '2026-02-28', '2026-03-31', '2026-04-30']);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3000 }), n => {
        const joined = fromDay(toDay('2020-01-01') + n);
        const [year] = leaveYears(plan({ yearStart: 'anniversary' }), joined, toDay(joined));
        const starts = [...year.months, year.next];
        for (let i = 1; i < starts.length; i++) expect(starts[i]).toBeGreaterThan(starts[i - 1]);
      }),
    );
  });

  test('of a day, and some leave years on', () => {
    expect(fromDay(leaveYearFrom(plan(), date('2020-01-01'), toDay('2025-12-20')))).toBe('2025-01-01');
    expect(fromDay(leaveYearFrom(plan(), date('2020-01-01'), toDay('2025-12-20'), 2))).toBe('2027-01-01');
    const anniversary = plan({ yearStart: 'anniversary' });
    expect(fromDay(leaveYearFrom(anniversary, date('2024-02-29'), toDay('2026-02-28')))).toBe('2025-03-01');
  });
});

describe('the rate', () => {
  const employment = {
    joined: date('2020-03-15'),
    left: null,
    fte: [
      { from: date('2020-03-15'), value: 1 },
      { from: date('2023-07-01'), value: 0.6 },
    ],
  };
  const tiers = plan({
    perYear: [
      { fromServiceYears: 0, amount: 24 },
      { fromServiceYears: 5, amount: 30 },
    ],
  });

  test('changes with service and with the share of full time, on the day itself', () => {
    const one = rate(tiers, employment);
    const on = (day: string) => toNumber(one.earned(toDay(day), toDay(day), 1));
    expect(on('2020-03-14')).toBe(0);
    expect(on('2023-06-30')).toBe(24);
    expect(on('2023-07-01')).toBe(14.4);
    expect(on('2025-03-14')).toBe(14.4);
    expect(on('2025-03-15')).toBe(18);
  });

  test('over a stretch is the sum over its days', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2500 }), fc.integer({ min: 0, max: 400 }), (start, length) => {
        const one = rate(tiers, employment);
        const first = toDay('2019-12-01') + start;
        let sum = zero;
        for (let day = first; day <= first + length; day++) sum = plus(sum, one.earned(day, day, 365));
        const whole = one.earned(first, first + length, 365);
        expect(fraction(whole.top, whole.bottom)).toEqual(fraction(sum.top, sum.bottom));
      }),
      { numRuns: 50 },
    );
  });
});

describe('known facts', () => {
  const person = { joined: date('2024-01-01'), left: null, fte: [{ from: date('2024-01-01'), value: 1 }] };
  const input = (change: Partial<BalanceInput> = {}): BalanceInput => ({
    person,
    plan: plan({ carryOver: null }),
    movements: [],
    asOf: date('2026-06-30'),
    ...change,
  });

  test('a leaving date that is known already shapes the grant of the year', () => {
    const leaving = { ...person, left: date('2026-06-30') };
    expect(balance(input({ person: leaving })).balance).toBe(13);
    expect(balance(input()).balance).toBe(26);
  });

  test('a schedule that is kept gives the same statement as one worked out anew, on every day', () => {
    const kept = planSchedule(alone(standard.rules, person.joined), person, toDay('2028-12-31'));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1400 }), n => {
        const asOf = addDays(date('2024-01-01'), n);
        const movements = [{ date: date('2025-02-03'), kind: 'taken' as const, amount: 2.5 }];
        const one = input({ plan: standard.rules, asOf, movements });
        const holdings = { ...one, course: alone(one.plan, person.joined), moved: movements.map(movedOf) };
        expect(statement({ ...holdings, planned: kept }, asOf)).toEqual(statement(holdings, asOf));
      }),
      { numRuns: 200 },
    );
  });

  test('movements before joining count on the day of joining, those after the day asked for not at all', () => {
    const movements = [
      { date: date('2023-05-01'), kind: 'adjustment' as const, amount: 3 },
      { date: date('2026-07-01'), kind: 'taken' as const, amount: 5 },
    ];
    const { lines, balance: now } = statement(
      { person, course: alone(standard.rules, person.joined), moved: movements.map(movedOf) },
      date('2024-01-01'),
    );
    expect(lines.map(l => [l.date, l.kind, l.amount])).toEqual([
      ['2024-01-01', 'accrued', 26],
      ['2024-01-01', 'adjustment', 3],
    ]);
    expect(now).toBe(29);
    expect(balance(input({ movements, asOf: date('2023-12-31') }))).toEqual({ balance: 0, expiring: [] });
  });

  test('a balance below zero goes on into the new year as its own amount', () => {
    const movements = [{ date: date('2024-03-01'), kind: 'taken' as const, amount: 30 }];
    const at = (asOf: string) => balance(input({ plan: standard.rules, movements, asOf: date(asOf) })).balance;
    expect(at('2024-12-31')).toBe(-4);
    expect(at('2025-01-01')).toBe(22);
  });
});
