/** What leave types ask to be kept to: each limit at its edge, for people who work unlike. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  annual,
  bookOf,
  date,
  directory,
  entry,
  halves,
  index,
  person,
  sick,
  withDirectory,
} from '../../testing/house.ts';
import { addDays, type CivilDate, toDay } from '../../time/index.ts';
import {
  balanceTypeOf,
  evidenceDue,
  type LeastPresence,
  type LeaveBook,
  type LeaveSpan,
  type LeaveType,
  Limit,
  limitSentence,
  limitsMet,
  metWords,
  neverMet,
  obstacles,
  planSentences,
  presenceSentence,
  spanEffect,
  statementOf,
  tooFewIn,
  typeOn,
  typeSentences,
} from '../index.ts';

const ina = person('ina');
const withLimits = (...limits: Limit[]): LeaveType => ({ ...annual, limits });
/** What is met by a span, in words; today is Monday 2 February 2026. */
const met = (type: LeaveType, from: string, to: string, change: Partial<LeaveBook> = {}) =>
  limitsMet(bookOf([], { types: [type, sick], ...change }), ina, type, halves(from, to)).map(({ met }) =>
    metWords(met, date('2026-02-02')),
  );

describe('a limit', () => {
  test('of notice holds by length, and one sentence is said of the longest that applies', () => {
    const type = withLimits(
      { rule: 'notice', over: 0, days: 3, how: 'stops' },
      { rule: 'notice', over: 5, days: 14, how: 'stops' },
    );
    expect(met(type, '2026-02-05', '2026-02-05')).toEqual([]);
    expect(met(type, '2026-02-04', '2026-02-04')).toEqual(['It is asked for 3 days before; this is 2 days before.']);
    expect(met(type, '2026-02-02', '2026-02-02')).toEqual(['It is asked for 3 days before; this is for today.']);
    expect(met(type, '2026-02-09', '2026-02-14')).toEqual([
      'More than 5 days are asked for 14 days before; this is 7 days before.',
    ]);
    expect(met(type, '2026-02-16', '2026-02-21')).toEqual([]);
    // How far back is another rule.
    expect(met(type, '2026-01-20', '2026-01-20')).toEqual([]);
  });

  test('of closed days has two ends of one kind, the later one last', () => {
    const closed = (from: string, to: string) =>
      Limit.safeParse({ rule: 'closed', name: 'Herring Fair', from, to, how: 'stops' }).success;
    expect([closed('08-24', '08-28'), closed('12-20', '01-06'), closed('2026-08-24', '2026-08-28')]).toEqual([
      true,
      true,
      true,
    ]);
    expect([closed('2026-08-28', '2026-08-24'), closed('08-24', '2026-08-28'), closed('2026-08-24', '08-28')]).toEqual([
      false,
      false,
      false,
    ]);
  });

  test('of notice that only warns does not take the place of a shorter one that stops', () => {
    const both = withLimits(
      { rule: 'notice', over: 0, days: 10, how: 'stops' },
      { rule: 'notice', over: 5, days: 30, how: 'warns' },
    );
    const hows = (from: string, to: string) =>
      limitsMet(bookOf([], { types: [both, sick] }), ina, both, halves(from, to)).map(one => one.how);
    expect(hows('2026-02-09', '2026-02-18')).toEqual(['stops', 'warns']);
    expect(hows('2026-02-16', '2026-02-25')).toEqual(['warns']);
    // A stronger one of longer leave says it all.
    const stronger = withLimits(
      { rule: 'notice', over: 0, days: 10, how: 'warns' },
      { rule: 'notice', over: 5, days: 30, how: 'stops' },
    );
    expect(met(stronger, '2026-02-09', '2026-02-18')).toHaveLength(1);
  });

  test('of the most a year counts the second of two years with what is booked in it', () => {
    const type = withLimits({ rule: 'most a year', days: 3, how: 'stops' });
    const later = [entry({ span: halves('2027-03-01', '2027-03-02') })];
    expect(met(type, '2026-12-31', '2027-01-05', { entries: later })).toEqual([
      'At most 3 days may be taken in a year; with this it would be 5 in 2027.',
    ]);
  });

  test('of the longest run leaves out the leave that is being changed, and counts other leave of one’s own', () => {
    const type = withLimits({ rule: 'longest run', days: 5, how: 'stops' });
    const own = [entry({ request: 'R-7', span: halves('2026-05-04', '2026-05-08') })];
    const book = bookOf(own, { types: [type, sick] });
    expect(limitsMet(book, ina, type, halves('2026-05-04', '2026-05-08'), 'R-7')).toEqual([]);
    expect(limitsMet(book, ina, type, halves('2026-05-11', '2026-05-11'))).toHaveLength(1);
    // A colleague's leave beside it is nobody's run.
    const others = bookOf([entry({ person: person('per'), span: halves('2026-05-04', '2026-05-08') })], {
      types: [type, sick],
    });
    expect(limitsMet(others, ina, type, halves('2026-05-11', '2026-05-11'))).toEqual([]);
  });

  test('of the most for an event counts what is asked for in pieces as one, and another event by itself', () => {
    const type = withLimits({ rule: 'most an event', days: 2, how: 'stops' });
    expect(met(type, '2026-03-02', '2026-03-03')).toEqual([]);
    expect(met(type, '2026-03-02', '2026-03-04')).toEqual(['At most 2 days may be taken for one event; this is 3.']);
    // Friday is booked, and Monday and Tuesday are asked for: nobody works between.
    const friday = { entries: [entry({ request: 'R-9', span: halves('2026-02-27', '2026-02-27') })] };
    expect(met(type, '2026-03-02', '2026-03-03', friday)).toEqual([
      'At most 2 days may be taken for one event; this is 3.',
    ]);
    const earlier = { entries: [entry({ request: 'R-9', span: halves('2026-02-26', '2026-02-26') })] };
    expect(met(type, '2026-03-02', '2026-03-03', earlier)).toEqual([]);
    expect(limitSentence({ rule: 'most an event', days: 2, how: 'stops' })).toBe(
      'At most 2 days are taken for one event; it cannot be asked for otherwise.',
    );
  });

  test('of the most in the whole employment counts everything that was ever taken', () => {
    const type = withLimits({ rule: 'most ever', days: 3, how: 'asks why' });
    const before = { entries: [entry({ request: 'R-9', span: halves('2022-03-07', '2022-03-08') })] };
    expect(met(type, '2026-03-02', '2026-03-02', before)).toEqual([]);
    expect(met(type, '2026-03-02', '2026-03-03', before)).toEqual([
      'At most 3 days may be taken in the whole employment; with this it would be 4.',
    ]);
  });

  test('of the most a year counts each year by itself, over its turn too', () => {
    const type = withLimits({ rule: 'most a year', days: 3, how: 'stops' });
    const taken = [entry({ span: halves('2026-05-04', '2026-05-05') })];
    expect(met(type, '2026-06-01', '2026-06-01', { entries: taken })).toEqual([]);
    expect(met(type, '2026-06-01', '2026-06-02', { entries: taken })).toEqual([
      'At most 3 days may be taken in a year; with this it would be 4 in 2026.',
    ]);
    expect(met(type, '2026-12-30', '2027-01-05', { entries: taken })).toEqual([
      'At most 3 days may be taken in a year; with this it would be 4 in 2026.',
    ]);
    // Another kind is no part of it.
    expect(met(type, '2026-06-01', '2026-06-02', { entries: [entry({ type: 'sick', span: taken[0]!.span })] })).toEqual(
      [],
    );
  });

  test('of the longest run counts what is booked before and after it without a working day between', () => {
    const type = withLimits({ rule: 'longest run', days: 14, how: 'asks why' });
    const before = [entry({ span: halves('2026-05-04', '2026-05-08') })];
    expect(met(type, '2026-05-11', '2026-05-17')).toEqual([]);
    expect(met(type, '2026-05-11', '2026-05-17', { entries: before })).toEqual([]);
    expect(met(type, '2026-05-11', '2026-05-18', { entries: before })).toEqual([
      'At most 14 days may be taken in one run; this would be 15, with the leave before and after it.',
    ]);
    expect(met(type, '2026-05-12', '2026-05-18', { entries: before })).toEqual([]);
  });

  test('of the longest run counts an hour as an hour, and ends at a day that is worked for a part', () => {
    const type = withLimits({ rule: 'longest run', days: 5, how: 'stops' });
    const book = bookOf([entry({ span: halves('2026-05-04', '2026-05-08') })], { types: [type, sick] });
    const timed = (from: string, at: string, to: string, until: string): LeaveSpan => ({
      from: { date: date(from), time: at },
      to: { date: date(to), time: until },
    });
    const days = (span: LeaveSpan) => limitsMet(book, ina, type, span).map(({ met }) => 'days' in met && met.days);
    // An hour on the Monday after a week off; the whole of that Monday; a day of its own.
    expect(days(timed('2026-05-11', '09:00', '2026-05-11', '10:00'))).toEqual([]);
    expect(days(timed('2026-05-11', '00:00', '2026-05-11', '23:59'))).toEqual([8]);
    expect(days(timed('2026-05-13', '09:00', '2026-05-13', '10:00'))).toEqual([]);
    // From Monday at the beginning until an hour into the Monday after: with the week before, and that hour.
    const [long] = days(timed('2026-05-11', '00:00', '2026-05-18', '10:00'));
    expect(long).toBeGreaterThan(14);
    expect(long).toBeLessThan(14.5);
    // One that begins within a day joins nothing before it.
    expect(days(timed('2026-05-11', '12:00', '2026-05-15', '23:59'))).toEqual([]);
  });

  test('of waiting ends with the months after joining', () => {
    const type = withLimits({ rule: 'waiting', months: 6, how: 'stops' });
    const own = withDirectory({
      people: index.directory.people.map(one => (one.id === ina ? { ...one, joined: date('2025-08-31') } : one)),
    });
    expect(met(type, '2026-02-27', '2026-02-27', { index: own })).toEqual([
      'It may be taken from Sat 28 February on, 6 months after joining.',
    ]);
    expect(met(type, '2026-02-28', '2026-03-02', { index: own })).toEqual([]);
  });

  test('of a closed time holds each year, over the turn of a year, or once', () => {
    const yearly = withLimits({ rule: 'closed', name: 'The ice watch', from: '12-20', to: '01-10', how: 'stops' });
    for (const [from, to] of [
      ['2026-12-18', '2026-12-20'],
      ['2027-01-10', '2027-01-12'],
      ['2026-11-01', '2027-03-01'],
    ] as const)
      expect(met(yearly, from, to)[0]).toMatch(/^The ice watch is closed to leave, from .* to .*\.$/);
    expect(met(yearly, '2027-01-11', '2027-01-12')).toEqual([]);
    const once = withLimits({
      rule: 'closed',
      name: 'The move',
      from: date('2026-03-02'),
      to: date('2026-03-02'),
      how: 'warns',
    });
    expect(met(once, '2026-03-01', '2026-03-05')).toEqual(['The move is closed to leave, Mon 2 March.']);
    expect(met(once, '2027-03-01', '2027-03-05')).toEqual([]);
  });

  test('is let pass by HR in the days that were said, and in no others', () => {
    const type = withLimits({ rule: 'notice', over: 0, days: 30, how: 'stops' });
    const pass = { id: 1, person: ina, type: 'annual', by: person('dora'), reason: 'A wedding.' };
    const passes = [{ ...pass, from: date('2026-02-09'), to: date('2026-02-13') }];
    const of = (from: string, to: string, who = ina) =>
      limitsMet(bookOf([], { types: [type], passes }), who, type, halves(from, to)).map(
        one => one.pass?.reason ?? null,
      );
    expect(of('2026-02-09', '2026-02-13')).toEqual(['A wedding.']);
    expect(of('2026-02-09', '2026-02-16')).toEqual([null]);
    expect(of('2026-02-09', '2026-02-13', person('per'))).toEqual([null]);
  });

  test('of a paper says from when it is due', () => {
    const type: LeaveType = { ...sick, limits: [{ rule: 'evidence', after: 3 }] };
    expect(evidenceDue(type, halves('2026-02-02', '2026-02-04'))).toBeNull();
    expect(evidenceDue(type, halves('2026-02-02', '2026-02-05'))).toEqual({ after: 3, on: '2026-02-05' });
    // From the first day for somebody of whom that is said, in these days and of this type.
    const named = (of: string, from: string, to: string | null) => ({
      circumstances: [
        { id: '1', holds: { is: 'paper at once' as const, type: of, from: date(from), to: to ? date(to) : null } },
      ],
    });
    const short = halves('2026-02-02', '2026-02-02');
    const atOnce = { after: 0, on: '2026-02-02' };
    expect(evidenceDue(type, short, named('sick', '2026-01-01', null))).toEqual(atOnce);
    expect(evidenceDue(type, short, named('sick', '2026-02-02', '2026-02-02'))).toEqual(atOnce);
    expect(evidenceDue(type, short, named('sick', '2026-02-03', null))).toBeNull();
    expect(evidenceDue(type, short, named('sick', '2026-01-01', '2026-02-01'))).toBeNull();
    expect(evidenceDue(type, short, named('annual', '2026-01-01', null))).toBeNull();
  });
});

