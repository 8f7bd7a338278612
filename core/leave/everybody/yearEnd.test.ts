/** Closing a leave year: it stays as it was, and no balance is another for it. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { annual, bookOf, date, directory, entry, halves, person, sick, withDirectory } from '../../testing/house.ts';
import { addDays } from '../../time/index.ts';
import { type LeaveBook, type LeaveEntry, payLines, statementOf, takenDays, withClosed, yearEndOf } from '../index.ts';

const ina = person('ina');
const linesOf = (book: LeaveBook, asOf: string) => statementOf(book, ina, annual, date(asOf))!;
const asked = fc
  .record({ at: fc.integer({ min: 0, max: 700 }), length: fc.integer({ min: 1, max: 12 }) })
  .map(({ at, length }) => halves(addDays(date('2025-02-01'), at), addDays(date('2025-02-01'), at + length - 1)));
const entriesOf = (spans: readonly LeaveEntry['span'][]) => spans.map((span, n) => entry({ request: `R-${n}`, span }));

describe('a closed leave year', () => {
  test('and one that is not closed leave the same balance, whatever is corrected afterwards', () => {
    fc.assert(
      fc.property(
        fc.array(asked, { maxLength: 6 }),
        fc.array(asked, { maxLength: 3 }),
        fc.integer({ min: -4, max: 4 }),
        (before, corrected, given) => {
          const then = bookOf(entriesOf(before), { today: date('2026-01-10') });
          const end = yearEndOf(then, ina, annual, date('2026-01-10'))!;
          expect(end.on).toBe('2025-12-31');
          const adjustments =
            given === 0
              ? []
              : [{ person: ina, type: 'annual', date: date('2025-11-03'), amount: given, reason: 'found late' }];
          const now = bookOf(entriesOf([...before.slice(1), ...corrected]), { today: date('2026-09-01'), adjustments });
          const counted = linesOf(now, '2026-12-31');
          const shown = withClosed(counted.lines, end);
          expect(shown.at(-1)?.balance ?? 0).toBeCloseTo(counted.lines.at(-1)?.balance ?? 0, 6);
          // The closed year stands as it was, line by line.
          expect(shown.slice(0, end.lines.length)).toEqual(end.lines);
          // Line after line, each balance is the one before and the amount.
          let balance = 0;
          for (const line of shown) {
            balance += line.amount;
            expect(line.balance).toBeCloseTo(balance, 6);
          }
        },
      ),
      { numRuns: 150 },
    );
  });

  test('says what is carried and what lapses when it turns', () => {
    const book = bookOf([], { today: date('2026-01-10') });
    expect(yearEndOf(book, ina, annual, date('2025-12-31'))).toMatchObject({
      on: '2025-12-31',
      balance: 26,
      carried: 5,
      lapses: 21,
    });
    expect(yearEndOf(book, ina, annual, date('2025-12-30'))?.on).toBe('2024-12-31');
    expect(yearEndOf(book, ina, annual, date('2019-06-01'))).toBeUndefined();
    expect(yearEndOf(book, ina, sick, date('2025-12-31'))).toBeUndefined();
    // Whoever began here with an opening, or went over to other leave years, has closed none before that day.
    const opening = { type: 'annual', on: date('2026-01-05'), own: 20, carried: 0, lapses: null, source: 'a file' };
    const people = directory.people.map(one => (one.id === ina ? { ...one, openings: [opening] } : one));
    const opened = bookOf([], { today: date('2026-01-10'), index: withDirectory({ people }) });
    expect(yearEndOf(opened, ina, annual, date('2026-12-30'))).toBeUndefined();
    expect(yearEndOf(opened, ina, annual, date('2026-12-31'))).toMatchObject({
      on: '2026-12-31',
      balance: 20,
      carried: 5,
    });
    const overdrawn = bookOf([entry({ span: halves('2025-03-03', '2025-05-02') })]);
    const end = yearEndOf(overdrawn, ina, annual, date('2025-12-31'))!;
    expect(end.balance).toBeLessThan(0);
    expect([end.carried, end.lapses]).toEqual([end.balance, 0]);
    // Whoever left within it keeps what there was.
    expect(yearEndOf(book, person('old'), annual, date('2025-12-31'))).toMatchObject({ carried: 26, lapses: 0 });
  });
});

describe('what pay is told', () => {
  const day = (on: string, days: number, type = 'annual') => ({
    ...{ person: ina, type, date: date(on), days, minutes: days * 450 },
  });
  const march = { from: date('2026-03-01'), to: date('2026-03-31') };
  const april = { from: date('2026-04-01'), to: date('2026-04-30') };

  test('again is what is in the period, and what has become of days that were told before', () => {
    const first = payLines([day('2026-03-30', 1), day('2026-03-31', 1)], [], march, null);
    expect(first.map(line => [line.date, line.days, line.before])).toEqual([
      ['2026-03-30', 1, null],
      ['2026-03-31', 1, null],
    ]);
    // The 30th was a half after all, the 31st sickness, the 27th found late; the 2nd of April is in the period.
    const now = [day('2026-03-27', 1), day('2026-03-30', 0.5), day('2026-03-31', 1, 'sick'), day('2026-04-02', 1)];
    const second = payLines(now, first, april, march.to);
    expect(second.map(({ date: on, type, days, before }) => [on, type, days, before?.days ?? null])).toEqual([
      ['2026-03-27', 'annual', 1, 0],
      ['2026-03-30', 'annual', 0.5, 1],
      ['2026-03-31', 'annual', 0, 1],
      ['2026-03-31', 'sick', 1, 0],
      ['2026-04-02', 'annual', 1, null],
    ]);
  });

  test('adds up over the periods to what is so now, whatever changed between', () => {
    const days = fc.uniqueArray(fc.integer({ min: 1, max: 60 }), { maxLength: 12 });
    fc.assert(
      fc.property(days, days, (then, since) => {
        const worth = (all: readonly number[], until: string) =>
          all.map(n => day(addDays(date('2026-03-01'), n - 1), 1)).filter(line => line.date <= until);
        const first = payLines(worth(then, march.to), [], march, null);
        const second = payLines(worth(since, april.to), first, april, march.to);
        const sum = [...first, ...second].reduce((s, line) => s + line.days - (line.before?.days ?? 0), 0);
        expect(sum).toBe(worth(since, april.to).length);
      }),
      { numRuns: 100 },
    );
  });

  test('counts what was to be worked as lost, also where the days of the calendar count', () => {
    const ill = { ...sick, counting: 'calendar' as const, dayMinutes: 480 };
    const book = bookOf([entry({ type: 'sick', span: halves('2026-04-02', '2026-04-07') })], { types: [annual, ill] });
    expect(
      takenDays(book, ina, date('2026-04-01'), date('2026-04-30')).map(one => [one.date, one.days, one.minutes]),
    ).toEqual([
      ['2026-04-02', 1, 450],
      ['2026-04-03', 1, 450],
      ['2026-04-04', 1, 0],
      ['2026-04-05', 1, 0],
      ['2026-04-06', 1, 450],
      ['2026-04-07', 1, 450],
    ]);
  });

  test('is each day by kind, less what sickness gives back, and nothing beyond the days', () => {
    const ill = { ...sick, insideLeave: 'gives back' as const };
    const book = bookOf(
      [
        entry({ span: halves('2026-03-27', '2026-04-02') }),
        entry({ request: 'R-2', type: 'sick', span: halves('2026-04-01', '2026-04-01') }),
        entry({ request: 'R-3', span: halves('2026-04-09', '2026-04-09'), state: 'held' }),
        entry({ request: 'R-4', person: person('per'), span: halves('2026-04-01', '2026-04-02') }),
      ],
      { types: [annual, ill] },
    );
    expect(takenDays(book, ina, date('2026-03-30'), date('2026-04-30'))).toEqual([
      { type: 'annual', date: '2026-03-30', days: 1, minutes: 450 },
      { type: 'annual', date: '2026-03-31', days: 1, minutes: 450 },
      { type: 'sick', date: '2026-04-01', days: 1, minutes: 450 },
      { type: 'annual', date: '2026-04-02', days: 1, minutes: 450 },
    ]);
  });
});
