/** Comings and leavings, and everything of a leaver given to others together. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type {
  DecidesView,
  HandedOver,
  HandOverView,
  ListsView,
  MovesView,
  PostsView,
  RolesView,
} from '@north-pebble/contract';
import { eq, like } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
const at = {} as Record<'ina' | 'tom' | 'kay' | 'dora', Browser>;
let request: string;
beforeAll(async () => {
  small = await startSmall();
  for (const one of ['ina', 'tom', 'kay', 'dora'] as const) at[one] = await signedIn(small.base, one);
  request = (await at.ina.ask('2026-03-09', '2026-03-13')).body.request;
  const { db } = small;
  await db.update(t.people).set({ leftOn: '2026-02-27' }).where(eq(t.people.id, 'tom'));
  await db.insert(t.roles).values({ role: 'Boat keeper', person: 'tom', place: 'ovay' });
  await db.insert(t.covers).values({ person: 'ina', by: 'tom', from: '2026-03-09', to: '2026-03-20' });
  await db.insert(t.lists).values({
    id: 'boats',
    name: 'Boats',
    columns: [{ id: 'seats', label: 'Seats', kind: 'number' }],
    owners: ['tom'] as never,
  });
  await db.insert(t.listRows).values({ list: 'boats', id: 'tern', title: 'Tern', cells: { seats: 8 } });
  await db.update(t.workflows).set({ permissions: { edit: ['tom', 'kay'], publish: ['kay'], see: [] } });
  await db.insert(t.effects).values({
    key: 'group of Tom',
    connection: 'Directory',
    action: 'add to group',
    request,
    payload: { values: { group: 'Boat keepers', person: 'tom' } } as never,
    state: 'delivered',
    attempts: 1,
    nextTry: 0,
    writtenAt: '2026-01-02T10:00:00Z',
  });
  await raiseDirectoryVersion(db);
});
afterAll(() => small.stop());

const held = async () => (await at.kay.get<HandOverView>('/records/tom/hand-over')).body;
const give = (to: string, items: unknown, browser = at.kay) =>
  browser.call<HandedOver>('POST', '/records/tom/hand-over', { to, items, reason: 'Tom leaves.' });

describe('the house as it is kept', () => {
  test('posts tell who holds them and who acts meanwhile', async () => {
    const { rows } = (await at.kay.get<PostsView>('/posts')).body;
    expect(rows.find(one => one.id === 'lead')).toMatchObject({
      standing: 'held',
      holder: { name: 'Tom Lund' },
      reports: 2,
    });
    expect(rows.find(one => one.id === 'empty')).toMatchObject({ standing: 'vacant', meanwhile: 'Dora Quill' });
  });
  test('roles tell who has them, and rights what they open', async () => {
    const { rows, rights } = (await at.kay.get<RolesView>('/roles')).body;
    expect(rows).toContainEqual(
      expect.objectContaining({ role: 'Boat keeper', place: { id: 'ovay', name: 'Ovay Station' } }),
    );
    expect(rights.find(one => one.right === 'designer')?.opens).toContain('Designs, tries and publishes workflows.');
  });
  test('who would decide something is told step by step, on any day', async () => {
    const decides = async (day: string) =>
      (await at.kay.get<DecidesView>(`/decides?person=ina&workflow=annual&day=${day}`)).body.steps[0];
    expect(await decides('2026-02-10')).toMatchObject({ people: [{ name: 'Tom Lund' }], gap: null });
    // Once he has left it goes up the line.
    expect(await decides('2026-03-10')).toMatchObject({ people: [{ name: 'Dora Quill' }] });
  });
  test('the owner of a list edits its rows, and nothing else', async () => {
    const row = (title: string) => ({
      what: 'row',
      list: 'boats',
      row: { id: 'new', title, cells: { seats: 4 }, from: null, to: null },
    });
    const tried = await at.tom.call<{ digest: string }>('POST', '/records/preview', { change: row('Skua') });
    expect(tried.status).toBe(200);
    const { digest } = tried.body;
    expect(
      (await at.tom.call('POST', '/records/changes', { change: row('Skua'), digest, reason: 'Bought.' })).status,
    ).toBe(200);
    expect((await at.tom.get<ListsView>('/lists')).body).toMatchObject({
      mayKeep: false,
      lists: [{ id: 'boats', rows: [{ title: 'Skua' }, { title: 'Tern' }] }],
    });
    expect((await at.ina.call('POST', '/records/preview', { change: row('Auk') })).status).toBe(403);
    expect((await at.ina.get<ListsView>('/lists')).body.lists).toEqual([]);
    const wrong = { ...row('Auk'), row: { ...row('Auk').row, cells: { seats: 'many' } } };
    expect((await at.tom.call('POST', '/records/preview', { change: wrong })).problem.faults?.[0]).toMatchObject({
      message: 'Seats takes a number.',
    });
  });
});

describe('somebody leaves', () => {
  test('is listed by day with how much is still theirs', async () => {
    const { leaves } = (await at.kay.get<MovesView>('/moves')).body;
    expect(leaves).toMatchObject([
      { person: { name: 'Olda Leaver' } },
      { person: { name: 'Tom Lund' }, day: '2026-02-27', post: 'Observatory lead', open: 7 },
    ]);
  });
  test('what they hold is told with what becomes of it otherwise', async () => {
    expect((await held()).items.map(({ what, title }) => [what, title])).toEqual([
      ['task', 'Annual leave, Mon 9 to Fri 13 March'],
      ['role', 'Boat keeper for Ovay Station'],
      ['cover', 'Stands in for Ina Okell, Mon 9 to Fri 20 March 2026'],
      ['list', 'Owns the list Boats'],
      ['workflow', expect.stringContaining('Annual leave')],
      ['report', 'Tide observer, held by Ina Okell, reports to Observatory lead'],
      ['report', 'Tide observer, held by Per Lauder, reports to Observatory lead'],
    ]);
    // What stands outside is told beside it: a request takes it away.
    expect((await held()).access).toEqual([{ connection: 'Directory', what: 'Boat keepers', request, until: null }]);
  });
  test('it is handed over together; what cannot be is said with why, and the role changes hands on the day', async () => {
    const { items } = await held();
    const all = items.map(({ what, id }) => ({ what, id }));
    expect((await give('old', all)).problem.faults?.[0]).toMatchObject({ field: 'to' });
    expect((await give('per', [{ what: 'task', id: 'none' }])).status).toBe(409);
    const { status, body } = await give('per', all);
    expect(status).toBe(200);
    // A post does not report to itself.
    expect(body.stayed).toMatchObject([{ what: 'report', why: 'A post does not report to itself.' }]);
    expect(body.done).toBe(6);
    const { rows } = (await at.kay.get<RolesView>('/roles')).body;
    expect(rows.filter(one => one.role === 'Boat keeper')).toMatchObject([
      { person: { name: 'Per Lauder' }, from: '2026-02-28', to: null },
      { person: { name: 'Tom Lund' }, to: '2026-02-27' },
    ]);
    const [workflow] = await small.db.select().from(t.workflows);
    expect(workflow.permissions).toEqual({ edit: ['per', 'kay'], publish: ['kay'], see: [] });
    expect((await small.db.select().from(t.covers))[0]).toMatchObject({ by: 'per', setBy: 'kay' });
    expect((await held()).items.map(one => one.what)).toEqual(['report']);
    const letters = await small.db.select().from(t.effects).where(like(t.effects.key, 'hand over:%'));
    expect(letters.map(one => [one.payload.to, one.payload.subject])).toEqual([
      ['per', 'What Tom Lund hands over to you'],
    ]);
    expect(letters[0].payload.body).toContain('- Boat keeper for Ovay Station');
    const task = (await small.db.select().from(t.tasks).where(eq(t.tasks.request, request))).find(one => one.open);
    expect(task?.holder).toBe('per');
  });
  test('nobody hands their own things over, or to themselves', async () => {
    expect((await give('kay', [{ what: 'report', id: 'observer-2' }])).status).toBe(403);
    expect((await at.tom.get('/records/tom/hand-over')).status).toBe(403);
  });
});
