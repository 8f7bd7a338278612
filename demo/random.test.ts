import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { random } from './random.ts';

describe('chance with a seed', () => {
  test('is the same for the same seed and another for another', () => {
    const run = (seed: number) => {
      const chance = random(seed);
      return Array.from({ length: 20 }, () => chance.whole(0, 1000));
    };
    expect(run(7)).toEqual(run(7));
    expect(run(7)).not.toEqual(run(8));
  });

  test('stays within its bounds and reaches all of them', () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.integer({ min: -5, max: 5 }),
        fc.integer({ min: 0, max: 6 }),
        (seed, least, more) => {
          const chance = random(seed);
          const seen = new Set(Array.from({ length: 400 }, () => chance.whole(least, least + more)));
          expect(Math.min(...seen)).toBe(least);
          expect(Math.max(...seen)).toBe(least + more);
          expect(seen.size).toBe(more + 1);
        },
      ),
    );
  });

  test('picks each of a list about as often', () => {
    const chance = random(1);
    const counts = { a: 0, b: 0, c: 0 };
    for (let i = 0; i < 6000; i++) counts[chance.pick(['a', 'b', 'c'] as const)]++;
    for (const n of Object.values(counts)) expect(Math.abs(n - 2000)).toBeLessThan(200);
    const heads = Array.from({ length: 4000 }, () => chance.chance(0.25)).filter(Boolean).length;
    expect(Math.abs(heads - 1000)).toBeLessThan(150);
  });
});