const watch: LeastPresence = {
  id: 'watch',
  name: 'the observatory',
  place: 'ovay',
  department: null,
  people: 7,
  weekdays: [],
  from: null,
  to: null,
};

describe('least presence', () => {
  // Eight work at Ovay today; Olda has left.
  const type = withLimits({ rule: 'presence', how: 'stops' });
  const away = (...who: string[]) =>
    who.map((id, n) => entry({ person: person(id), request: `R-${n + 10}`, span: halves('2026-02-10', '2026-02-10') }));

  test('is met on the first day on which fewer would be here than are needed', () => {
    expect(met(type, '2026-02-09', '2026-02-11', { presence: [watch] })).toEqual([]);
    expect(met(type, '2026-02-09', '2026-02-11', { presence: [watch], entries: away('per') })).toEqual([
      'This leaves 6 of the observatory, and 7 are needed on Tue 10 February.',
    ]);
    expect(met(type, '2026-02-09', '2026-02-13', { presence: [{ ...watch, people: 8 }] })).toEqual([
      'This leaves 7 of the observatory, and 8 are needed on Mon 9 February, and on 4 more days too few.',
    ]);
  });

  test('counts what is asked for as well as what is booked, and halves by themselves', () => {
    const held = away('per').map(one => ({ ...one, state: 'held' as const }));
    expect(met(type, '2026-02-10', '2026-02-10', { presence: [watch], entries: held })).toHaveLength(1);
    const morning = [
      entry({ person: person('per'), request: 'R-9', span: halves('2026-02-10', '2026-02-10', { to: 'am' }) }),
    ];
    const book = bookOf(morning, { types: [type], presence: [watch] });
    const asks = (from: 'am' | 'pm') =>
      tooFewIn(book, index.person(ina)!, halves('2026-02-10', '2026-02-10', { from, to: from })).length;
    expect([asks('am'), asks('pm')]).toEqual([1, 0]);
  });

  test('is asked for on its weekdays and days alone, and of those whom it is about', () => {
    const entries = away('per');
    const not = (change: Partial<LeastPresence>) =>
      met(type, '2026-02-10', '2026-02-10', { presence: [{ ...watch, ...change }], entries });
    expect(not({ weekdays: [1, 3] })).toEqual([]);
    expect(not({ weekdays: [2] })).toHaveLength(1);
    expect(not({ from: date('2026-02-11') })).toEqual([]);
    expect(not({ to: date('2026-02-09') })).toEqual([]);
    expect(not({ place: 'skarn' })).toEqual([]);
    // A day on which nothing is scheduled takes nobody away.
    expect(met(type, '2026-02-14', '2026-02-15', { presence: [{ ...watch, people: 8 }] })).toEqual([]);
  });
});

