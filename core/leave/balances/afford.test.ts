import { describe, expect, test } from '@jest/globals';
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
import { addDays, fromDay, toDay, type WorkPattern, workingTime } from '../../time/index.ts';
import {
  type AffordInput,
  afford,
  amountOf,
  balance,
  balanceAhead,
  countDays,
  countHalves,
  countTimed,
  inUnit,
  type LeaveEntry,
  type LeavePlan,
  type LeaveType,
  leaveNotes,
  movedOf,
  obstacles,
  obstacleWords,
  statement,
  statementOf,
} from '../index.ts';
import { alone } from './course.ts';
import { plus, toNumber, zero } from './fraction.ts';

const night = { pm: ['20:00', '32:00'] as [string, string], days: { pm: 1 } };
const boat = { am: ['06:00', '12:00'] as [string, string], pm: ['13:00', '19:00'] as [string, string] };
const anchor = date('2024-01-01');
const from = date('2020-01-01');
const shapes: WorkPattern[] = [
  { from, anchor, cycle: directory.patterns[0].cycle },
  { from, anchor, cycle: [...Array.from({ length: 4 }, () => night), {}, {}, {}] },
  { from, anchor, cycle: [...Array.from({ length: 14 }, () => boat), ...Array.from({ length: 14 }, () => ({}))] },
];
const crewPlan: LeavePlan = {
  yearStart: '01-01',
  perYear: [{ fromServiceYears: 0, amount: 260 }],
  accrual: 'monthly-in-arrears',
  proration: 'monthly',
  rounding: { step: 0.5, mode: 'nearest' },
  carryOver: { max: 96, expires: null },
};
const keeperPlan: LeavePlan = { ...standard.rules, yearStart: 'anniversary', carryOver: { max: 4, expires: null } };

const anyCase = fc
  .record({
    pattern: fc.constantFrom(...shapes),
    plan: fc.constantFrom(standard.rules, crewPlan, keeperPlan),
    start: fc.integer({ min: 0, max: 500 }),
    length: fc.integer({ min: 0, max: 45 }),
    early: fc.boolean(),
    overdraft: fc.constantFrom(0, 2),
    taken: fc.array(
      fc.record({ day: fc.integer({ min: 0, max: 900 }), amount: fc.integer({ min: 1, max: 12 }).map(n => n / 2) }),
      { maxLength: 6 },
    ),
  })
  .map(({ pattern, plan, start, length, early, overdraft, taken }): AffordInput => {
    const first = addDays(date('2025-02-01'), start);
    return {
      person: { joined: date('2021-06-15'), left: null, fte: [{ from, value: 1 }] },
      plan,
      movements: taken.map(({ day, amount }) => ({ date: addDays(date('2025-01-01'), day), kind: 'taken', amount })),
      patterns: [pattern],
      holidays: [{ date: date('2025-06-24'), part: 'day' }],
      unit: plan === crewPlan ? 'hours' : 'days',
      counting: 'scheduled',
      dayMinutes: 450,
      overdraft,
      ...halves(first, addDays(first, length), { to: early ? 'am' : 'pm' }),
    };
  });

const worked = (input: AffordInput) => {
  const found = afford(input);
  if ('error' in found) throw new Error(found.error);
  return found;
};
const timeOf = (input: AffordInput) => workingTime(input.patterns, input.holidays, { first: 0, last: -1 });
const daysTaken = (input: AffordInput) => inUnit(countDays(timeOf(input), input, input), () => input.unit);
const balanceOn = (input: AffordInput, moved: Parameters<typeof statement>[0]['moved'], day: number) =>
  statement({ person: input.person, course: alone(input.plan, input.person.joined), moved }, fromDay(day)).balance;

