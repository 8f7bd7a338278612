/** What cannot be of a whole house is said of the fact at fault, and at its field. */
import { describe, expect, test } from '@jest/globals';
import { date, directory, person } from '../testing/house.ts';
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
