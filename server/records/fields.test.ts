/** Every field of a person as every kind of reader sees it, and every kind of change as every kind of person may make it. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { PersonPageView } from '@north-pebble/contract';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

/** Themselves, their manager, the administrator, the designer, the auditor, a colleague, who looks after their place. */
const readers = ['ina', 'tom', 'dora', 'kay', 'per', 'rin', 'con'] as const;
type Reader = (typeof readers)[number];

let small: Small;
const at = {} as Record<Reader, Browser>;
beforeAll(async () => {
  small = await startSmall();
  await small.db.insert(t.roles).values({ role: 'HR partner', person: 'con', place: 'ovay' });
  await raiseDirectoryVersion(small.db);
  for (const one of readers) at[one] = await signedIn(small.base, one);
});
afterAll(() => small.stop());

type Seen = 'shown' | 'hidden';
const everybody: Seen[] = ['shown', 'shown', 'shown', 'shown', 'shown', 'shown', 'shown'];
/** Who sees the record: themselves, the line above, those who read everything, and who looks after them. */
const record: Seen[] = ['shown', 'shown', 'shown', 'shown', 'shown', 'hidden', 'shown'];
const fields: Record<keyof PersonPageView, Seen[]> = {
  today: everybody,
  id: everybody,
  name: everybody,
  mail: everybody,
  joined: everybody,
  left: everybody,
  standing: everybody,
  place: everybody,
  department: everybody,
  manager: everybody,
  managerWhy: everybody,
  dottedTo: everybody,
  posts: everybody,
  reports: everybody,
  roles: everybody,
  lines: record,
  changes: record,
  now: record,
  mayChange: everybody,
  sees: everybody,
};

describe('every field of a person', () => {
  test.each(
    (Object.keys(fields) as (keyof PersonPageView)[]).flatMap(field =>
      readers.map((reader, n) => [field, reader, fields[field][n]] as const),
    ),
  )('%s as %s sees it is %s', async (field, reader, seen) => {
    const { body } = await at[reader].get<PersonPageView>('/records/ina');
    expect(field in body).toBe(true);
    // What has days or reasons is there as a list; what is hidden is nothing.
    if (record === fields[field]) expect(body[field] === null ? 'hidden' : 'shown').toBe(seen);
  });
  test('the table names every field that is answered, and no other', async () => {
    const { body } = await at.kay.get<PersonPageView>('/records/ina');
    expect(Object.keys(body).sort()).toEqual(Object.keys(fields).sort());
  });
  test.each([
    ['ina', false],
    ['tom', false],
    ['dora', true],
    ['kay', true],
    ['per', false],
    ['rin', false],
    ['con', false],
  ] as const)('%s may change it: %s', async (reader, may) => {
    expect((await at[reader].get<PersonPageView>('/records/ina')).body.mayChange).toBe(may);
  });
});

const person = 'ina';
const changes: [string, object][] = [
  ['hours', { what: 'record', person, from: '2026-03-02', set: { fte: 0.5 } }],
  ['name', { what: 'own', person, set: { name: 'Ina Lund' } }],
  ['mail', { what: 'own', person, set: { mail: 'ina.lund@selkie.example' } }],
  ['dotted line', { what: 'own', person, set: { dottedTo: 'kay' } }],
  ['last day', { what: 'last day', person, left: '2026-12-31' }],
  ['post', { what: 'post', person, from: '2026-03-02', post: 'empty' }],
  ['acting', { what: 'acts', person, post: 'empty', from: '2026-03-02', to: null }],
  ['leaving a post', { what: 'leaves post', person, post: 'observer-1', last: '2026-03-02' }],
  ['line', { what: 'line', post: 'observer-1', from: '2026-03-02', reportsTo: 'director' }],
  ['role', { what: 'role', role: 'Diver', person, place: null, department: null, held: true }],
];
describe('every change of a person', () => {
  test.each(changes.flatMap(([name, change]) => readers.map(reader => [name, reader, change] as const)))(
    '%s by %s',
    async (_, reader, change) => {
      const { status } = await at[reader].call('POST', '/records/preview', { change });
      expect(status).toBe(reader === 'dora' || reader === 'kay' ? 200 : 403);
    },
  );
  test('nobody makes any of them for themselves', async () => {
    for (const [, change] of changes) {
      const own = JSON.parse(JSON.stringify(change).replaceAll('"ina"', '"kay"').replaceAll('observer-1', 'keeper'));
      const { status, problem } = await at.kay.call('POST', '/records/preview', { change: own });
      // Who would answer to themselves is told so before.
      expect([400, 403]).toContain(status);
      if (status === 403) expect(problem.detail).toContain('kept by somebody else');
    }
  });
});

test('what is newly wrong with live workflows is said before a change is saved', async () => {
  const change = { what: 'last day', person: 'tom', left: '2026-02-02' };
  const before = await at.kay.call<{ notes: string[] }>('POST', '/records/preview', { change });
  expect(before.status).toBe(200);
  expect(before.body.notes.join(' ')).toMatch(/Annual leave: /);
});
