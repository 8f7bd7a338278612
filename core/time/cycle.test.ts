import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  asWholeDay,
  type CycleDay,
  cycleMinutes,
  drawn,
  moved,
  partOf,
  stretched,
  withDays,
  withPart,
} from './cycle.ts';
import { WorkPattern } from './pattern.ts';

const office: CycleDay = { am: ['08:30', '12:30'], pm: ['13:15', '17:00'] };

describe('a day of a cycle', () => {
  test.each<[string, CycleDay, number, number, CycleDay]>([
    ['a morning', {}, 510, 750, { am: ['08:30', '12:30'] }],
    // A whole shift of one part is a whole day of leave unless something else is said.
    ['a night', {}, 20 * 60, 32 * 60, { pm: ['20:00', '32:00'], days: { pm: 1 } }],
    ['six hours', {}, 8 * 60, 14 * 60, { am: ['08:00', '14:00'] }],
    [
      'a second part beside a whole shift',
      { am: ['08:00', '15:00'], days: { am: 1 } },
      930,
      1020,
      { am: ['08:00', '15:00'], pm: ['15:30', '17:00'] },
    ],
    ['drawn backwards', {}, 750, 510, { am: ['08:30', '12:30'] }],
    ['a second part', { am: ['08:30', '12:30'] }, 795, 1020, office],
    [
      'an earlier second part',
      { pm: ['20:00', '24:00'] },
      840,
      1080,
      { am: ['14:00', '18:00'], pm: ['20:00', '24:00'] },
    ],
    ['where two are there', office, 1200, 1260, office],
    ['a click', {}, 480, 480, { am: ['08:00', '08:15'] }],
  ])('%s', (_, day, a, b, expected) => expect(drawn(day, a, b)).toEqual(expected));
  test('a part moves and is stretched by quarters, within its day', () => {
    expect(moved(office, 'am', 15).am).toEqual(['08:45', '12:45']);
    expect(moved(office, 'am', -1000).am).toEqual(['00:00', '04:00']);
    expect(stretched(office, 'pm', 30).pm).toEqual(['13:15', '17:30']);
    expect(stretched(office, 'pm', -10_000).pm).toEqual(['13:15', '13:30']);
    expect(moved({}, 'am', 15)).toEqual({});
  });
  test('what a part counts goes with it', () => {
    const night = withDays({ pm: ['20:00', '32:00'] }, 'pm', 1);
    expect(night.days).toEqual({ pm: 1 });
    expect(moved(night, 'pm', 15).days).toEqual({ pm: 1 });
    expect(withPart(night, 'pm', null)).toEqual({});
    expect(withDays(night, 'pm', null)).toEqual({ pm: ['20:00', '32:00'] });
  });
  test('a whole shift of which nothing is said is proposed as a whole day, and nothing else', () => {
    const night: CycleDay = { pm: ['20:00', '32:00'] };
    expect(asWholeDay(night)).toEqual({ ...night, days: { pm: 1 } });
    for (const day of [{}, office, { pm: ['13:00', '17:00'] }, { ...night, days: { pm: 0.75 } }] as CycleDay[])
      expect(asWholeDay(day)).toEqual(day);
  });
  test('whatever is drawn is a pattern', () => {
    const n = fc.integer({ min: -200, max: 3000 });
    const act = fc.oneof(
      fc.tuple(n, n).map(
        ([a, b]) =>
          (day: CycleDay) =>
            drawn(day, a, b),
      ),
      fc.tuple(fc.constantFrom('am' as const, 'pm' as const), n).map(
        ([half, by]) =>
          (day: CycleDay) =>
            moved(day, half, by),
      ),
      fc.tuple(fc.constantFrom('am' as const, 'pm' as const), n).map(
        ([half, by]) =>
          (day: CycleDay) =>
            stretched(day, half, by),
      ),
    );
    fc.assert(
      fc.property(fc.array(act, { maxLength: 12 }), acts => {
        const day = acts.reduce((now, one) => one(now), {} as CycleDay);
        expect(WorkPattern.shape.cycle.safeParse([day]).error).toBeUndefined();
        expect(cycleMinutes([day])).toBe(
          (['am', 'pm'] as const).reduce((sum, half) => {
            const part = partOf(day, half);
            return sum + (part ? part.end - part.start : 0);
          }, 0),
        );
      }),
    );
  });
});
