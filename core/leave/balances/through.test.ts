/** Plans through time: what changes from a day on, in the middle of a year or a month, and what does not. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { addDays, type CivilDate, toDay } from '../../time/index.ts';
import { alone, balance, type LeavePlan, type PlanRules, planSchedule, statement } from '../index.ts';

const day = (text: string) => text as CivilDate;
const person = { joined: day('2024-01-01'), left: null, fte: [{ from: day('2024-01-01'), value: 1 }] };
const rules: PlanRules = {
  yearStart: '01-01',
  perYear: [{ fromServiceYears: 0, amount: 24 }],
  accrual: 'monthly-in-arrears',
  proration: 'monthly',
  rounding: { step: 0.01, mode: 'nearest' },
  carryOver: { max: 5, expires: '03-31' },
};
const at = (plan: LeavePlan, asOf: string) => balance({ person, plan, movements: [], asOf: day(asOf) }).balance;

describe('a plan that says something else from a day on', () => {
  test('earns by what it said until then, and by what it says since: in mid-year and in mid-month', () => {
    const plan: LeavePlan = {
      ...rules,
      later: [{ from: day('2024-07-16'), rules: { ...rules, perYear: [{ fromServiceYears: 0, amount: 36 }] } }],
    };
    expect(at(plan, '2024-06-30')).toBe(12);
    // Half of July at two a month, sixteen days of thirty-one at three.
    expect(at(plan, '2024-07-31')).toBe(Math.round((12 + (2 * 15) / 31 + (3 * 16) / 31) * 100) / 100);
    expect(at(plan, '2024-12-31')).toBe(Math.round((12 + (2 * 15) / 31 + (3 * 16) / 31 + 15) * 100) / 100);
  });

  test('carries over by what it says when the leave year turns', () => {
    const plan: LeavePlan = {
      ...rules,
      later: [{ from: day('2025-01-01'), rules: { ...rules, carryOver: { max: 10 } } }],
    };
    expect(at(rules, '2025-01-01')).toBe(5);
    expect(at(plan, '2025-01-01')).toBe(10);
    // What was carried on 1 January lapses as was said on that day.
    expect(at(plan, '2025-04-01')).toBe(16);
  });

  test('that says the same changes nothing, whenever it says so and on whichever day one looks', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 900 }),
        fc.integer({ min: 0, max: 1200 }),
        fc.constantFrom('yearly', 'monthly-in-advance', 'monthly-in-arrears' as const),
        fc.constantFrom('daily', 'monthly' as const),
        (from, asOf, accrual, proration) => {
          const own = { ...rules, accrual, proration } as PlanRules;
          const plan: LeavePlan = { ...own, later: [{ from: addDays(day('2024-01-01'), from), rules: own }] };
          const on = addDays(day('2024-01-01'), asOf);
          expect(at(plan, on)).toBe(at(own, on));
        },
      ),
      { numRuns: 200 },
    );
  });
});

describe('a plan that is earned by hours worked', () => {
  const plan: LeavePlan = { ...rules, accrual: 'hours-worked', perYear: [{ fromServiceYears: 0, amount: 10 }] };
  const course = alone(plan, person.joined);
  test('gives for each hundred hours, at the end of each leave month, and nothing for hours not worked', () => {
    // Eight hours on each day that is no Sunday.
    const worked = (first: number, last: number) => {
      let minutes = 0;
      for (let d = first; d <= last; d++) if ((d + 4) % 7 !== 0) minutes += 480;
      return minutes;
    };
    const until = toDay(day('2024-02-29'));
    const planned = planSchedule(course, person, until, worked);
    const lines = statement({ person, course, moved: [], planned }, day('2024-02-29')).lines;
    expect(lines.map(line => [line.date, line.amount])).toEqual([
      ['2024-01-31', 21.6],
      ['2024-02-29', 20],
    ]);
    expect(
      statement({ person, course, moved: [], planned: planSchedule(course, person, until) }, day('2024-02-29')).lines,
    ).toEqual([]);
  });

  test('gives nothing in long leave that earns nothing', () => {
    const idle = { ...person, idle: [{ from: day('2024-01-11'), to: day('2024-02-29') }] };
    const planned = planSchedule(course, idle, toDay(day('2024-02-29')), (first, last) => (last - first + 1) * 600);
    const { lines } = statement({ person: idle, course, moved: [], planned }, day('2024-02-29'));
    // Ten days at ten hours.
    expect(lines.map(line => line.amount)).toEqual([10]);
  });
});
