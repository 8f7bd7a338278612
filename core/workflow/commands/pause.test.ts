import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { contextFor, date, directory, instant, person } from '../../testing/house.ts';
import { told } from '../../testing/run.ts';
import {
  deadlineFrom,
  type Instant,
  toInstant,
  type WorkPattern,
  workingHoursBetween,
  workingTime,
} from '../../time/index.ts';
import { dueAfterPause } from '../index.ts';

const office: WorkPattern = {
  from: date('2020-01-01'),
  anchor: date('2024-01-01'),
  cycle: directory.patterns[0].cycle,
};
const ovayFriday = { date: date('2026-02-13'), part: 'pm' as const };
const time = workingTime([office], [ovayFriday], { first: 20_000, last: 20_001 });
const hours = (from: string, to: string, zone = 'UTC') => workingHoursBetween(time, zone, instant(from), instant(to));

describe('working hours between two instants', () => {
  test.each([
    ['2026-02-02T09:00:00Z', '2026-02-02T17:00:00Z', 7.5, 'a whole day without its break'],
    ['2026-02-02T10:00:00Z', '2026-02-02T11:30:00Z', 1.5, 'a part of a morning'],
    ['2026-02-02T12:30:00Z', '2026-02-02T13:00:00Z', 0, 'the break'],
    ['2026-02-06T16:00:00Z', '2026-02-09T10:00:00Z', 2, 'over a weekend'],
    ['2026-02-13T09:00:00Z', '2026-02-13T17:00:00Z', 3.5, 'an afternoon off'],
    ['2026-02-02T17:00:00Z', '2026-02-02T09:00:00Z', 0, 'the second before the first'],
    ['2026-02-02T20:00:00Z', '2026-02-03T06:00:00Z', 0, 'a night'],
  ])('from %s to %s: %d, %s', (from, to, expected) => {
    expect(hours(from, to)).toBeCloseTo(expected, 9);
  });

  test('are those of the clock where the person works', () => {
    expect(hours('2026-02-02T08:00:00Z', '2026-02-02T09:00:00Z', 'Europe/Oslo')).toBe(1);
    expect(hours('2026-02-02T08:00:00Z', '2026-02-02T09:00:00Z', 'UTC')).toBe(0);
  });

  test('counted on from an instant they come back to where they ended', () => {
    const moment = fc.integer({ min: 0, max: 60 * 24 * 28 }).map(n => toInstant(Date.UTC(2026, 1, 2) + n * 60_000));
    fc.assert(
      fc.property(
        moment,
        fc.integer({ min: 1, max: 80 }),
        fc.constantFrom('UTC', 'Europe/Oslo', 'Asia/Kolkata'),
        (from, n, zone) => {
          const due = deadlineFrom(time, zone, from, { workingHours: n / 2 });
          if (!('due' in due)) throw new Error('the office works');
          expect(workingHoursBetween(time, zone, from, due.due)).toBeCloseTo(n / 2, 6);
        },
      ),
    );
  });

  test('add up over any instant between', () => {
    const moments = fc.tuple(fc.nat(40_000), fc.nat(40_000), fc.nat(40_000)).map(all => [...all].sort((a, b) => a - b));
    fc.assert(
      fc.property(moments, all => {
        const [a, b, c] = all.map(n => toInstant(Date.UTC(2026, 1, 2) + n * 60_000)) as [Instant, Instant, Instant];
        const whole = workingHoursBetween(time, 'UTC', a, c);
        expect(workingHoursBetween(time, 'UTC', a, b) + workingHoursBetween(time, 'UTC', b, c)).toBeCloseTo(whole, 6);
      }),
    );
  });
});

describe('due after a pause', () => {
  const after = (now: string, due: string, since: string) =>
    dueAfterPause(contextFor(null, { now: instant(now) }), person('tom'), instant(due), instant(since));

  test('is what was left of its time, counted from now on', () => {
    const due = after('2026-02-04T09:00:00Z', '2026-02-02T17:00:00Z', '2026-02-02T15:00:00Z');
    expect(due).toMatchObject({ at: '2026-02-04T11:00:00Z' });
    expect('reason' in due && told(due.reason)).toContain('2 working hours of Tom Lund’s working time were left');
  });

  test('stays where it was when nothing was left', () => {
    expect(after('2026-02-04T09:00:00Z', '2026-02-02T15:00:00Z', '2026-02-02T16:00:00Z')).toMatchObject({
      at: '2026-02-02T15:00:00Z',
    });
  });

  test('never comes for somebody who is not on file', () => {
    const { now } = contextFor(null);
    expect(dueAfterPause(contextFor(null), person('x'), now, now)).toEqual({ never: { code: 'holder not on file' } });
  });
});
