/** What cannot be of a whole house is said of the fact at fault, and at its field. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { date, directory, person } from '../testing/house.ts';
import { addDays } from '../time/index.ts';
import type { OnFile } from './fact.ts';
import { unsound } from './soundness.ts';

/** The house of tests without its circle, with a list and leave from elsewhere. */
const file: OnFile = {
  ...directory,
  posts: directory.posts.map(post =>
    post.id === 'ring-b' ? { ...post, lines: post.lines.map(one => ({ ...one, reportsTo: 'director' })) } : post,
  ),
  lists: [{ id: 'boats', name: 'Boats', columns: [], owners: [], rows: [{ id: 'tern', title: 'Tern', cells: {} }] }],
  adjustments: [],
  bookings: [],
};
const plans = [{ id: 'standard' }];
const types = [{ id: 'annual' }];
const faults = (more: Partial<OnFile>) => unsound({ ...file, ...more }, plans, types);
const ina = directory.people.find(one => one.id === 'ina') as (typeof directory.people)[number];
const withIna = (more: Partial<typeof ina>) => ({
  people: directory.people.map(one => (one.id === 'ina' ? { ...one, ...more } : one)),
});
const [record] = ina.records;
const withRecord = (more: Partial<typeof record>) => withIna({ records: [{ ...record, ...more }] });
const missing = (key: string, field: string) => [{ key, fault: { code: 'not on file', field } }];
const [post] = directory.posts;
const [place] = directory.places;
const [department] = directory.departments;
const [calendar] = directory.calendars;

test('a house that can stand has nothing', () => {
  expect(faults({})).toEqual([]);
});

describe('what is named and is not there', () => {
  const holding = { post: 'lead', person: person('ina'), from: date('2026-01-01'), to: null, main: false };
  const role = { role: 'Diver', person: person('ina'), place: null, department: null };
  const adjustment = { person: person('ina'), type: 'annual', date: date('2026-01-01'), amount: 1, reason: 'x' };
  test.each<[string, Partial<OnFile>, string, string]>([
    ['whom somebody answers to', withIna({ dottedTo: person('nobody') }), 'person ina', 'dottedTo'],
    ['the place of a record', withRecord({ place: 'atlantis' }), `record ina ${record.from}`, 'place'],
    ['the department of a record', withRecord({ department: 'none' }), `record ina ${record.from}`, 'department'],
    ['the pattern of a record', withRecord({ pattern: 'none' }), `record ina ${record.from}`, 'pattern'],
    ['the leave plan of a record', withRecord({ plan: 'none' }), `record ina ${record.from}`, 'plan'],
    [
      'the place of a post',
      { posts: [{ ...post, place: 'atlantis' }, ...file.posts.slice(1)] },
      `post ${post.id}`,
      'place',
    ],
    [
      'the department of a post',
      { posts: [{ ...post, department: 'none' }, ...file.posts.slice(1)] },
      `post ${post.id}`,
      'department',
    ],
    [
      'the post above',
      { posts: [{ ...post, lines: [{ from: date('2020-01-01'), reportsTo: 'none' }] }, ...file.posts.slice(1)] },
      `line ${post.id} 2020-01-01`,
      'reportsTo',
    ],
    [
      'a post that is held',
      { holdings: [...file.holdings, { ...holding, post: 'none' }] },
      'holding none ina 2026-01-01',
      'post',
    ],
    [
      'who holds a post',
      { holdings: [...file.holdings, { ...holding, person: person('nobody') }] },
      'holding lead nobody 2026-01-01',
      'person',
    ],
    ['who has a role', { roles: [{ ...role, person: person('nobody') }] }, 'role Diver nobody  ', 'person'],
    ['for which place', { roles: [{ ...role, place: 'atlantis' }] }, 'role Diver ina atlantis ', 'place'],
    ['for which department', { roles: [{ ...role, department: 'none' }] }, 'role Diver ina  none', 'department'],
    ['the calendar of a place', { places: [{ ...place, calendar: 'none' }] }, `place ${place.id}`, 'calendar'],
    ['the post that heads a place', { places: [{ ...place, head: 'none' }] }, `place ${place.id}`, 'head'],
    [
      'the post that heads a department',
      { departments: [{ ...department, head: 'none' }, ...file.departments.slice(1)] },
      `department ${department.id}`,
      'head',
    ],
    [
      'the calendar that another builds on',
      { calendars: [{ ...calendar, buildsOn: 'none' }, ...file.calendars.slice(1)] },
      `calendar ${calendar.id}`,
      'buildsOn',
    ],
    [
      'whose balance',
      { adjustments: [{ ...adjustment, person: person('nobody') }] },
      'adjustment nobody annual 2026-01-01 x',
      'person',
    ],
    [
      'the kind of leave',
      { adjustments: [{ ...adjustment, type: 'none' }] },
      'adjustment ina none 2026-01-01 x',
      'type',
    ],
  ])('%s', (_, more, key, field) => {
    expect(faults(more)).toEqual(missing(key, field));
  });
});

