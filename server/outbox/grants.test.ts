/** What was granted is taken when nothing stands any more that grants it, on the day that is said last. */
import { randomUUID } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { RequestView } from '@north-pebble/contract';
import type { Command, Definition } from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import { halves } from '../../core/testing/house.ts';
import { decide, flow, given, good } from '../../core/testing/run.ts';
import { directoryApp } from '../../standins/directory/app.ts';
import { membersOf } from '../../standins/directory/store.ts';
import { tables as t } from '../database/index.ts';
import { type Browser, eventually, putLive, type Small, signedIn, startSmall } from '../testing/serving.ts';

const token = 'a token of some length';
let small: Small;
let server: Server;
let base: string;
let made: ReturnType<typeof directoryApp>;
let ina: Browser;
let tom: Browser;
beforeAll(async () => {
  made = directoryApp({ token, folder: mkdtempSync(join(tmpdir(), 'np-scim-')), base: () => base });
  server = made.app.listen(0, '127.0.0.1');
  await new Promise(done => server.once('listening', done));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const create = (path: string, body: object) =>
    fetch(`${base}/scim/v2${path}`, {
      method: 'POST',
      headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/scim+json' },
      body: JSON.stringify(body),
    });
  const core = 'urn:ietf:params:scim:schemas:core:2.0';
  expect((await create('/Users', { schemas: [`${core}:User`], userName: 'ina.okell' })).status).toBe(201);
  expect((await create('/Groups', { schemas: [`${core}:Group`], displayName: 'Consoles' })).status).toBe(201);
  small = await startSmall();
  const dora = await signedIn(small.base, 'dora');
  const settings = { address: `${base}/scim/v2`, token, inside: true };
  await dora.call('PUT', '/connections/Directory', { kind: 'directory', settings, paused: false });
  const provision = {
    verb: 'Provision',
    id: 'group',
    when: null,
    connection: 'Directory',
    action: 'add to group',
    values: [
      { name: 'account', formula: '"ina.okell"' },
      { name: 'group', formula: '"Consoles"' },
    ],
    removeOn: 'Start date',
    waits: true,
  };
  await putLive(small.db, 'access', {
    ...flow(decide({ outcomes: [good] }), provision),
    afterwards: { change: 'decided', cancel: 'at once' },
  } as Definition);
  ina = await signedIn(small.base, 'ina');
  tom = await signedIn(small.base, 'tom');
});
afterAll(async () => {
  await small.stop();
  server.closeAllConnections();
  server.close();
});

const group = () => made.directory.store.all('Group').find(one => one.displayName === 'Consoles');
const isMember = () => membersOf(group() as never).length === 1;
const view = async (request: string) => (await ina.get<RequestView>(`/requests/${request}`)).body;
const answers = (until: string, week: number) => ({
  ...given,
  dates: halves(`2026-0${3 + week}-02`, `2026-0${3 + week}-03`),
  start: until,
});
async function approve(request: string) {
  const { version, tasks } = (await tom.get<RequestView>(`/requests/${request}`)).body;
  const command = { kind: 'answer', seen: version, task: tasks[0]?.id, outcome: 'yes', note: null } as Command;
  expect((await tom.command(request, command)).status).toBe(200);
}
let n = 0;
async function granted(until: string): Promise<string> {
  const sent = await ina.call<{ request: string }>('POST', '/requests', {
    id: randomUUID(),
    workflow: 'access',
    answers: answers(until, n++),
  });
  expect(sent.status).toBe(201);
  await approve(sent.body.request);
  await eventually(async () => (await view(sent.body.request)).status === 'closed', 20);
  return sent.body.request;
}
const on = async (day: string) => {
  await small.db.update(t.house).set({ now: `${day}T12:00:00Z` });
  small.serving.house.wake();
};
const says = async (request: string, words: RegExp) => (await view(request)).trail.some(line => words.test(line.text));

test('two grants of one thing: the first that ends takes nothing away, the last one does', async () => {
  const april = await granted('2026-04-30');
  const may = await granted('2026-05-29');
  expect(isMember()).toBe(true);
  await on('2026-05-04');
  await eventually(() => says(april, new RegExp(`${may} gives the same, so it stays`)), 20);
  expect(isMember()).toBe(true);
  await on('2026-06-01');
  await eventually(() => says(may, /is taken back/), 20);
  expect(isMember()).toBe(false);
});

test('a later day that was approved after the first is the day on which it is taken, and nothing is given twice', async () => {
  await on('2026-06-02');
  const request = await granted('2026-06-30');
  const { version } = await view(request);
  const changed = await ina.command(request, {
    kind: 'change after approval',
    seen: version,
    answers: answers('2026-07-31', n - 1),
    note: null,
  } as unknown as Command);
  expect(changed.status).toBe(200);
  await approve(request);
  expect((await view(request)).status).toBe('closed');
  const asked = async () =>
    (await small.db.select().from(t.effects)).filter(one => one.request === request && one.connection === 'Directory');
  expect((await asked()).filter(one => one.undoes === null)).toHaveLength(1);
  await on('2026-07-01');
  // What was due on the old day would have been taken by the time that this comes round.
  await small.serving.house.wake();
  await eventually(
    async () => (await asked()).every(one => one.undoes === null || one.notBefore?.startsWith('2026-07-31') === true),
    20,
  );
  expect(isMember()).toBe(true);
  await on('2026-08-03');
  await eventually(() => says(request, /is taken back/), 20);
  expect(isMember()).toBe(false);
});

test('a group that the directory does not know stops publishing, and the nearest that it knows is offered', async () => {
  const kay = await signedIn(small.base, 'kay');
  const [row] = await small.db.select().from(t.workflowVersions).where(eq(t.workflowVersions.workflow, 'access'));
  const misspelt = JSON.parse(JSON.stringify(row.definition).replace('Consoles', 'Consols'));
  const made = await kay.call<{ id: string }>('POST', '/workflows', { definition: { ...misspelt, name: 'Misspelt' } });
  expect(made.status).toBe(201);
  const publish = async (id: string) => kay.call('POST', `/workflows/${id}/publish`, { revision: 1, comment: 'now' });
  const refused = await publish(made.body.id);
  expect(refused.status).toBe(422);
  expect(refused.problem.detail).toContain('Directory has no group “Consols”');
  const right = { ...row.definition, name: 'Spelt' };
  const other = await kay.call<{ id: string }>('POST', '/workflows', { definition: right });
  expect((await publish(other.body.id)).problem?.detail ?? '').not.toContain('has no group');
});
