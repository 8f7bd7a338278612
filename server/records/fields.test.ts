/** Every field of a person as every kind of reader sees it, and every kind of change as every kind of person may make it. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { ExportRows, LinesView, PeopleView, PersonPageView } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
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
  await small.db.update(t.people).set({ number: '10412' }).where(eq(t.people.id, 'ina'));
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
  reads: everybody,
  mail: record,
  number: record,
  joined: record,
  left: everybody,
  standing: everybody,
  place: everybody,
  department: everybody,
  manager: record,
  managerWhy: everybody,
  dottedTo: everybody,
  posts: everybody,
  reports: everybody,
  roles: everybody,
  lines: record,
  changes: record,
  // Themselves, and HR: who keeps records, and who looks after them.
  circumstances: ['shown', 'hidden', 'shown', 'shown', 'hidden', 'hidden', 'shown'],
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

describe('what colleagues read of one another', () => {
  const people = async (who: Reader, query = '') => (await at[who].get<PeopleView>(`/records?${query}`)).body;
  const ina = async (who: Reader) => (await people(who)).rows.find(row => row.name === 'Ina Okell');

  test('is their name, post, place and department where the house says nothing', async () => {
    expect(await ina('rin')).toEqual({
      id: 'ina',
      name: 'Ina Okell',
      post: 'Tide observer',
      place: 'Ovay Station',
      department: 'Observatory',
      manager: null,
      joined: null,
      left: null,
      mail: null,
      standing: 'here',
    });
    expect(await ina('tom')).toMatchObject({ mail: 'ina@selkie.example', joined: '2020-01-01', manager: 'Tom Lund' });
    expect(await ina('con')).toMatchObject({ mail: 'ina@selkie.example' });
    // Nor is it found out by looking for it.
    expect((await people('rin', 'words=ina@selkie')).rows).toEqual([]);
    expect((await people('rin', 'standing=left')).rows).toEqual([]);
    expect((await people('kay', 'standing=left')).rows).toHaveLength(1);
    const lines = (await at.rin.get<LinesView>('/lines')).body;
    expect(lines.posts.map(post => post.id).sort()).toEqual(['ring-a', 'ring-b']);
  });

  test('is more where the house says so, field by field', async () => {
    expect((await at.kay.call('PUT', '/colleagues', { fields: ['mail'] })).status).toBe(403);
    expect((await at.dora.call('PUT', '/colleagues', { fields: ['pay'] })).status).toBe(400);
    expect((await at.dora.call('PUT', '/colleagues', { fields: ['mail', 'manager'] })).body).toEqual({
      fields: ['mail', 'manager'],
    });
    expect(await ina('rin')).toMatchObject({ mail: 'ina@selkie.example', manager: 'Tom Lund', joined: null });
    expect((await at.rin.get<LinesView>('/lines')).body.posts.length).toBeGreaterThan(5);
  });

  test('is taken along as a file by those who may, and each time is kept', async () => {
    const files = [
      '/records/file.csv',
      '/requests/export.csv',
      '/planner/file.csv?from=2026-02-02&to=2026-02-15',
      '/leave/balances/file.csv',
    ];
    const status = async (who: Reader, path: string) =>
      (await fetch(`${small.base}/api${path}`, { headers: { Cookie: at[who].cookie } })).status;
    for (const path of files) {
      expect(await status('tom', path)).toBe(403);
      expect(await status('per', path)).toBe(200);
    }
    const { body } = await at.dora.get<ExportRows>('/exports');
    expect(body.map(row => `${row.who}: ${row.what.split(',')[0]}`)).toEqual([
      'Per Lauder: Balances',
      'Per Lauder: Planner',
      'Per Lauder: Requests',
      'Per Lauder: People',
    ]);
    expect((await at.per.get('/exports')).status).toBe(403);
  });
});