test('what a rota never meets is named, though nobody is away', () => {
  // From Monday 9 to Sunday 15 February; all eight work from Monday to Friday.
  const days = { first: toDay(date('2026-02-09')), last: toDay(date('2026-02-15')) };
  const never = (change: Partial<LeastPresence>) => neverMet(index, { ...watch, ...change }, days);
  // On weekends nobody works, so nobody can be needed.
  expect(never({ weekdays: [], people: 8 })).toEqual(['2026-02-14', '2026-02-15']);
  expect(never({ weekdays: [1, 2, 3, 4, 5], people: 8 })).toEqual([]);
  expect(never({ weekdays: [2, 3], people: 9 })).toEqual(['2026-02-10', '2026-02-11']);
  // The afternoon of the 13th is off at Ovay: the morning is met.
  expect(never({ weekdays: [5], people: 8 })).toEqual([]);
  // Whoever is at work on three days is not counted on the others.
  const part = withDirectory({
    patterns: [
      ...directory.patterns,
      { id: 'three', name: 'Three', anchor: date('2026-02-09'), cycle: [...three, ...three, ...three, {}, {}, {}, {}] },
    ],
    people: directory.people.map(one =>
      one.id === 'ina' ? { ...one, records: one.records.map(record => ({ ...record, pattern: 'three' })) } : one,
    ),
  });
  expect(neverMet(part, { ...watch, weekdays: [3, 4], people: 8 }, days)).toEqual(['2026-02-12']);
});
const three = [{ am: ['08:30', '12:30'] as [string, string], pm: ['13:15', '17:00'] as [string, string] }];

