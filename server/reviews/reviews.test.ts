/** Rounds of review against the stand-in for a directory: begun, answered several at once, unanswered, ended; nothing claimed before it is done. */
import { mkdtempSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { ReviewItemView, ReviewsView } from '@north-pebble/contract';
import { eq, like } from 'drizzle-orm';
import { directoryApp } from '../../standins/directory/app.ts';
import { types } from '../../standins/directory/schema.ts';
import { tables as t } from '../database/index.ts';
import { type Browser, eventually, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { workReviews } from './index.ts';

const token = 'a token of some length';
const enterprise = 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User';
const use = 'urn:north-pebble:scim:2.0:Use';
const [userType, groupType] = types;
let small: Small;
let server: Server;
let base: string;
let made: ReturnType<typeof directoryApp>;
const as = {} as Record<'dora' | 'tom' | 'ina' | 'kay', Browser>;
const members = () => {
  const [group] = made.directory.store.all('Group');
  return ((group as { members?: { value: string }[] }).members ?? []).length;
};
beforeAll(async () => {
  made = directoryApp({ token, folder: mkdtempSync(join(tmpdir(), 'np-scim-')), base: () => base });
  server = made.app.listen(0, '127.0.0.1');
  await new Promise(done => server.once('listening', done));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  small = await startSmall();
  for (const name of ['dora', 'tom', 'ina', 'kay'] as const) as[name] = await signedIn(small.base, name);
  const settings = { address: `${base}/scim/v2`, token, inside: true };
  await as.dora.call('PUT', '/connections/Directory', { kind: 'directory', settings, paused: false });
  const ids = ['ina', 'per', 'tom'].map(
    (person, n) =>
      made.directory.create(userType, {
        schemas: ['urn:ietf:params:scim:schemas:core:2.0:User', enterprise, use],
        userName: `${person}.account`,
        displayName: person,
        [enterprise]: { employeeNumber: person },
        ...(n === 0 ? { [use]: { lastUsed: '2026-01-20T08:00:00Z' } } : {}),
      }).id,
  );
  const group = made.directory.create(groupType, {
    schemas: ['urn:ietf:params:scim:schemas:core:2.0:Group'],
    displayName: 'Tide console',
  });
  made.directory.patch(groupType, group.id, {
    schemas: ['urn:ietf:params:scim:api:messages:2.0:PatchOp'],
    Operations: [{ op: 'add', path: 'members', value: ids.map(value => ({ value })) }],
  });
  const values = { group: 'Tide console', person: 'ina' };
  await small.db.insert(t.effects).values({
    key: 'R-9:1:0:group',
    connection: 'Directory',
    action: 'add to group',
    request: 'R-9',
    target: 'R-9',
    payload: { values } as never,
    state: 'delivered',
    attempts: 1,
    nextTry: 0,
    writtenAt: '2026-01-02T10:00:00Z',
  });
});
afterAll(async () => {
  await small.stop();
  server.closeAllConnections();
  server.close();
});

const round = { connection: 'Directory', groups: ['Tide console'], by: 'manager', due: '2026-02-09', unanswered: 'up' };
const reviews = async (browser: Browser) => (await browser.get<ReviewsView>('/reviews')).body;
const turn = (switches: object) =>
  fetch(`${base}/switches`, {
    method: 'PUT',
    headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
    body: JSON.stringify(switches),
  });

test.each([
  ['no group', { groups: [] }, 400],
  ['a day that has passed', { due: '2026-02-02' }, 400],
  ['a group that nobody is in', { groups: ['Moon'] }, 400],
  ['a connection that is not there', { connection: 'Moon' }, 404],
])('a round with %s does not begin', async (_, change, status) => {
  expect((await as.dora.call('POST', '/reviews', { ...round, ...change })).status).toBe(status);
  expect((await reviews(as.dora)).reviews).toEqual([]);
});

test('a round asks the managers once each, and is answered several at once; a directory that is down takes nobody out', async () => {
  const begun = await as.dora.call<ReviewsView>('POST', '/reviews', round);
  expect(begun.status).toBe(201);
  expect(begun.body.reviews).toMatchObject([{ counts: { all: 3, open: 3 }, groups: ['Tide console'] }]);
  const mine = (await reviews(as.tom)).mine;
  const ina = mine.find(item => item.name === 'ina') as ReviewItemView;
  expect(ina).toMatchObject({
    account: 'ina.account',
    lastUsed: '2026-01-20T08:00:00Z',
    request: 'R-9',
    state: 'open',
  });
  // One mail to each, however many they are asked of.
  const letters = await small.db.select().from(t.effects).where(like(t.effects.key, 'review:%:asked:%'));
  expect(new Set(letters.map(one => one.payload.to)).size).toBe(letters.length);
  // Who is not asked does not answer, and nobody for themselves.
  const answer = (browser: Browser, items: number[], what: string) =>
    browser.call<ReviewsView>('POST', '/reviews/answers', { items, answer: what, note: 'Moved on.' });
  expect((await answer(as.ina, [ina.id], 'keep')).status).toBe(404);
  expect((await answer(as.tom, [ina.id, 99_999], 'keep')).status).toBe(404);
  await turn({ down: true });
  expect((await answer(as.tom, [ina.id], 'remove')).status).toBe(200);
  expect((await answer(as.tom, [ina.id], 'keep')).status).toBe(409);
  const all = async () => (await as.dora.get<ReviewItemView[]>(`/reviews/${begun.body.reviews[0].id}`)).body;
  expect((await all()).find(item => item.id === ina.id)).toMatchObject({
    state: 'to be taken away',
    note: 'Moved on.',
  });
  expect(members()).toBe(3);
  await turn({ down: false });
  await as.dora.call('POST', '/connections/Directory/again', {});
  await eventually(async () => (await all()).find(item => item.id === ina.id)?.state === 'taken away');
  expect(members()).toBe(2);
});

test('what nobody answers goes up once, then it is taken away, and the round ends', async () => {
  const [{ id }] = (await reviews(as.dora)).reviews;
  expect(await workReviews(small.serving.house)).toEqual({ up: 0, removed: 0 });
  await small.db.update(t.house).set({ now: '2026-02-10T10:00:00Z' });
  const first = await workReviews(small.serving.house);
  expect(first.up + first.removed).toBe(2);
  expect(first.up).toBeGreaterThan(0);
  expect(await workReviews(small.serving.house)).toEqual({ up: 0, removed: 0 });
  const raised = await small.db.select().from(t.reviewItems).where(eq(t.reviewItems.due, '2026-02-17'));
  expect(raised).toHaveLength(first.up);
  expect(raised.every(item => item.before !== null && item.reviewer !== item.before)).toBe(true);
  await small.db.update(t.house).set({ now: '2026-02-18T10:00:00Z' });
  expect(await workReviews(small.serving.house)).toEqual({ up: 0, removed: first.up });
  await eventually(async () =>
    (await as.dora.get<ReviewItemView[]>(`/reviews/${id}`)).body.every(item => item.state === 'taken away'),
  );
  expect(members()).toBe(0);
  const [ended] = (await reviews(as.dora)).reviews;
  expect(ended.endedAt).toBe('2026-02-18T10:00:00Z');
  expect(ended.counts).toEqual({ all: 3, open: 0, kept: 0, removed: 3 });
});