describe('may it be taken?', () => {
  test('what each day takes adds up to the amount', () => {
    fc.assert(
      fc.property(anyCase, input => {
        const sum = daysTaken(input).reduce((all, day) => plus(all, day.amount), zero);
        expect(worked(input).amount).toBeCloseTo(toNumber(sum), 4);
        const counted = countHalves(timeOf(input), input, input);
        if (input.unit === 'days') expect(counted).toMatchObject({ days: toNumber(sum) });
      }),
    );
  });

  test('a span taken whole or in pieces leaves the same balance on every day', () => {
    fc.assert(
      fc.property(anyCase, fc.integer({ min: 0, max: 44 }), (input, cutAt) => {
        const [first, last] = [toDay(input.from.date), toDay(input.to.date)];
        if (first === last) return;
        const cut = Math.min(last - 1, first + cutAt);
        const pieces = [
          { from: input.from, to: { date: fromDay(cut), half: 'pm' as const } },
          { from: { date: fromDay(cut + 1), half: 'am' as const }, to: input.to },
        ];
        const moved = (spans: Pick<AffordInput, 'from' | 'to'>[]) => [
          ...input.movements.map(movedOf),
          ...spans.flatMap(span => daysTaken({ ...input, ...span }).map(day => ({ ...day, kind: 'taken' as const }))),
        ];
        for (let day = first - 1; day <= last + 40; day += 7)
          expect(balanceOn(input, moved(pieces), day)).toBe(balanceOn(input, moved([input]), day));
      }),
      { numRuns: 60 },
    );
  });

  test('what fits is free as a whole, what does not fit is freer by no more days', () => {
    fc.assert(
      fc.property(anyCase, input => {
        const whole = worked(input);
        if (whole.fits) expect(whole.free).toBe(whole.amount);
        else expect(whole.free).toBeLessThan(whole.amount);
        const longer = worked({ ...input, to: { date: addDays(input.to.date, 3), half: 'pm' } });
        // Judged over a window that may reach one leave year further.
        expect(longer.free <= whole.free || whole.fits).toBe(true);
      }),
    );
  });

  test('each day of the window agrees with the balance worked out for that day alone', () => {
    fc.assert(
      fc.property(anyCase, input => {
        const moved = [
          ...input.movements.map(movedOf),
          ...daysTaken(input).map(day => ({ ...day, kind: 'taken' as const })),
        ];
        const { lowest, after } = worked(input);
        expect(balanceOn(input, moved, toDay(lowest.on))).toBeCloseTo(lowest.balance, 4);
        expect(balanceOn(input, moved, toDay(input.to.date))).toBeCloseTo(after, 4);
        for (let day = toDay(input.from.date); day < toDay(input.from.date) + 370; day += 13)
          expect(balanceOn(input, moved, day)).toBeGreaterThan(lowest.balance - 1e-3);
      }),
      { numRuns: 60 },
    );
  });
});

const ina = person('ina');
const crew = { ...standard, id: 'crew', name: 'Crew', unit: 'hours' as const, rules: crewPlan };
const keeper = { ...standard, id: 'keeper', rules: keeperPlan };
const type = (change: Partial<LeaveType> = {}): LeaveType => ({
  ...annual,
  times: true,
  portion: 0.25,
  ...change,
});

/** Ina, working by a pattern and on a plan of her own. */
function bookWith(pattern: WorkPattern, plan: typeof standard, entries: LeaveEntry[] = [], types = [type()]) {
  const index = withDirectory({
    patterns: [...directory.patterns, { id: 'own', name: 'Own', anchor: pattern.anchor, cycle: pattern.cycle }],
    people: directory.people.map(p =>
      p.id === 'ina' ? { ...p, records: [{ ...p.records[0], pattern: 'own', plan: plan.id }] } : p,
    ),
  });
  return bookOf(entries, { index, types, plans: [plan] });
}
const [, nights, boats] = shapes;
const timed = (first: string, a: string, last: string, b: string) => ({
  from: { date: date(first), time: a },
  to: { date: date(last), time: b },
});

