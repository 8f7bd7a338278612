/** Durations read and written, and how ranges lie to one another, held against sets of points. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { DaysDuration, MonthsDuration, readDuration } from './duration.ts';
import { Range } from './range.ts';
import { before, coincides, finishes, includes, isIn, meets, overlaps, overlapsBefore, starts } from './relations.ts';

describe('a duration', () => {
  test.each([
    ['P5D', 'P5D'],
    ['P1DT2H', 'P1DT2H'],
    ['PT36H', 'P1DT12H'],
    ['PT90M', 'PT1H30M'],
    ['PT0.5S', 'PT0.5S'],
    ['-PT30M', '-PT30M'],
    ['PT0S', 'PT0S'],
    ['-P0D', 'PT0S'],
    ['P1Y2M', 'P1Y2M'],
    ['P14M', 'P1Y2M'],
    ['-P1Y', '-P1Y'],
    ['P0M', 'P0M'],
  ])('%s is read, and written as %s', (text, written) => {
    expect(String(readDuration(text))).toBe(written);
  });

  test.each(['', 'P', 'PT', 'P1DT', '5D', 'P1Y2D', 'P1M1D', 'P1.5D', 'PT1H2H', 'P-5D', ' P5D', 'P5D ', 'P1W', 'p5d'])(
    '“%s” is none',
    text => {
      expect(readDuration(text)).toBeNull();
    },
  );

  test('a text of a hundred thousand digits is refused at once', () => {
    expect(readDuration(`P${'9'.repeat(100_000)}D`)).toBeNull();
  });

  test('written and read is the same duration', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e12, max: 1e12 }), ms => {
        const read = readDuration(String(new DaysDuration(ms)));
        expect(read).toBeInstanceOf(DaysDuration);
        expect((read as DaysDuration).ms).toBe(ms === 0 ? 0 : ms);
      }),
    );
    fc.assert(
      fc.property(fc.integer({ min: -100_000, max: 100_000 }), months => {
        const read = readDuration(String(new MonthsDuration(months)));
        expect((read as MonthsDuration).months).toBe(months === 0 ? 0 : months);
      }),
    );
  });
});

/** A range that holds at least one point, from and to whole numbers. */
const anyRange = fc
  .tuple(fc.integer({ min: 0, max: 5 }), fc.integer({ min: 0, max: 5 }), fc.boolean(), fc.boolean())
  .map(([a, b, low, high]) => {
    const [start, end] = a < b ? [a, b] : [b, a];
    return start === end ? new Range(start, end, true, true) : new Range(start, end, low, high);
  });

/** The same as points: whole numbers and what lies half way between, so that an open end shows. */
function pointsOf(range: Range): number[] {
  const points: number[] = [];
  for (let at = range.start as number; at <= (range.end as number); at += 0.5) {
    if (at === range.start && !range.startIncluded) continue;
    if (at === range.end && !range.endIncluded) continue;
    points.push(at);
  }
  return points;
}
const first = (range: Range) => pointsOf(range)[0];
const last = (range: Range) => pointsOf(range).at(-1) as number;
const holds = (whole: Range, part: Range) => pointsOf(part).every(at => pointsOf(whole).includes(at));

describe('two ranges', () => {
  const agrees = (name: string, told: (a: Range, b: Range) => unknown, expected: (a: Range, b: Range) => boolean) =>
    test(`${name} as their points do`, () => {
      fc.assert(
        fc.property(anyRange, anyRange, (a, b) => {
          expect(told(a, b)).toBe(expected(a, b));
        }),
        { numRuns: 400 },
      );
    });
  agrees('lie one before the other', before, (a, b) => last(a) < first(b));
  agrees('share a point', overlaps, (a, b) => pointsOf(a).some(at => pointsOf(b).includes(at)));
  agrees('include one another', includes, holds);
  agrees('coincide', coincides, (a, b) => holds(a, b) && holds(b, a));
  agrees('start together', starts, (a, b) => first(a) === first(b) && holds(b, a));
  agrees('finish together', finishes, (a, b) => last(a) === last(b) && holds(b, a));
  agrees('meet in one point', meets, (a, b) => a.endIncluded && b.startIncluded && last(a) === first(b));
  agrees(
    'overlap, the first one being first',
    overlapsBefore,
    (a, b) => first(a) < first(b) && last(a) >= first(b) && last(a) <= last(b),
  );

  test('one that has no beginning or no end holds what lies on that side', () => {
    const upTo = new Range(null, 5, true, true);
    const from = new Range(5, null, false, true);
    expect([isIn(-1e9, upTo), isIn(5, upTo), isIn(6, upTo)]).toEqual([true, true, false]);
    expect([isIn(5, from), isIn(1e9, from)]).toEqual([false, true]);
    // What is not there is included by nobody.
    expect([upTo.startIncluded, from.endIncluded]).toEqual([false, false]);
  });

  test('of unlike kinds are not put in order', () => {
    const numbers = new Range(1, 5, true, true);
    expect(isIn('3', numbers)).toBeNull();
    expect(isIn(null, numbers)).toBeNull();
    expect(before('a', numbers)).toBeNull();
    expect(coincides(numbers, new Range('a', 'b', true, true))).not.toBe(true);
  });

  test('a point counts as a range of itself', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 5 }), anyRange, (at, range) => {
        expect(includes(range, at)).toBe(pointsOf(range).includes(at));
        expect(before(at, range)).toBe(at < first(range));
        expect(before(range, at)).toBe(last(range) < at);
        expect(starts(at, range)).toBe(range.startIncluded && at === range.start);
        expect(finishes(at, range)).toBe(range.endIncluded && at === range.end);
      }),
    );
  });
});
