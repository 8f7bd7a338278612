import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { date, directory, instant } from '../testing/house.ts';
import { type Calendar, deadline, holidaysIn, toDay, type WorkPattern, workingTime } from './index.ts';

const first = toDay('2025-01-01');
const office: WorkPattern = {
  from: date('2020-01-01'),
  anchor: date('2024-01-01'),
  cycle: directory.patterns[0].cycle,
};
const nights: WorkPattern = {
  from: date('2025-06-01'),
  anchor: date('2025-01-01'),
  cycle: [{ pm: ['20:00', '32:00'] }, { am: ['06:00', '12:00'] }, {}],
};

const holidays = fc.array(
  fc.record({
    date: fc
      .integer({ min: 0, max: 500 })
      .map(n => date(new Date((first + n) * 86_400_000).toISOString().slice(0, 10))),
    part: fc.constantFrom('day' as const, 'am' as const, 'pm' as const),
  }),
  { maxLength: 30 },
);

describe('working time', () => {
  test('sums from the index equal sums walked half by half, inside and outside its window', () => {
    fc.assert(
      fc.property(
        holidays,
        fc.integer({ min: -20, max: 900 }),
        fc.integer({ min: 0, max: 200 }),
        (off, from, length) => {
          const indexed = workingTime([office, nights], off, { first, last: first + 400 });
          const walked = workingTime([office, nights], off, { first, last: first - 1 });
          const a = first * 2 + from;
          expect(indexed.scheduled(a, a + length)).toEqual({
            days: walked.scheduled(a, a + length).days,
            minutes: walked.scheduled(a, a + length).minutes,
          });
          expect(indexed.weekdays(a, a + length)).toBe(walked.weekdays(a, a + length));
        },
      ),
    );
  });

  test('a holiday afternoon takes the part that starts on it, also its minutes after midnight', () => {
    const night = toDay('2025-06-02');
    const free = workingTime([nights], [{ date: date('2025-06-03'), part: 'pm' }], { first: night, last: night + 5 });
    const days = [0, 1, 2].map(n => free.parts(toDay('2025-06-02') + n).pm !== null);
    const full = workingTime([nights], [], { first: night, last: night + 5 });
    const planned = [0, 1, 2].map(n => full.parts(toDay('2025-06-02') + n).pm !== null);
    expect(days).toEqual([planned[0], false, planned[2]]);
  });

  test('a station adds its own days to its region’s, and a circle of calendars is read once around', () => {
    const named = (calendars: readonly Calendar[], id: string) => holidaysIn(calendars, id, 2026).map(h => h.name);
    expect(named(directory.calendars, 'ovay')).toEqual(['Ovay Friday', 'Midsummer Tide']);
    const circle = [
      { id: 'a', name: 'A', buildsOn: 'b', holidays: [{ date: date('2026-01-01'), part: 'day' as const }] },
      { id: 'b', name: 'B', buildsOn: 'a', holidays: [] },
    ];
    expect(named(circle, 'a')).toHaveLength(1);
  });
});

describe('deadlines', () => {
  const base = { zone: 'Europe/Lisbon', patterns: [office], holidays: [] };

  test('working days end with the last part of the day, weekends passed over', () => {
    const due = deadline({ ...base, from: instant('2026-02-05T10:00:00Z'), add: { workingDays: 2 } });
    expect(due).toEqual({ due: '2026-02-09T17:00:00Z' });
  });

  test('more working time is never due earlier', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 0, max: 60 * 24 * 30 }), (hours, minutes) => {
        const from = instant(new Date(Date.UTC(2026, 2, 1) + minutes * 60_000).toISOString());
        const due = (n: number) => {
          const found = deadline({ ...base, from, add: { workingHours: n } });
          return 'due' in found ? Date.parse(found.due) : Number.NaN;
        };
        expect(due(hours + 1)).toBeGreaterThan(due(hours));
        expect(due(hours)).toBeGreaterThanOrEqual(Date.parse(from) + hours * 3_600_000);
      }),
      { numRuns: 40 },
    );
  });

  test('with nothing scheduled there is no working time', () => {
    const due = deadline({ ...base, patterns: [], from: instant('2026-02-05T10:00:00Z'), add: { workingHours: 1 } });
    expect(due).toEqual({ error: 'no working time' });
  });
});

test('a day that is worked on holidays keeps its parts on them', () => {
  const cycle = [
    { am: ['08:00', '12:00'] as [string, string], holidays: 'worked' as const },
    { am: ['08:00', '12:00'] as [string, string] },
  ];
  const pattern = { from: '2026-01-01' as never, anchor: '2026-01-01' as never, cycle };
  const off = ['2026-01-01', '2026-01-02'].map(day => ({ date: day as never, part: 'day' as const }));
  const first = toDay('2026-01-01' as never);
  for (const window of [
    { first, last: first + 3 },
    { first, last: first - 1 },
  ]) {
    const time = workingTime([pattern], off, window);
    expect([first, first + 1].map(day => time.parts(day).am !== null)).toEqual([true, false]);
    expect(time.scheduled(first * 2, first * 2 + 3)).toEqual({ days: 0.5, minutes: 240 });
  }
});