describe('people who do not work nine to five', () => {
  test('seven boat days on a plan in hours are 7 days, and 84 hours are charged', () => {
    // 29 December 2025 begins fourteen days on.
    const span = halves('2026-01-26', '2026-02-01');
    expect(amountOf(bookWith(boats, crew), ina, type(), span)).toEqual({
      amount: 84,
      unit: 'hours',
      days: 7,
      minutes: 84 * 60,
    });
  });

  test('a night counts a day, by halves and by its times, and over midnight it is one shift', () => {
    const book = bookWith(nights, keeper);
    const byHalves = halves('2026-02-02', '2026-02-02');
    const byTimes = timed('2026-02-02', '20:00', '2026-02-03', '08:00');
    expect(amountOf(book, ina, type(), byHalves)).toMatchObject({ days: 1, minutes: 720 });
    expect(amountOf(book, ina, type(), byTimes)).toMatchObject({ days: 1, minutes: 720 });
    expect(amountOf(book, ina, type(), timed('2026-02-03', '02:00', '2026-02-03', '05:00'))).toMatchObject({
      days: 0.25,
      minutes: 180,
    });
    const taken = bookWith(nights, keeper, [entry({ request: 'R-2', span: byHalves })]);
    const inside = timed('2026-02-03', '02:00', '2026-02-03', '05:00');
    expect(obstacles(taken, ina, 'annual', inside, { how: 'by HR' }).map(o => o.code)).toEqual(['overlaps']);
    // The next night is another shift.
    expect(obstacles(taken, ina, 'annual', timed('2026-02-03', '20:00', '2026-02-03', '22:00')).length).toBe(0);
  });

  test('days of a timed span go up to whole portions and still add up', () => {
    const time = workingTime([nights], [], { first: 0, last: -1 });
    const span = timed('2026-02-02', '21:00', '2026-02-05', '03:00');
    const whole = countTimed(time, span, 0.25);
    if ('error' in whole) throw new Error(whole.error);
    const each = countDays(time, type(), span);
    expect(toNumber(each.reduce((sum, day) => plus(sum, day.days), zero))).toBe(whole.days);
    expect(each.reduce((sum, day) => sum + day.minutes, 0)).toBe(whole.minutes);
  });

  test('leave over a month’s end is paid from what is earned on the last of the month', () => {
    // 96 hours were carried over; nine boat days take 108, the last of them after January's hours have come.
    const book = bookWith(boats, crew);
    expect(statementOf(book, ina, type(), date('2026-01-26'))?.balance).toBe(96);
    const ahead = balanceAhead(book, ina, type(), halves('2026-01-26', '2026-02-03'));
    expect(ahead).toMatchObject({ amount: 108, free: 108, fits: true });
    // All of them before the month's end would be more than there is.
    const shifted = balanceAhead(
      bookWith({ ...boats, anchor: date('2024-01-23') }, crew),
      ina,
      type(),
      halves('2026-01-20', '2026-01-28'),
    );
    expect(shifted).toMatchObject({ amount: 108, free: 96, fits: false });
  });
});

