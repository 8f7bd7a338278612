import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { RequestView, StuckRow } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { type Browser, eventually, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
let ina: Browser;
let kay: Browser;
beforeAll(async () => {
  small = await startSmall();
  ina = await signedIn(small.base, 'ina');
  kay = await signedIn(small.base, 'kay');
});
afterAll(() => small.stop());

const stuck = async () => (await kay.get<StuckRow[]>('/requests/stuck')).body;
const standing = async (request: string) => (await ina.get<RequestView>(`/requests/${request}`)).body.standing;

test('a timer that cannot be carried out is shown with its cause, holds no other up, and goes off once that is mended', async () => {
  const broken = (await ina.ask('2026-03-09', '2026-03-13')).body.request;
  const sound = (await ina.ask('2026-03-16', '2026-03-20')).body.request;
  const version = (workflowVersion: number) =>
    small.db.update(t.requests).set({ workflowVersion }).where(eq(t.requests.id, broken));
  await version(99);
  await small.db.update(t.house).set({ now: '2026-02-04T17:00:01Z' });
  await eventually(async () => (await standing(sound)) === 'waits for Dora Quill');
  await eventually(async () => (await stuck()).some(row => row.cause === 'timer failing'));
  const rows = (await stuck()).filter(row => row.cause === 'timer failing');
  expect(new Set(rows.map(row => row.request))).toEqual(new Set([broken]));
  expect(rows[0].words).toContain('workflow annual has no version 99');

  const again = (who: Browser, row: StuckRow) =>
    who.call('POST', `/timers/${encodeURIComponent(row.timer ?? '')}/again`);
  expect((await again(ina, rows[0])).status).toBe(403);
  await version(1);
  for (const row of rows) expect((await again(kay, row)).status).toBe(204);
  await eventually(async () => (await standing(broken)) === 'waits for Dora Quill');
  expect((await stuck()).filter(row => row.cause === 'timer failing')).toEqual([]);
});

test('what is past every limit is found by that alone, and not any more once it is answered', async () => {
  await small.db.update(t.house).set({ now: '2026-02-16T10:00:00Z' });
  const late = async () => (await stuck()).filter(row => row.cause === 'past every limit');
  await eventually(async () => (await late()).length === 2);
  expect((await late())[0].words).toMatch(/^Dora Quill has had it since Wed 4 February, and every limit has passed/);
  const dora = await signedIn(small.base, 'dora');
  for (const { request, version, task = '' } of await late()) {
    await dora.command(request, { kind: 'answer', seen: version, task, outcome: 'approve', note: null });
  }
  expect(await late()).toEqual([]);
});

test('a timer takes its request first, as a command does, and holds nothing while it waits for it', async () => {
  const { request } = (await ina.ask('2026-04-13', '2026-04-17')).body;
  const [due] = await small.db
    .select()
    .from(t.timers)
    .where(eq(t.timers.request, request))
    .orderBy(t.timers.at)
    .limit(1);
  const command = await small.db.pool.getConnection();
  try {
    await command.query('start transaction');
    await command.query('select id from requests where id = ? for update', [request]);
    await small.db.update(t.house).set({ now: due.at });
    const waiting = async () => {
      const [rows] = await small.db.pool.query(
        `select 1 from information_schema.innodb_trx as trx
           join information_schema.processlist as one on one.id = trx.trx_mysql_thread_id
         where trx.trx_state = 'LOCK WAIT' and one.db = database()`,
      );
      return (rows as unknown[]).length > 0;
    };
    await eventually(waiting);
    // In the other order this lock would be held by the timer, and each would wait for the other.
    await command.query('select timer_key from timers where request = ? for update nowait', [request]);
    await command.query('commit');
  } finally {
    command.release();
  }
  await eventually(async () => {
    const left = await small.db.select().from(t.timers).where(eq(t.timers.key, due.key));
    return left.length === 0;
  });
});
