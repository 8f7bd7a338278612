/** A server killed at random instants while people work: what it answered is there, and nothing is there twice or by half. */

import { randomUUID } from 'node:crypto';
import { afterAll, expect, test } from '@jest/globals';
import { fold } from '@north-pebble/core/workflow';
import { openDatabase, tables as t } from '../../database/index.ts';
import { allDelivered, eventually, signedIn, smallHouse, startMail, startProcess } from '../../testing/serving.ts';
import { loadEvents } from '../store.ts';

const endings: (() => unknown)[] = [];
afterAll(async () => {
  for (const end of endings.reverse()) await end();
});

const weeks = ['2026-03-02', '2026-03-09', '2026-03-16', '2026-04-13', '2026-04-20'];
const friday = (monday: string) => new Date(Date.parse(monday) + 4 * 86_400_000).toISOString().slice(0, 10);

test('three kills under load lose nothing and double nothing', async () => {
  const database = await smallHouse();
  const mail = await startMail();
  endings.push(mail.stop);
  const env = {
    NP_DATABASE: database,
    NP_PORT: '0',
    NP_DEMO: '1',
    NP_LOG: 'silent',
    NP_SMTP: mail.smtp,
    // What a killed server had begun is free again soon.
    NP_LEASE: '900',
    NP_SIGN_IN_TRIES: '1000',
  };
  const answered = new Map<string, string>();
  const wishes = ['ina', 'per', 'sub', 'kay'].flatMap(who => weeks.map(monday => ({ who, monday, id: randomUUID() })));
  const kills = 3;
  for (let round = 0; round <= kills; round++) {
    const { child, port } = await startProcess('server/main.ts', env);
    const base = `http://127.0.0.1:${port}`;
    const last = round === kills;
    // Killed while it works at some of what it was asked: after so many answers, the rest being on the way.
    const most = last ? Number.POSITIVE_INFINITY : 2 + round * 2;
    let answers = 0;
    const people = new Map<string, Awaited<ReturnType<typeof signedIn>>>();
    const ask = async ({ who, monday, id }: (typeof wishes)[number]) => {
      // Whoever got no answer asks again under the same id, as a browser does.
      if (answered.has(id)) return;
      const browser = people.get(who) ?? (await signedIn(base, who));
      people.set(who, browser);
      const { status, body } = await browser.ask(monday, friday(monday), id);
      if (status === 201) answered.set(id, body.request);
      answers += 1;
      if (answers === most) child.kill('SIGKILL');
    };
    await Promise.allSettled(wishes.map(ask));
    if (last) endings.push(() => child.kill('SIGKILL'));
    else child.kill('SIGKILL');
  }
  expect(answered.size).toBe(wishes.length);
  expect(new Set(answered.values()).size).toBe(wishes.length);

  const db = openDatabase(database, 4);
  endings.push(() => db.pool.end());
  const stored = await db.select().from(t.requests);
  expect(stored).toHaveLength(wishes.length);
  for (const request of stored) {
    expect(request.id).not.toBeNull();
    expect(fold(request.id ?? '', await loadEvents(db, request.id ?? ''))).toEqual(request.state);
  }
  expect(await db.select().from(t.leaveEntries)).toHaveLength(wishes.length);
  const letters = await db.select().from(t.effects);
  await eventually(async () => (await mail.mails()).length === letters.length, 60);
  await allDelivered(database);
  expect(await mail.mails()).toHaveLength(letters.length);
});
