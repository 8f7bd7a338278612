/**
 * Calls to a system outside that is slow, and that loses some answers after it has done its part, from two servers that are
 * killed at random instants: every request must come to its end, every call be done, and every answer count once.
 */
import { randomUUID } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { halves } from '../../core/testing/house.ts';
import { flow, given } from '../../core/testing/run.ts';
import { audit } from '../audit/index.ts';
import { openDatabase, tables as t } from '../database/index.ts';
import { eventually, freePort, putLive, smallHouse, startMail, startProcess } from './serving.ts';
import { askers, dice, House, until } from './soak.ts';

export type EffectsReport = {
  kills: number;
  requests: number;
  calls: number;
  /** How often the other side was asked for something that it had done already. */
  repeats: number;
  lost: number;
  /** Done twice outside, or heard twice by a request. */
  doubled: number;
  faults: number;
};

const secret = 'a secret of sixteen letters';
const step = (id: string, waits: boolean) => ({
  verb: 'Provision',
  id,
  when: null,
  connection: 'Directory',
  action: 'add to group',
  values: [{ name: 'group', formula: 'Kind' }],
  ...(waits ? { waits } : {}),
});

export async function effectsRun({
  kills,
  requests,
  seed = 11,
}: {
  kills: number;
  requests: number;
  seed?: number;
}): Promise<EffectsReport> {
  const roll = dice(seed);
  const database = await smallHouse();
  const mail = await startMail();
  const port = await freePort();
  const { child: directory } = await startProcess('standins/calls/main.ts', {
    NP_CALLS_PORT: String(port),
    NP_CALLS_SECRET: secret,
    NP_CALLS_SLOW: '40',
    NP_CALLS_FAILS: '0.3',
    NP_CALLS_FILE: join(mkdtempSync(join(tmpdir(), 'np-directory-')), 'served.jsonl'),
  });
  const db = openDatabase(database, 4);
  await db.insert(t.connections).values({
    name: 'Directory',
    kind: 'http',
    settings: { address: `http://127.0.0.1:${port}/calls`, secret, inside: true },
  });
  const definition = flow(step('first', false), step('second', true));
  await putLive(db, 'calls', definition);
  const house = new House({
    NP_DATABASE: database,
    NP_DEMO: '1',
    NP_LOG: 'silent',
    NP_SMTP: mail.smtp,
    NP_LEASE: '900',
    NP_SIGN_IN_TRIES: '100000',
  });
  try {
    await Promise.all([house.start(0), house.start(1)]);
    let killed = 0;
    /** Ends one of the two at a moment that the seed chooses, while it is asked and delivers, and starts it anew. */
    const kill = async () => {
      const n = roll() < 0.5 ? 0 : 1;
      house.kill(n);
      killed++;
      await house.start(n);
    };
    const asked: string[] = [];
    const answers = { ...given, dates: halves('2026-02-09', '2026-02-10') };
    for (let n = 0; n < requests || killed < kills; n++) {
      const body = { id: randomUUID(), workflow: 'calls', answers };
      const sent = until(async at => {
        const browser = await house.browser(askers[n % askers.length], at);
        const sent = await browser.call<{ request: string }>('POST', '/requests', body);
        return sent.status === 201 ? sent.body.request : undefined;
      });
      const chance = (kills - killed) / Math.max(1, requests - n);
      const killing = killed < kills && roll() < chance ? kill() : undefined;
      asked.push(await sent);
      await killing;
    }
    const calls = async () => (await db.select().from(t.effects)).filter(row => row.connection === 'Directory');
    // What was tried in vain is tried again after pauses that grow.
    await eventually(async () => (await calls()).every(row => row.state === 'delivered'), 160);
    type Served = { key: string; times: number };
    const served = (await (await fetch(`http://127.0.0.1:${port}/served?most=100000`)).json()) as Served[];
    const rows = await calls();
    const keys = new Set(served.map(one => one.key));
    const events = (await db.select().from(t.events)).map(row => row.body);
    const heard = new Map<string, number>();
    for (const event of events) if (event.kind === 'delivered') heard.set(event.key, (heard.get(event.key) ?? 0) + 1);
    const ended = await db.select({ id: t.requests.id, status: t.requests.status }).from(t.requests);
    const open = ended.filter(row => row.status !== 'closed').length;
    return {
      kills: killed,
      requests: asked.length,
      calls: rows.length,
      repeats: served.reduce((sum, one) => sum + one.times - 1, 0),
      lost:
        rows.filter(row => !keys.has(row.key) || !heard.has(row.key)).length + open + asked.length * 2 - rows.length,
      doubled: served.length - keys.size + [...heard.values()].filter(n => n > 1).length,
      faults: (await audit(db)).faults.length,
    };
  } finally {
    house.stop();
    mail.stop();
    directory.kill('SIGKILL');
    await db.pool.end();
  }
}
