/** A hire to its end, and what is kept when a step cannot be carried out. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { PeopleView, RequestView, StuckRow } from '@north-pebble/contract';
import type { Command, Definition } from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import { flow, task, who } from '../../../core/testing/run.ts';
import { tables as t } from '../../database/index.ts';
import { raiseDirectoryVersion } from '../../house/index.ts';
import { type Browser, putLive, type Small, signedIn, startSmall } from '../../testing/serving.ts';

const hiring = {
  ...flow(task({ who: who({ kind: 'person', person: 'tom' }) }), {
    verb: 'Record',
    id: 'put',
    when: null,
    effect: {
      kind: 'add person',
      values: [
        { name: 'name', formula: 'Remark' },
        { name: 'first day', formula: 'date("2026-03-02")' },
        { name: 'post', formula: '"deputy"' },
      ],
    },
  }),
} as Definition;

let small: Small;
let ina: Browser;
let tom: Browser;
let kay: Browser;
beforeAll(async () => {
  small = await startSmall();
  await putLive(small.db, 'hiring', hiring);
  await small.db.insert(t.posts).values({ id: 'deputy', title: 'Deputy', department: 'observatory', place: 'ovay' });
  await small.db.insert(t.lists).values({
    id: 'open-posts',
    name: 'Open posts',
    columns: [{ id: 'post-on-file', label: 'Post on file', kind: 'text' }] as never,
    owners: [],
  });
  await small.db.insert(t.listRows).values({
    list: 'open-posts',
    id: 'row-1',
    title: 'Deputy',
    cells: { 'post-on-file': 'deputy' },
    from: '2026-01-01',
    to: null,
  });
  await raiseDirectoryVersion(small.db);
  [ina, tom, kay] = [
    await signedIn(small.base, 'ina'),
    await signedIn(small.base, 'tom'),
    await signedIn(small.base, 'kay'),
  ];
});
afterAll(() => small.stop());

async function asked(name: string): Promise<string> {
  const dates = { from: { date: '2026-02-09', half: 'am' }, to: { date: '2026-02-10', half: 'pm' } };
  const answers = { kind: 'sick', dates, amount: 1, start: '2026-03-02', urgent: true, remark: name };
  const sent = await ina.call<{ request: string }>('POST', '/requests', {
    id: randomUUID(),
    workflow: 'hiring',
    answers,
  });
  expect(sent.status).toBe(201);
  return sent.body.request;
}
async function done(request: string) {
  const view = (await tom.get<RequestView>(`/requests/${request}`)).body;
  return tom.command(request, {
    kind: 'complete',
    seen: view.version,
    task: view.tasks[0]?.id,
    ticked: [],
    answers: {},
  } as unknown as Command);
}

test('somebody hired into an advertised post is on file, and the post is not advertised any more', async () => {
  const request = await asked('Mika Odegard');
  expect((await done(request)).status).toBe(200);
  expect((await ina.get<RequestView>(`/requests/${request}`)).body.status).toBe('closed');
  const { rows } = (await kay.get<PeopleView>('/records?words=odegard&standing=comes')).body;
  expect(rows).toMatchObject([{ name: 'Mika Odegard', post: null, joined: '2026-03-02' }]);
  const [row] = await small.db.select().from(t.listRows).where(eq(t.listRows.id, 'row-1'));
  expect(row?.to).toBe('2026-02-01');
});

test('a step that fails changes nothing, stands under what cannot go on, and goes on once its cause is mended', async () => {
  const request = await asked('Nuri Hale');
  const before = (await tom.get<RequestView>(`/requests/${request}`)).body;
  // As if a version of the workflow had been lost.
  await small.db.update(t.requests).set({ workflowVersion: 99 }).where(eq(t.requests.id, request));
  const failed = await tom.command(request, {
    kind: 'complete',
    seen: before.version,
    task: before.tasks[0]?.id,
    ticked: [],
    answers: {},
  } as unknown as Command);
  expect([failed.status, failed.problem.detail]).toEqual([500, expect.stringContaining('HR operations can see it')]);
  await small.db.update(t.requests).set({ workflowVersion: 1 }).where(eq(t.requests.id, request));
  const stuck = async () =>
    (await kay.get<StuckRow[]>('/requests/stuck')).body.filter(one => one.cause === 'step failing');
  expect(await stuck()).toMatchObject([
    { request, remedies: ['send again'], words: expect.stringMatching(/^What Tom Lund did could not be carried out/) },
  ]);
  expect((await ina.call('POST', `/requests/${request}/fault/again`)).status).toBe(403);
  expect((await kay.call('POST', `/requests/${request}/fault/again`)).status).toBe(204);
  expect(await stuck()).toEqual([]);
  const after = (await ina.get<RequestView>(`/requests/${request}`)).body;
  expect(after.status).toBe('closed');
  expect(after.trail.some(line => line.who === 'Tom Lund')).toBe(true);
  expect((await kay.call('POST', `/requests/${request}/fault/again`)).status).toBe(404);
});
