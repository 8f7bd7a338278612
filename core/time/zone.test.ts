import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { Temporal } from 'temporal-polyfill';
import { date, directory, instant } from '../testing/house.ts';
import {
  civilDateAt,
  dayAt,
  dayOver,
  deadline,
  fromDay,
  Instant,
  localAt,
  toDay,
  toInstant,
  toMilliseconds,
  type WorkPattern,
  wallClock,
  workingTime,
  Zone,
} from './index.ts';

const zones = ['Europe/Lisbon', 'Atlantic/Reykjavik', 'Europe/Oslo'];

describe('zones', () => {
  test('a day is over at the midnight after it, in its zone, also where clocks change in that night', () => {
    expect(dayOver('2026-05-02', 'Europe/Lisbon')).toBe('2026-05-02T23:00:00Z');
    expect(dayOver('2026-12-31', 'Europe/Oslo')).toBe('2026-12-31T23:00:00Z');
    // Clocks go back at one o'clock of the 25th, from summer time.
    expect(dayOver('2026-10-24', 'Atlantic/Azores')).toBe('2026-10-25T00:00:00Z');
    expect(dayOver('2026-10-25', 'Atlantic/Azores')).toBe('2026-10-26T01:00:00Z');
  });

  test('a wall clock that exists leads to an instant that shows it', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...zones),
        fc.integer({ min: 0, max: 900 }),
        fc.integer({ min: 4 * 60, max: 1439 }),
        (zone, n, minutes) => {
          const day = toDay('2025-01-01') + n;
          const shown = localAt(toInstant(wallClock(day, minutes, zone)), zone);
          expect(toDay(shown.date)).toBe(day);
          expect(shown.minutes).toBe(minutes);
        },
      ),
    );
  });

  test('a skipped local time moves forward, a repeated one is its first occurrence', () => {
    const spring = toDay('2026-03-29');
    expect(toInstant(wallClock(spring, 2 * 60 + 30, 'Europe/Oslo'))).toBe('2026-03-29T01:30:00Z');
    const autumn = toDay('2026-10-25');
    expect(toInstant(wallClock(autumn, 2 * 60 + 30, 'Europe/Oslo'))).toBe('2026-10-25T00:30:00Z');
  });

  const odd = [
    ...zones,
    'America/St_Johns',
    'America/Santiago',
    'Africa/Casablanca',
    'Antarctica/Troll',
    'Asia/Kathmandu',
    'Australia/Lord_Howe',
    'Pacific/Apia',
    'Pacific/Kiritimati',
  ];
  test('both ways agree with the rules of the zone, also where its clocks change by half an hour or by a day', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...odd),
        fc.integer({ min: toDay('1995-01-01'), max: toDay('2045-12-31') }),
        fc.integer({ min: 0, max: 2 * 1440 }),
        (zone, day, minutes) => {
          const wall = Temporal.PlainDateTime.from(fromDay(day)).add({ minutes });
          const wanted = wall.toZonedDateTime(zone, { disambiguation: 'compatible' });
          expect(wallClock(day, minutes, zone)).toBe(wanted.epochMilliseconds);
          const at = toInstant(wanted.epochMilliseconds);
          expect(localAt(at, zone)).toEqual({
            date: wanted.toPlainDate().toString(),
            minutes: wanted.hour * 60 + wanted.minute,
          });
        },
      ),
      { numRuns: 1000 },
    );
    for (const [zone, on] of [
      ['Pacific/Apia', '2011-12-30'],
      ['Australia/Lord_Howe', '2026-04-05'],
      ['Antarctica/Troll', '2026-03-29'],
    ] as const)
      for (let minutes = 0; minutes < 1440; minutes += 15)
        expect(wallClock(toDay(on), minutes, zone)).toBe(
          Temporal.PlainDateTime.from(on).add({ minutes }).toZonedDateTime(zone, { disambiguation: 'compatible' })
            .epochMilliseconds,
        );
  });

  test('minutes past midnight belong to the next day', () => {
    expect(wallClock(toDay('2026-02-02'), 32 * 60, 'Europe/Oslo')).toBe(
      wallClock(toDay('2026-02-03'), 8 * 60, 'Europe/Oslo'),
    );
  });

  test('today differs around midnight from zone to zone', () => {
    const late = instant('2026-02-02T23:30:00Z');
    expect(civilDateAt(late, 'Europe/Lisbon')).toBe('2026-02-02');
    expect(civilDateAt(late, 'Europe/Oslo')).toBe('2026-02-03');
    expect(dayAt(late, 'Europe/Oslo') - dayAt(late, 'Europe/Lisbon')).toBe(1);
  });

  test('what is no zone and no instant is refused', () => {
    expect(Zone.safeParse('Middle/Nowhere').success).toBe(false);
    for (const text of ['2026-02-02', '2026-02-02T10:00:00', '2026-02-02T10:00:00+01:00', '2026-02-30T99:00:00Z', '']) {
      expect(Instant.safeParse(text).success).toBe(false);
    }
    expect(toMilliseconds(instant('1970-01-01T00:00:01Z'))).toBe(1000);
  });
});

describe('deadlines against a walk minute by minute', () => {
  const office: WorkPattern = {
    from: date('2020-01-01'),
    anchor: date('2024-01-01'),
    cycle: directory.patterns[0].cycle,
  };
  const crew: WorkPattern = {
    from: date('2020-01-01'),
    anchor: date('2025-01-06'),
    cycle: [{ am: ['22:00', '30:00'] }, { pm: ['14:00', '22:00'] }, {}],
  };

  /** The slow way: look at every minute and count those inside a part. */
  function walked(pattern: WorkPattern, zone: string, from: number, minutes: number): number {
    const time = workingTime([pattern], [], { first: 0, last: -1 });
    let left = minutes;
    for (let at = from; ; at += 60_000) {
      const { date: local, minutes: clock } = localAt(toInstant(at), zone);
      const inside = [0, 1].some(back => {
        const { am, pm } = time.parts(toDay(local) - back);
        const minute = clock + back * 1440;
        return [am, pm].some(part => part !== null && part.start <= minute && minute < part.end);
      });
      if (inside && --left === 0) return at + 60_000;
    }
  }

  test.each([
    ['office', office, 'Europe/Lisbon'],
    ['crew with nights', crew, 'Europe/Oslo'],
  ] as const)('%s', (_, pattern, zone) => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 60 * 24 * 20 }), fc.integer({ min: 1, max: 12 }), (start, hours) => {
        // Away from the days on which clocks change, where a minute walked is not a minute on the wall.
        const from = Date.UTC(2026, 4, 1) + start * 60_000;
        const found = deadline({
          zone,
          patterns: [pattern],
          holidays: [],
          from: toInstant(from),
          add: { workingHours: hours },
        });
        expect(found).toEqual({ due: toInstant(walked(pattern, zone, from, hours * 60)) });
      }),
      { numRuns: 15 },
    );
  });
});