describe('least presence of a group that changes', () => {
  const days = fc.integer({ min: -3, max: 14 });
  test('refuses a span exactly when it refuses one of its days, and names the same days', () => {
    fc.assert(
      fc.property(
        days,
        days,
        days,
        fc.integer({ min: 0, max: 10 }),
        fc.integer({ min: 5, max: 9 }),
        (left, joined, moves, length, people) => {
          const at = (n: number) => addDays(date('2026-02-09'), n);
          const changed = directory.people.map(one => {
            if (one.id === 'per') return { ...one, left: at(left) };
            if (one.id === 'tom') return { ...one, joined: at(joined) };
            if (one.id === 'dora')
              return { ...one, records: [...one.records, { ...one.records.at(-1)!, from: at(moves), place: 'skarn' }] };
            return one;
          });
          const own = withDirectory({ people: changed });
          const book = bookOf([], { types: [annual], presence: [{ ...watch, people }], index: own });
          const self = own.person(ina)!;
          const span = (from: CivilDate, to: CivilDate) => tooFewIn(book, self, halves(from, to));
          const each = Array.from({ length: length + 1 }, (_, n) => span(at(n), at(n))).flat();
          expect(span(at(0), at(length))).toEqual(each);
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe('a type or a plan through time', () => {
  test('is what it says on the first day of the leave', () => {
    const type: LeaveType = {
      ...annual,
      later: [
        { from: date('2027-01-01'), rules: { ...annual, counting: 'calendar' } },
        { from: date('2026-07-01'), rules: { ...annual, overdraft: 3 } },
      ],
    };
    expect(
      [date('2026-06-30'), date('2026-07-01'), date('2027-01-01')].map(day => typeOn(type, day).overdraft),
    ).toEqual([0, 3, 0]);
    const taken = (from: string, to: string) =>
      spanEffect(bookOf([], { types: [type] }), ina, type, halves(from, to))?.amount;
    expect(taken('2026-05-08', '2026-05-11')).toBe(2);
    expect(taken('2027-05-07', '2027-05-10')).toBe(4);
  });

  test('is asked for by what it says on the first day: how long, with times, how far back, inside other leave', () => {
    const type: LeaveType = {
      ...annual,
      ...{ longest: 3, daysBack: 400, times: true, insideLeave: 'gives back' },
      later: [
        {
          from: date('2026-02-02'),
          rules: { ...annual, longest: 5, insideLeave: 'refused', counting: 'calendar' },
        },
      ],
    };
    const book = bookOf([entry({ type: 'sick', span: halves('2026-01-19', '2026-01-20') })], { types: [type, sick] });
    const codes = (span: LeaveSpan) => obstacles(book, ina, 'annual', span).map(({ code }) => code);
    expect(codes(halves('2026-01-13', '2026-01-16'))).toEqual(['too long']);
    expect(codes(halves('2026-02-10', '2026-02-13'))).toEqual([]);
    const timed = (day: string): LeaveSpan => ({
      from: { date: date(day), time: '09:00' },
      to: { date: date(day), time: '11:00' },
    });
    expect(codes(timed('2026-01-14'))).toEqual([]);
    expect(codes(timed('2026-02-10'))).toEqual(['no times']);
    expect(codes(halves('2026-01-20', '2026-01-21'))).toEqual([]);
    const after = bookOf([entry({ type: 'sick', span: halves('2026-02-10', '2026-02-10') })], { types: [type, sick] });
    expect(obstacles(after, ina, 'annual', halves('2026-02-10', '2026-02-11')).map(({ code }) => code)).toEqual([
      'overlaps',
    ]);
    // A Saturday counts where days are those of the calendar.
    expect(codes(halves('2026-01-10', '2026-01-10'))).toEqual(['no working time']);
    expect(codes(halves('2026-02-14', '2026-02-14'))).toEqual([]);
  });

  test('may take from the balance of another type, and of that alone', () => {
    const other: LeaveType = { ...annual, id: 'bridge', name: 'Bridge day', takesFrom: 'other', balanceOf: 'annual' };
    const book = bookOf([entry({ type: 'bridge' })], { types: [annual, other] });
    expect(balanceTypeOf(book, other, date('2026-05-04'))?.id).toBe('annual');
    expect(statementOf(book, ina, annual, date('2026-12-31'))?.lines.some(line => line.request === 'R-1')).toBe(true);
    expect(statementOf(book, ina, other, date('2026-12-31'))).toBeUndefined();
    expect(spanEffect(book, ina, other, halves('2026-06-01', '2026-06-02'))?.after).toBe(
      spanEffect(book, ina, annual, halves('2026-06-01', '2026-06-02'))?.after,
    );
  });

  test('that stops what is earned in long leave gives less, day by day', () => {
    const unpaid: LeaveType = { ...sick, id: 'unpaid', name: 'Unpaid', earnsUntil: 30 };
    const whole = statementOf(bookOf(), ina, annual, date('2026-12-31'))!.balance;
    const long = entry({ type: 'unpaid', span: halves('2026-03-01', '2026-04-30') });
    const book = bookOf([long], { types: [annual, unpaid] });
    const less = statementOf(book, ina, annual, date('2026-12-31'))!.balance;
    // From 31 March on, one day of March and the whole of April earn nothing: 26 less 2.24, to the nearest half.
    expect(whole - less).toBe(2);
    expect(
      statementOf(bookOf([{ ...long, state: 'held' }], { types: [annual, unpaid] }), ina, annual, date('2026-12-31'))!
        .balance,
    ).toBe(whole);
  });
});

describe('long leave in pieces', () => {
  const unpaid: LeaveType = { ...sick, id: 'unpaid', name: 'Unpaid', earnsUntil: 30 };
  const balanceOf = (...spans: ReturnType<typeof halves>[]) => {
    const entries = spans.map((span, n) => entry({ request: `R-${n}`, type: 'unpaid', span }));
    return statementOf(bookOf(entries, { types: [annual, unpaid] }), ina, annual, date('2026-12-31'))!.balance;
  };

  test('earns as one: three months in pieces of a month, with only a weekend between', () => {
    const whole = balanceOf(halves('2026-03-02', '2026-05-31'));
    expect(balanceOf()).toBeGreaterThan(whole);
    expect(
      balanceOf(
        halves('2026-03-02', '2026-03-29'),
        halves('2026-03-30', '2026-04-24'),
        halves('2026-04-27', '2026-05-31'),
      ),
    ).toBe(whole);
    // Somebody who works for a week in between begins anew.
    const apart = balanceOf(halves('2026-03-02', '2026-03-29'), halves('2026-04-06', '2026-05-01'));
    expect(apart).toBe(balanceOf());
  });

  test('cut anywhere or whole earns alike', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 150 }), fc.integer({ min: 1, max: 150 }), (first, second) => {
        const [a, b, c] = [
          date('2026-02-02'),
          addDays(date('2026-02-02'), first),
          addDays(date('2026-02-02'), first + second),
        ];
        const piece = (from: CivilDate, next: CivilDate) => halves(from, addDays(next, -1));
        expect(balanceOf(piece(a, b), piece(b, c))).toBe(balanceOf(piece(a, c)));
      }),
      { numRuns: 60 },
    );
  });
});

describe('rules in words', () => {
  test('say each thing once, as it would be said', () => {
    const text = typeSentences(
      {
        ...annual,
        overdraft: 2,
        daysBack: 14,
        earnsUntil: 30,
        insideLeave: 'gives back',
        limits: [{ rule: 'closed', name: 'the fair', from: '08-20', to: '08-31', how: 'stops' }],
      },
      [],
    ).map(one => one.text);
    expect(text).toContain('The balance may go up to 2 below zero.');
    expect(text).toContain(
      'It is not taken in the fair, from 20 August to 31 August, each year; it cannot be asked for otherwise.',
    );
    expect(text).toContain('After 30 days of it no leave is earned.');
    expect(new Set(text).size).toBe(text.length);
    expect(limitSentence({ rule: 'presence', how: 'asks why' })).toBe(
      'It leaves as many here as are needed; otherwise it takes a reason.',
    );
    expect(
      planSentences(
        {
          yearStart: '04-01',
          perYear: [
            { fromServiceYears: 5, amount: 28 },
            { fromServiceYears: 0, amount: 26 },
          ],
          accrual: 'monthly-in-arrears',
          proration: 'monthly',
          rounding: { step: 0.5, mode: 'up' },
          carryOver: { max: 5, expires: '03-31', kept: [{ types: ['sick', 'child'], months: 15 }], warned: true },
        },
        'days',
        [{ id: 'sick', name: 'Sick leave' }],
      ).map(one => one.text),
    ).toEqual([
      'It earns 26 days a year, 28 days from 5 years of service on.',
      'The leave year begins on 1 April.',
      'It is given a twelfth at a time, on the last day of each leave month.',
      'A part of a year earns its share by months, and a part of a month by days.',
      'What is earned is rounded up to the next ½ day.',
      'Up to 5 days are carried over and lapse on 31 March.',
      'What could not be taken because of sick leave or child is kept for the first 15 months of the new leave year.',
      'It lapses only for people who were told so in a letter.',
    ]);
    const named = { place: () => 'Ovay Station', department: () => 'Lights' };
    expect(presenceSentence({ ...watch, department: 'lights', weekdays: [7, 6] }, named)).toBe(
      '7 are needed of Lights at Ovay Station, on Saturday, Sunday.',
    );
  });
});
