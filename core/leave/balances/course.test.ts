/** Plans that change and openings: nothing is granted twice, nothing is lost on the way but what lapses. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { addDays, type CivilDate, fromDay, toDay } from '../../time/index.ts';
import {
  alone,
  type Course,
  changes,
  courseOf,
  type LeavePlan,
  movedOf,
  type Opening,
  planSchedule,
  statement,
} from '../index.ts';

const day = (text: string) => text as CivilDate;
const person = { joined: day('2021-04-19'), left: null, fte: [{ from: day('2021-04-19'), value: 0.8 }] };
const anyPlan: fc.Arbitrary<LeavePlan> = fc.record({
  yearStart: fc.constantFrom('01-01', '09-01', '02-29', 'anniversary'),
  perYear: fc.constant<LeavePlan['perYear']>([
    { fromServiceYears: 0, amount: 25 },
    { fromServiceYears: 3, amount: 28.5 },
  ]),
  accrual: fc.constantFrom('yearly' as const, 'monthly-in-advance' as const, 'monthly-in-arrears' as const),
  proration: fc.constantFrom('daily' as const, 'monthly' as const),
  rounding: fc.constant<LeavePlan['rounding']>({ step: 0.25, mode: 'nearest' }),
  carryOver: fc.constantFrom(null, { max: 5, expires: '03-31' }, { max: 40, expires: '11-30' }),
});
const someDay = (from: string, days: number) => fc.integer({ min: 0, max: days }).map(n => addDays(day(from), n));
const movements = fc
  .array(fc.record({ at: fc.integer({ min: 0, max: 1500 }), amount: fc.integer({ min: 1, max: 6 }) }), { maxLength: 8 })
  .map(all =>
    all.map(({ at, amount }) => ({ date: addDays(person.joined, at), kind: 'taken' as const, amount: amount / 2 })),
  );
const at = (course: Course, moved: Parameters<typeof movedOf>[0][], asOf: CivilDate) =>
  statement({ person, course, moved: moved.map(movedOf) }, asOf);

const wholeYear: LeavePlan = {
  yearStart: '01-01',
  perYear: [{ fromServiceYears: 0, amount: 26 }],
  accrual: 'yearly',
  proration: 'daily',
  rounding: { step: 0.5, mode: 'nearest' },
  carryOver: { max: 5, expires: '03-31' },
};

describe('an opening', () => {
  test('that says what the statement said on that morning changes nothing after it', () => {
    fc.assert(
      fc.property(
        anyPlan,
        movements,
        someDay('2022-05-01', 900),
        someDay('2022-05-01', 1500),
        (plan, taken, on, asOf) => {
          const whole = alone(plan, person.joined);
          const turns = planSchedule(whole, person, toDay(on)).some(
            one => one.kind === 'year end' && one.on === toDay(on),
          );
          fc.pre(!turns && asOf >= on);
          const before = at(whole, taken, addDays(on, -1));
          const [lapsing] = before.expiring;
          const carried = lapsing && lapsing.on >= on ? lapsing.amount : 0;
          const opening: Opening = {
            on,
            own: before.balance - (lapsing?.amount ?? 0),
            carried,
            lapses: carried > 0 ? lapsing?.on : null,
          };
          const opened = { ...whole, opening };
          expect(at(opened, taken, asOf).balance).toBeCloseTo(at(whole, taken, asOf).balance, 6);
          expect(at(opened, taken, asOf).expiring).toEqual(at(whole, taken, asOf).expiring);
          expect(at(opened, taken, addDays(on, -1))).toEqual({ balance: 0, expiring: [], lines: [] });
        },
      ),
      { numRuns: 300 },
    );
  });

  test('is the first line, with its day by which what is carried must be taken; nothing invented lies before it', () => {
    const plan = wholeYear;
    const opening: Opening = { on: day('2026-01-12'), own: 24, carried: 3, lapses: day('2026-02-28') };
    const { lines, balance } = at({ ...alone(plan, person.joined), opening }, [], day('2026-03-01'));
    expect(lines.map(line => [line.date, line.kind, line.amount, line.balance, line.reason])).toEqual([
      [
        '2026-01-12',
        'opening',
        27,
        27,
        'opening balance: 24 of the leave year, 3 carried over, to use by Sat 28 February',
      ],
      ['2026-02-28', 'lapsed', -3, 24, 'carry-over not used in time'],
    ]);
    expect(balance).toBe(24);
    // Outside of the employment there is nothing to open.
    const input = { person, plans: [{ from: person.joined, plan: { ...plan, unit: 'days' as const } }] as const };
    for (const on of ['2021-04-18', '2030-01-01'])
      expect(
        changes({
          ...input,
          plans: [...input.plans],
          person: { ...person, left: day('2029-12-31') },
          opening: { ...opening, on: day(on) },
          movements: [],
          asOf: day('2026-02-02'),
        }),
      ).toHaveProperty('error');
  });

  test('counts a share that changes after it: the year of 26 days becomes one of 13 for the rest', () => {
    const plan = wholeYear;
    const half = { ...person, fte: [...person.fte, { from: day('2026-07-02'), value: 0.4 }] };
    const opening: Opening = { on: day('2026-03-01'), own: 10, carried: 0 };
    const { lines } = statement(
      { person: half, course: { ...alone(plan, person.joined), opening }, moved: [] },
      day('2026-12-31'),
    );
    // 183 of 365 days at half of 20.8, rounded to halves: 15.5 for 21.
    expect(lines.map(line => [line.date, line.kind, line.amount])).toEqual([
      ['2026-03-01', 'opening', 10],
      ['2026-03-01', 'accrued', -5.5],
    ]);
  });
});

describe('a break', () => {
  test('into another unit and back on the same day loses and gains nothing', () => {
    fc.assert(
      fc.property(
        anyPlan,
        movements,
        someDay('2022-05-01', 900),
        fc.integer({ min: 1, max: 30 }),
        (plan, taken, on, length) => {
          // The rest of a leave year is granted by days, and only that: nothing is rounded on the way.
          const fine: LeavePlan = {
            ...plan,
            accrual: 'monthly-in-arrears',
            rounding: { step: 1e-9, mode: 'nearest' },
            carryOver: null,
          };
          const none = { ...fine, perYear: [] };
          const back = addDays(on, length);
          const quiet = taken.filter(one => one.date < on || one.date >= back);
          const course = courseOf(
            [
              { from: person.joined, plan: none, unit: 'days' },
              { from: on, plan: none, unit: 'hours', per: 7.5 },
              { from: back, plan: none, unit: 'days', per: 0.125 * (8 / 7.5) },
            ],
            person,
          );
          const end = addDays(back, 1);
          const plain = at({ ...course, stretches: [course.stretches[0]] }, [], end).balance;
          expect(plain).toBe(0);
          // Nothing lapses where no leave year turns.
          const given = { date: addDays(on, -1), kind: 'adjustment' as const, amount: 12.5 };
          const whole = at(course, [given, ...quiet.filter(one => one.date >= on && one.date <= end)], end).balance;
          const spent = quiet
            .filter(one => one.date >= on && one.date <= end)
            .reduce((sum, one) => sum + one.amount, 0);
          const turned = planSchedule(course, person, toDay(end)).some(
            one => one.kind === 'year end' && one.on >= toDay(on) - 1,
          );
          fc.pre(!turned);
          expect(whole).toBeCloseTo(12.5 - spent, 6);
        },
      ),
      { numRuns: 200 },
    );
  });

  test('grants each day once: what two plans give in a year is what each gives for its days', () => {
    fc.assert(
      fc.property(
        anyPlan,
        someDay('2024-01-02', 360),
        fc.constantFrom('01-01', '09-01', '04-06'),
        (plan, on, start) => {
          const fine: LeavePlan = {
            ...plan,
            proration: 'daily',
            rounding: { step: 1e-9, mode: 'nearest' },
            carryOver: null,
          };
          const next = { ...fine, yearStart: start };
          const course = courseOf(
            [
              { from: person.joined, plan: fine, unit: 'days' },
              { from: on, plan: next, unit: 'hours' },
            ],
            person,
          );
          const given = (first: CivilDate, last: CivilDate) =>
            planSchedule(course, person, toDay(last))
              .filter(one => one.kind === 'accrual' && one.on >= toDay(first) && one.on <= toDay(last))
              .reduce(
                (sum, one) =>
                  sum + (one.kind === 'accrual' ? Number(one.grant.amount.top) / Number(one.grant.amount.bottom) : 0),
                0,
              );
          // At four fifths of 28½ at most, a whole number of years from any day on gives that and no more.
          expect(given(day('2024-01-01'), day('2025-12-31'))).toBeLessThanOrEqual(0.8 * 28.5 * 3 + 1e-6);
          const before = courseOf([{ from: person.joined, plan: fine, unit: 'days' }], {
            ...person,
            left: addDays(on, -1),
          });
          const untilThen = (one: Course, left: CivilDate | null) =>
            statement({ person: { ...person, left }, course: one, moved: [] }, addDays(on, -1)).balance;
          // Known beforehand like a last day.
          expect(untilThen(course, null)).toBeCloseTo(untilThen(before, addDays(on, -1)), 6);
        },
      ),
      { numRuns: 200 },
    );
  });

  test('a plan that would begin after the last day never does, and of several from one day the last holds', () => {
    const turn = (from: string, unit: 'days' | 'hours') => ({ from: day(from), plan: wholeYear, unit });
    const ofLeaver = courseOf([turn('2021-04-19', 'days'), turn('2026-07-01', 'hours')], {
      ...person,
      left: day('2026-06-30'),
    });
    expect(ofLeaver.stretches).toHaveLength(1);
    const twice = courseOf(
      [turn('2021-04-19', 'days'), turn('2026-07-01', 'hours'), turn('2026-07-01', 'days')],
      person,
    );
    expect(twice.stretches.map(one => [fromDay(one.first), one.unit])).toEqual([['2021-04-19', 'days']]);
  });
});
