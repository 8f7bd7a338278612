import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { date, directory, index } from '../testing/house.ts';
import { addDays } from '../time/index.ts';
import { indexDirectory, type Person } from './directory.ts';
import { managersThrough } from './managersThrough.ts';
import { managerOf } from './reportingLine.ts';

const first = date('2026-01-01');

test('another line from a day on is another manager from then on', () => {
  const moved = indexDirectory({
    ...directory,
    posts: directory.posts.map(post =>
      post.id === 'observer-1'
        ? { ...post, lines: [...post.lines, { from: date('2026-03-01'), reportsTo: 'director' }] }
        : post,
    ),
  });
  const ina = moved.person('ina' as Person['id']) as Person;
  expect(managersThrough(index, ina)).toMatchObject([{ from: ina.joined, to: null, manager: 'tom' }]);
  expect(managersThrough(moved, ina)).toEqual([
    { from: ina.joined, to: '2026-02-28', manager: 'tom' },
    { from: '2026-03-01', to: null, manager: 'dora' },
  ]);
});

test('every day has the manager that is found for it', () => {
  const posts = directory.posts.map(post => post.id);
  const day = fc.integer({ min: 0, max: 60 }).map(n => addDays(first, n));
  const line = fc.record({ from: day, reportsTo: fc.option(fc.constantFrom(...posts)) });
  const holding = fc.record({
    post: fc.constantFrom(...posts),
    person: fc.constantFrom(...directory.people.map(one => one.id)),
    from: day,
    to: fc.option(day),
    main: fc.boolean(),
  });
  const leaving = fc.option(day);
  fc.assert(
    fc.property(
      fc.array(fc.array(line, { maxLength: 3 }), { minLength: posts.length, maxLength: posts.length }),
      fc.array(holding, { maxLength: 12 }),
      fc.array(leaving, { minLength: directory.people.length, maxLength: directory.people.length }),
      (lines, holdings, lefts) => {
        const house = indexDirectory({
          ...directory,
          people: directory.people.map((one, n) => ({ ...one, joined: first, left: lefts[n] ?? null })),
          posts: directory.posts.map((post, n) => ({
            ...post,
            lines: (lines[n] ?? []).toSorted((a, b) => (a.from < b.from ? -1 : 1)),
          })),
          holdings,
        });
        for (const one of house.directory.people) {
          const stretches = managersThrough(house, one);
          for (let n = 0; n <= 62; n += 1) {
            const on = addDays(first, n);
            if (one.left !== null && on > one.left) break;
            const found = managerOf(house, one.id, on);
            const now = stretches.filter(part => part.from <= on && (part.to === null || part.to >= on));
            expect(now.map(part => part.manager)).toEqual(['person' in found ? found.person.id : null]);
          }
        }
      },
    ),
    { numRuns: 40 },
  );
});