describe('what may be asked for', () => {
  const annual = type({ times: false });
  const sick = type({ id: 'sick', name: 'Sick leave', takesFrom: 'nothing', daysBack: 14, insideLeave: 'gives back' });
  const types = [annual, sick];
  const office = (entries: LeaveEntry[] = []) => bookOf(entries, { types });

  test('days that have passed only as far back as the type says, and the words say whom to turn to', () => {
    const [late] = obstacles(office(), ina, 'annual', halves('2026-01-29', '2026-01-30'));
    expect(late).toMatchObject({ code: 'too far back' });
    expect(obstacleWords(late, office())).toContain('HR operations');
    expect(obstacles(office(), ina, 'sick', halves('2026-01-29', '2026-01-30'))).toEqual([]);
    expect(obstacleWords(obstacles(office(), ina, 'sick', halves('2026-01-05', '2026-01-06'))[0], office())).toContain(
      '14 days',
    );
    // HR may, and what was asked for in time is booked although its day has come meanwhile.
    for (const how of ['by HR', 'asked before'] as const)
      expect(obstacles(office(), ina, 'annual', halves('2026-01-29', '2026-01-30'), { how })).toEqual([]);
    // Leave under way may be cut short: its first day stays.
    const before = halves('2026-01-29', '2026-02-06');
    expect(obstacles(office(), ina, 'annual', halves('2026-01-29', '2026-02-03'), { before })).toEqual([]);
  });

  test('no further ahead than the type says: sickness to come gives no booked days back', () => {
    const told = bookOf([], { types: [annual, { ...sick, daysAhead: 0 }] });
    const asks = (from: string, to: string, how: object = {}) => obstacles(told, ina, 'sick', halves(from, to), how);
    // Today is Monday 2 February; a note until Friday is told today.
    expect(asks('2026-02-02', '2026-02-06')).toEqual([]);
    const [early] = asks('2026-03-09', '2026-03-13');
    expect(early).toEqual({ code: 'too far ahead', type: 'sick', ahead: 0 });
    expect(obstacleWords(early!, told)).toBe(
      'Sick leave is reported when it starts, not in advance. Ask on its first day.',
    );
    expect(asks('2026-03-09', '2026-03-13', { how: 'by HR' })).toEqual([]);
    expect(asks('2026-03-09', '2026-03-12', { before: halves('2026-03-09', '2026-03-13') })).toEqual([]);
    const month = bookOf([], { types: [{ ...annual, daysAhead: 30 }] });
    expect(obstacles(month, ina, 'annual', halves('2026-03-04', '2026-03-05'))).toEqual([]);
    expect(obstacleWords(obstacles(month, ina, 'annual', halves('2026-03-05', '2026-03-05'))[0]!, month)).toContain(
      'up to 30 days in advance',
    );
  });

  test('no span is longer than two years, or than its type says', () => {
    const long = halves('2026-03-02', '2036-03-01');
    expect(obstacles(office(), ina, 'annual', long)).toMatchObject([{ code: 'too long' }]);
    expect(obstacleWords(obstacles(office(), ina, 'annual', long)[0], office())).toContain('Two years');
    const short = bookOf([], { types: [{ ...annual, longest: 20 }] });
    expect(obstacleWords(obstacles(short, ina, 'annual', halves('2026-03-02', '2026-03-31'))[0], short)).toContain(
      '20 days',
    );
  });

  test('times only where the type is asked for by times', () => {
    const [none] = obstacles(office(), ina, 'annual', timed('2026-02-09', '09:00', '2026-02-09', '11:00'));
    expect(none.code).toBe('no times');
  });

  test('sickness inside booked leave gives its days back, and the statement says so', () => {
    const leave = entry({ request: 'R-7', span: halves('2026-03-09', '2026-03-13') });
    const ill = entry({ request: 'R-8', type: 'sick', span: halves('2026-03-11', '2026-03-12') });
    expect(obstacles(office([leave]), ina, 'sick', ill.span)).toEqual([]);
    const lines = statementOf(office([leave, ill]), ina, annual, date('2026-03-31'))?.lines ?? [];
    const taken = lines.filter(line => line.kind === 'taken');
    expect(taken.map(line => [line.date, line.until, line.amount])).toEqual([['2026-03-09', '2026-03-13', -3]]);
    expect(taken.at(-1)?.days?.map(day => day.date)).toEqual(['2026-03-09', '2026-03-10', '2026-03-13']);
    expect(lines.some(line => line.reason.includes('given back by R-8'))).toBe(true);
    const plain = bookOf([leave], { types: [annual, { ...sick, insideLeave: 'refused' }] });
    expect(obstacles(plain, ina, 'sick', ill.span)[0].code).toBe('overlaps');
  });

  test('a span past the last year of a calendar of single days says so', () => {
    expect(leaveNotes(office(), ina, halves('2027-01-04', '2027-01-08'))[0]).toContain('until the end of 2026');
    expect(leaveNotes(office(), ina, halves('2026-12-01', '2026-12-04'))).toEqual([]);
  });

  test('the number told over a year’s end is what is free then', () => {
    const ahead = balanceAhead(office(), ina, annual, halves('2026-11-02', '2027-03-31'));
    expect(ahead?.fits).toBe(false);
    const first = ahead?.free ?? 0;
    const plan = {
      person: { joined: date('2020-01-01'), left: null, fte: [{ from, value: 1 }] },
      plan: standard.rules,
    };
    expect(first).toBeLessThan(60);
    expect(balance({ ...plan, movements: [], asOf: date('2026-12-31') }).balance).toBe(26);
    const [said] = obstacles(office(), ina, 'annual', halves('2026-11-02', '2027-03-31'));
    expect(obstacleWords(said, office())).toContain(
      `only the first ${String(first).replace('.5', '½')} of them are free`,
    );
  });
});
