import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { date, directory, halves } from '../testing/house.ts';
import { fromDay, halfIndex, toDay, type WorkPattern, weekday, workingTime } from '../time/index.ts';
import { type Counting, countHalves, countTimed, explainLeave, type LeaveDaysInput, leaveDays } from './index.ts';

const office: WorkPattern = {
  from: date('2020-01-01'),
  anchor: date('2024-01-01'),
  cycle: directory.patterns[0].cycle,
};
const keeper: WorkPattern = {
  from: date('2020-01-01'),
  anchor: date('2025-03-02'),
  cycle: [...Array.from({ length: 4 }, () => ({ pm: ['20:00', '32:00'] as [string, string] })), {}, {}, {}],
};

const first = toDay('2026-01-01');
const anyHolidays = fc.array(
  fc.record({
    date: fc.integer({ min: 0, max: 120 }).map(n => fromDay(first + n)),
    part: fc.constantFrom('day' as const, 'am' as const, 'pm' as const),
  }),
  { maxLength: 12 },
);
const anySpan = fc
  .tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 0, max: 30 }), fc.boolean(), fc.boolean())
  .map(([start, length, late, early]) =>
    halves(fromDay(first + start), fromDay(first + start + length), {
      from: late ? 'pm' : 'am',
      to: early ? 'am' : 'pm',
    }),
  )
  .filter(span => halfIndex(toDay(span.from.date), span.from.half) <= halfIndex(toDay(span.to.date), span.to.half));

const rule = (counting: Counting) => ({ counting, dayMinutes: 450 });

describe('leave days', () => {
  test('a span cut in two counts what its halves count together', () => {
    fc.assert(
      fc.property(
        anySpan,
        anyHolidays,
        fc.constantFrom<Counting>('scheduled', 'weekday', 'calendar'),
        (span, holidays, counting) => {
          const time = workingTime([office], holidays, { first, last: first + 200 });
          const whole = countHalves(time, rule(counting), span);
          const cut = toDay(span.from.date);
          if (cut === toDay(span.to.date)) return;
          const left = countHalves(time, rule(counting), { from: span.from, to: { date: fromDay(cut), half: 'pm' } });
          const right = countHalves(time, rule(counting), {
            from: { date: fromDay(cut + 1), half: 'am' },
            to: span.to,
          });
          if ('error' in whole || 'error' in left || 'error' in right)
            throw new Error('a span of this test ends before it starts');
          expect(left.days + right.days).toBe(whole.days);
          expect(left.minutes + right.minutes).toBe(whole.minutes);
        },
      ),
    );
  });

  test('the reasons of the days add up to the count, whatever the counting', () => {
    fc.assert(
      fc.property(
        anySpan,
        anyHolidays,
        fc.constantFrom<Counting>('scheduled', 'weekday', 'calendar'),
        (span, holidays, counting) => {
          const time = workingTime([office], holidays, { first, last: first + 200 });
          const whole = countHalves(time, rule(counting), span);
          const reasons = explainLeave(time, rule(counting), span);
          if ('error' in whole) throw new Error('a span of this test ends before it starts');
          expect(reasons.reduce((sum, day) => sum + day.days, 0)).toBe(whole.days);
          expect(reasons.reduce((sum, day) => sum + day.minutes, 0)).toBe(whole.minutes);
          expect(reasons.every(day => day.reason.length > 0)).toBe(true);
        },
      ),
    );
  });

  test('weekday counting knows nothing of patterns, calendar counting nothing of holidays', () => {
    const holidays = [{ date: date('2026-02-04'), part: 'day' as const }];
    const week = halves('2026-02-02', '2026-02-08');
    const time = workingTime([keeper], holidays, { first, last: first + 60 });
    expect(countHalves(time, rule('weekday'), week)).toEqual({ days: 4, minutes: 4 * 450 });
    expect(countHalves(time, rule('calendar'), week)).toEqual({ days: 7, minutes: 7 * 450 });
  });

  test('each day says why: worked, holiday, weekend, free, not asked for', () => {
    const holidays = [{ date: date('2026-02-06'), part: 'pm' as const, name: 'Ovay Friday' }];
    const time = workingTime([office], holidays, { first, last: first + 60 });
    const span = halves('2026-02-05', '2026-02-07', { from: 'pm' });
    expect(explainLeave(time, rule('scheduled'), span).map(d => d.reason)).toEqual([
      'morning not asked for, afternoon 13:00 to 17:00',
      'morning 09:00 to 12:30, afternoon off: Ovay Friday',
      'not worked',
    ]);
    expect(explainLeave(time, rule('weekday'), span).map(d => d.reason)).toEqual([
      'morning not asked for, afternoon counts',
      'morning counts, afternoon off: Ovay Friday',
      'is weekend',
    ]);
    expect(explainLeave(time, rule('calendar'), span).map(d => d.days)).toEqual([0.5, 1, 1]);
    expect(weekday(toDay('2026-02-07'))).toBe(6);
  });
});

describe('leave with times', () => {
  const input = (change: Partial<LeaveDaysInput>): LeaveDaysInput =>
    ({
      patterns: [keeper],
      holidays: [],
      from: { date: '2026-02-01', time: '00:00' },
      to: { date: '2026-02-01', time: '08:00' },
      ...change,
    }) as LeaveDaysInput;

  test('a night that began the day before counts, and a holiday takes the night that starts on it', () => {
    const time = workingTime([keeper], [], { first, last: first + 60 });
    const nights = Array.from({ length: 7 }, (_, n) => fromDay(toDay('2026-02-01') + n)).filter(
      d => time.parts(toDay(d)).pm,
    );
    const night = nights[0];
    const next = fromDay(toDay(night) + 1);
    const span = { from: { date: next, time: '00:00' }, to: { date: next, time: '08:00' } };
    expect(countTimed(time, span)).toEqual({ minutes: 480 });
    const off = workingTime([keeper], [{ date: night, part: 'pm' }], { first, last: first + 60 });
    expect(countTimed(off, span)).toEqual({ minutes: 0 });
    const after = workingTime([keeper], [{ date: next, part: 'day' }], { first, last: first + 60 });
    expect(countTimed(after, span)).toEqual({ minutes: 480 });
  });

  test('a span of no length, or backwards, ends before it starts', () => {
    expect(leaveDays(input({ to: { date: date('2026-02-01'), time: '00:00' } } as never))).toEqual({
      error: 'ends before it starts',
    });
    expect(leaveDays(input({ to: { date: date('2026-01-31'), time: '23:00' } } as never))).toEqual({
      error: 'ends before it starts',
    });
  });
});
