/** What somebody holds who leaves: for those who help them go and look after them, and for nobody else. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { HoldsView } from '@north-pebble/contract';
import { halves } from '../../../core/testing/house.ts';
import { flow, given, task } from '../../../core/testing/run.ts';
import { tables as t } from '../../database/index.ts';
import { type Browser, putLive, type Small, signedIn, startSmall } from '../../testing/serving.ts';

let small: Small;
const as = {} as Record<'ina' | 'tom' | 'dora' | 'per' | 'sub' | 'con', Browser>;
beforeAll(async () => {
  small = await startSmall();
  for (const name of ['ina', 'tom', 'dora', 'per', 'sub', 'con'] as const) as[name] = await signedIn(small.base, name);
  await putLive(small.db, 'leaving', flow(task()));
});
afterAll(() => small.stop());

const answers = { ...given, dates: halves('2026-02-09', '2026-02-10') };
const effect = (
  action: 'add to group' | 'take out of group' | 'create space' | 'create account' | 'disable account',
  values: object,
  more: object = {},
) => ({
  key: randomUUID(),
  connection: 'Directory',
  action,
  request: null,
  target: 'x',
  payload: { values } as never,
  state: 'delivered' as const,
  attempts: 1,
  nextTry: 0,
  writtenAt: '2026-01-02T10:00:00Z',
  ...more,
});

test('open tasks, access that stands, papers that are needed and reviews are listed for those who may', async () => {
  const sent = await as.tom.call<{ request: string }>('POST', '/requests', {
    id: randomUUID(),
    workflow: 'leaving',
    answers,
  });
  const { request } = sent.body;
  const { body: asked } = await as.ina.ask('2026-03-09', '2026-03-13');
  await small.db.insert(t.effects).values([
    effect('add to group', { group: 'Tide console', person: 'tom' }, { until: '2026-05-02' }),
    effect('add to group', { group: 'Lamp console', person: 'tom' }, { state: 'undone' }),
    effect('add to group', { group: 'Tide console', person: 'ina' }),
    // What was taken away since, by a review or another request, is held no more.
    effect('add to group', { group: 'Mail list', person: 'tom' }, { doneAt: 1 }),
    effect('take out of group', { group: 'mail list', person: 'tom' }, { doneAt: 2 }),
    effect('create account', { account: 'tomas', person: 'tom' }, { doneAt: 1 }),
    effect('disable account', { person: 'tom' }, { doneAt: 3 }),
    effect('create space', { name: 'T Tides', owner: 'tom' }, { result: { space: 'T Tides 2' } }),
  ]);
  const paper = { kind: 'Pass', field: 'x', file: randomUUID(), keptOn: '2026-01-01', holder: 'Tom', request };
  await small.db.insert(t.papers).values([
    { ...paper, key: 'a', person: 'tom', expires: '2027-01-01' },
    { ...paper, key: 'b', person: 'tom', expires: '2026-01-31', replacedOn: '2026-01-20' },
  ]);
  const holds = async (browser: Browser) => browser.get<HoldsView>(`/requests/${request}/holds`);
  const { body } = await holds(as.dora);
  expect(body.taskRows.map(row => row.request)).toContain(asked.request);
  expect(body.tasks).toBe(body.taskRows.length);
  expect(body.access).toEqual([
    { connection: 'Directory', what: 'Tide console', request: null, until: '2026-05-02' },
    { connection: 'Directory', what: 'the space T Tides 2, as its owner', request: null, until: null },
  ]);
  expect(body.papers).toEqual([{ kind: 'Pass', expires: '2027-01-01' }]);
  expect((await holds(as.tom)).body.papers).toHaveLength(1);
  expect((await holds(as.per)).status).toBe(200);
  for (const browser of [as.ina, as.con]) expect((await holds(browser)).status).toBe(404);
});