describe('what does not go together', () => {
  test('a last day before the first', () => {
    expect(faults(withIna({ left: date('2019-12-31') }))).toEqual([
      { key: 'person ina', fault: { code: 'leaves before joining', field: 'left', joined: ina.joined } },
    ]);
  });
  test('one mail address of two, however it is written', () => {
    const tom = directory.people.find(one => one.id === 'tom');
    expect(faults(withIna({ mail: (tom?.mail ?? '').toUpperCase() }))).toMatchObject([
      { fault: { code: 'taken', field: 'mail' } },
    ]);
  });
  test('somebody without any record', () => {
    expect(faults(withIna({ records: [] }))).toEqual([
      { key: 'person ina', fault: { code: 'no record', field: 'from' } },
    ]);
  });
  test('two main holders of one post on a day', () => {
    const also = { post: 'lead', person: person('ina'), from: date('2026-01-01'), to: null, main: true };
    expect(faults({ holdings: [...file.holdings, also] }).map(one => one.key)).toContain('holding lead ina 2026-01-01');
  });
  test('a calendar that builds on itself, by way of another', () => {
    const other = { ...calendar, id: 'other', buildsOn: calendar.id };
    const found = faults({ calendars: [{ ...calendar, buildsOn: 'other' }, other, ...file.calendars.slice(1)] });
    expect(found.map(one => [one.key, one.fault.code])).toEqual([
      [`calendar ${calendar.id}`, 'builds on itself'],
      ['calendar other', 'builds on itself'],
    ]);
  });
  test('posts that report to one another', () => {
    const found = unsound(directory, plans, types);
    expect(found.length).toBeGreaterThan(0);
    for (const one of found) expect(one.key).toMatch(/^line ring-[ab] /);
  });
});

describe('circles of lines', () => {
  const at = (n: number) => addDays(date('2026-01-01'), n);
  /** The house is walked on every day on which a line begins: slow, and plainly right. */
  const walked = (posts: OnFile['posts']): Set<string> => {
    const found = new Set<string>();
    for (const day of new Set(posts.flatMap(one => one.lines.map(line => line.from)))) {
      const lineOf = new Map(posts.map(one => [one.id, one.lines.findLast(line => line.from <= day)]));
      for (const { id } of posts) {
        const path: string[] = [];
        for (let on: string | null = id; on !== null && !path.includes(on); on = lineOf.get(on)?.reportsTo ?? null)
          path.push(on);
        const back = lineOf.get(path.at(-1) ?? '')?.reportsTo ?? null;
        if (back === null) continue;
        const circle = path.slice(path.indexOf(back));
        const newest = circle
          .map(one => `${lineOf.get(one)?.from}`)
          .sort()
          .at(-1);
        found.add(`${newest} ${circle.toSorted().join(' ')}`);
      }
    }
    return found;
  };

  test('are found as by walking the whole house on every day', () => {
    const n = fc.integer({ min: 0, max: 7 });
    const line = fc.tuple(n, fc.option(n, { nil: null }));
    const post = fc.uniqueArray(line, { minLength: 1, maxLength: 4, selector: ([day]) => day });
    fc.assert(
      fc.property(fc.array(post, { minLength: 8, maxLength: 8 }), all => {
        const posts = all.map((lines, i) => ({
          ...(directory.posts[0] as OnFile['posts'][number]),
          id: `p${i}`,
          lines: lines
            .toSorted(([a], [b]) => a - b)
            .map(([day, above]) => ({ from: at(day), reportsTo: above === null ? null : `p${above}` })),
        }));
        const found = unsound({ ...file, posts, holdings: [] }, plans, types).flatMap(({ key, fault }) =>
          fault.code === 'circle' ? [`${key.split(' ').at(-1)} ${fault.posts.toSorted().join(' ')}`] : [],
        );
        // One that is told stands as long as it is told at its newest line.
        const wanted = walked(posts);
        for (const one of found) expect(wanted).toContain(one);
        const [told, all_] = [
          new Set(found.map(one => one.split(' ')[0])),
          new Set([...wanted].map(one => one.split(' ')[0])),
        ];
        expect(told).toEqual(all_);
      }),
      { numRuns: 300 },
    );
  });
});
