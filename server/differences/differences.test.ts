/** Comparisons with the stand-in for a directory: found, mended by effects, stopped, and what happens when it does not answer. */
import { mkdtempSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { DifferencesView, NamedView } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
import { directoryApp } from '../../standins/directory/app.ts';
import { types } from '../../standins/directory/schema.ts';
import { tables as t } from '../database/index.ts';
import { type Browser, eventually, type Small, signedIn, startSmall } from '../testing/serving.ts';

const token = 'a token of some length';
const enterprise = 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User';
const [userType, groupType] = types;
let small: Small;
let server: Server;
let base: string;
let made: ReturnType<typeof directoryApp>;
let dora: Browser;
let kay: Browser;
beforeAll(async () => {
  made = directoryApp({ token, folder: mkdtempSync(join(tmpdir(), 'np-scim-')), base: () => base });
  server = made.app.listen(0, '127.0.0.1');
  await new Promise(done => server.once('listening', done));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  small = await startSmall();
  [dora, kay] = await Promise.all(['dora', 'kay'].map(one => signedIn(small.base, one)));
  const settings = { address: `${base}/scim/v2`, token, inside: true };
  const saved = await dora.call('PUT', '/connections/Directory', { kind: 'directory', settings, paused: false });
  expect(saved.status).toBe(200);
});
afterAll(async () => {
  await small.stop();
  server.closeAllConnections();
  server.close();
});

const { get, all } = {
  get: async (browser = dora) => (await browser.get<DifferencesView>('/connections/Directory/differences')).body,
  all: (name: 'User' | 'Group') => made.directory.store.all(name),
};
const account = (person: string, more: object = {}) =>
  made.directory.create(userType, {
    schemas: ['urn:ietf:params:scim:schemas:core:2.0:User', enterprise],
    userName: person,
    [enterprise]: { employeeNumber: person },
    ...more,
  });
async function compared(): Promise<DifferencesView> {
  await dora.call('POST', '/connections/Directory/differences');
  await eventually(async () => (await get()).state !== 'running');
  return get();
}
const turn = (switches: object) =>
  fetch(`${base}/switches`, {
    method: 'PUT',
    headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
    body: JSON.stringify(switches),
  });

test('what differs is found with its cause, mended one by one or together, and then nothing differs', async () => {
  expect(await get()).toMatchObject({ state: null, rows: [] });
  account('old', { displayName: 'Olda Leaver' });
  account('ghost', { displayName: 'Ghost' });
  const found = await compared();
  expect(found).toMatchObject({ state: 'done', read: 2, total: 2 });
  const whats = found.rows.map(row => row.what);
  expect(whats).toContain('Ina Okell has no account');
  expect(whats).toContain('The account old of Olda Leaver can be used');
  expect(whats).toContain('The account ghost (Ghost) can be used');
  expect((await get(kay)).rows).toHaveLength(found.rows.length);

  const leaver = found.rows.find(row => row.key.startsWith('still open'));
  const mend = (keys?: string[]) =>
    dora.call<DifferencesView>('POST', '/connections/Directory/differences/mended', keys ? { keys } : {});
  // An impatient hand asks twice, and it is asked for once.
  await Promise.all([mend([leaver?.key ?? '']), mend([leaver?.key ?? ''])]);
  await eventually(async () => (await get()).rows.find(row => row.key === leaver?.key)?.mending === 'done');
  expect(all('User').find(one => one.userName === 'old')?.active).toBe(false);
  const effects = await small.db.select().from(t.effects).where(eq(t.effects.connection, 'Directory'));
  expect(effects).toHaveLength(1);

  await mend();
  await eventually(async () => (await get()).rows.every(row => row.mends === null || row.mending === 'done'));
  expect(all('User').find(one => one[enterprise] && JSON.stringify(one[enterprise]).includes('"ina"'))).toMatchObject({
    displayName: 'Ina Okell',
    active: true,
  });
  expect((await compared()).rows).toEqual([]);
});

test('a group that a request gave and that somebody took away by hand is given again', async () => {
  made.directory.create(groupType, {
    schemas: ['urn:ietf:params:scim:schemas:core:2.0:Group'],
    displayName: 'Console',
  });
  await small.db.insert(t.effects).values({
    key: 'R-9:1:0:Directory',
    connection: 'Directory',
    action: 'add to group',
    request: null,
    payload: { values: { person: 'ina', group: 'Console' } } as never,
    state: 'delivered',
    attempts: 1,
    nextTry: 0,
    writtenAt: '2026-02-02T10:00:00Z',
    result: {},
  });
  const { rows } = await compared();
  expect(rows.map(row => [row.what, row.mends])).toEqual([['Ina Okell is not in Console', 'add to group']]);
  await dora.call('POST', '/connections/Directory/differences/mended', {});
  await eventually(async () => (await get()).rows.every(row => row.mending === 'done'));
  expect((await compared()).rows).toEqual([]);
});

test('a group that a review took away is not given again, and a rule gives it to whoever has the post', async () => {
  const effect = (key: string, action: string, doneAt: number) => ({
    key,
    connection: 'Directory',
    action,
    request: null,
    payload: { values: { person: 'ina', group: 'Ferry' } } as never,
    state: 'delivered' as const,
    attempts: 1,
    nextTry: 0,
    writtenAt: '2026-02-02T10:00:00Z' as const,
    result: {},
    doneAt,
  });
  made.directory.create(groupType, {
    schemas: ['urn:ietf:params:scim:schemas:core:2.0:Group'],
    displayName: 'Ferry',
  });
  await small.db
    .insert(t.effects)
    .values([effect('R-9:2:0:Directory', 'add to group', 1), effect('review:1:ina', 'take out of group', 2)]);
  expect((await compared()).rows).toEqual([]);
  const rules = (more: object[]) =>
    dora.call('PUT', '/connections/Directory', {
      kind: 'directory',
      settings: { address: `${base}/scim/v2`, token: '', inside: true, groups: more },
      paused: false,
    });
  expect((await rules([{ by: 'post', value: '', group: 'Ferry' }])).status).toBe(400);
  expect((await rules([{ by: 'everybody', value: '', group: 'Ferry' }])).status).toBe(200);
  const { rows } = await compared();
  expect(rows.find(row => row.what === 'Ina Okell is not in Ferry')).toMatchObject({
    cause: 'It goes with their post, their place or their department.',
    mends: 'add to group',
  });
  await dora.call('POST', '/connections/Directory/differences/mended', {});
  await eventually(async () => (await get()).rows.every(row => row.mending === 'done'));
  expect((await compared()).rows).toEqual([]);
  // What was mended is no reason of its own: without the rule it has to go again.
  await rules([]);
  expect((await compared()).rows.map(row => row.what)).toEqual([]);
  await rules([{ by: 'post', value: 'Nobody has this', group: 'Ferry' }]);
  expect((await compared()).rows.every(row => row.mends === 'take out of group')).toBe(true);
});

test('groups and spaces are found by letters of their names, to be picked; one that is silent says so', async () => {
  const found = async (what: string, typed: string) =>
    (await dora.get<NamedView>(`/connections/Directory/named?what=${what}&typed=${typed}`)).body;
  expect(await found('groups', 'FERR')).toEqual({ names: ['Ferry'], more: 0, fault: null });
  expect((await found('groups', '')).names).toEqual(['Console', 'Ferry']);
  expect(await found('spaces', '%22)%20or%20(')).toEqual({ names: [], more: 0, fault: null });
  await turn({ nextBroken: 1 });
  expect(await found('groups', '')).toEqual({ names: [], more: 0, fault: 'Something is broken' });
});

test('a directory that does not answer is said, and what was found before stays', async () => {
  account('spectre', { displayName: 'Spectre' });
  expect((await compared()).rows).toHaveLength(1);
  await turn({ nextBroken: 1 });
  const failed = await compared();
  expect(failed).toMatchObject({ state: 'failed', fault: 'Something is broken' });
  expect(failed.rows).toHaveLength(1);
  expect(await compared()).toMatchObject({ state: 'done', fault: null });
});

test('stopped while it goes on, it stays stopped, and is begun anew', async () => {
  await turn({ slow: 300 });
  await dora.call('POST', '/connections/Directory/differences');
  expect((await get()).state).toBe('running');
  await dora.call('DELETE', '/connections/Directory/differences');
  await turn({ slow: 0 });
  expect((await get()).state).toBe('stopped');
  expect(await compared()).toMatchObject({ state: 'done' });
});

test('a connection that cannot say what it holds is refused; one that is not there is not there', async () => {
  const settings = { address: 'http://127.0.0.1:1/calls', secret: 'a secret of sixteen letters', inside: true };
  await dora.call('PUT', '/connections/Payroll', { kind: 'http', settings, paused: false });
  expect((await dora.call('POST', '/connections/Payroll/differences')).status).toBe(422);
  expect((await dora.call('POST', '/connections/Nothing/differences')).status).toBe(404);
});
