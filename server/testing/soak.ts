/**
 * Long runs against the faults that a house must bear: servers that share one database killed at random instants while
 * people ask and decide, and two hundred requests for the last days of one balance. What was lost or doubled is counted.
 */

import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import type { RequestView } from '@north-pebble/contract';
import type { RequestEvent } from '@north-pebble/core/workflow';
import { count } from 'drizzle-orm';
import { audit } from '../audit/index.ts';
import { type Database, openDatabase, tables as t } from '../database/index.ts';
import { Disagreement } from './answers.ts';
import { type Browser, eventually, signedIn, smallHouse, startMail, startProcess } from './serving.ts';

export type KillReport = {
  kills: number;
  requests: number;
  decisions: number;
  events: number;
  mails: number;
  lost: number;
  doubled: number;
  faults: string[];
};

/** Numbers that look random and are the same for the same seed. */
export function dice(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
}

type Server = { child: ChildProcess; port: number; sessions: Map<string, Browser> };

/** Two servers over one database, and somebody who pulls their plugs. */
export class House {
  readonly #env: Record<string, string>;
  readonly #servers: (Server | null)[] = [null, null];
  constructor(env: Record<string, string>) {
    this.#env = env;
  }
  async start(n: number): Promise<void> {
    const { child, port } = await startProcess('server/main.ts', { ...this.#env, NP_PORT: '0' });
    this.#servers[n] = { child, port, sessions: new Map() };
  }
  kill(n: number): void {
    this.#servers[n]?.child.kill('SIGKILL');
    this.#servers[n] = null;
  }
  /** Somebody’s browser at one of the servers that run; a killed one refuses, and the caller tries the other. */
  async browser(who: string, n: number): Promise<Browser> {
    const server = this.#servers[n] ?? this.#servers[1 - n];
    if (!server) throw new Error('no server runs');
    const known = server.sessions.get(who) ?? (await signedIn(`http://127.0.0.1:${server.port}`, who));
    server.sessions.set(who, known);
    return known;
  }
  stop(): void {
    this.kill(0);
    this.kill(1);
  }
}

/** How often each of some keys is there. */
function tally(keys: readonly string[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const key of keys) counts.set(key, (counts.get(key) ?? 0) + 1);
  return counts;
}

/**
 * What is there against what must be there, key by key: requests and decisions that people got an answer for, the
 * letters and the leave that the events call for, and the mails that arrived.
 * @returns in words what is missing, and what is there more often than it should be
 */
export async function compared(
  db: Database,
  asked: readonly string[],
  decided: readonly string[],
  arrived: readonly { id: string }[],
): Promise<{ lost: string[]; doubled: string[] }> {
  const events = (await db.select().from(t.events)).map(row => ({ request: row.request, body: row.body }));
  const requests = (await db.select({ id: t.requests.id }).from(t.requests)).map(row => row.id ?? 'no number');
  const outbox = await db.select({ key: t.effects.key }).from(t.effects);
  const entries = await db.select({ request: t.leaveEntries.request }).from(t.leaveEntries);
  const of = (keep: (body: RequestEvent) => number) =>
    events.flatMap(({ request, body }) => Array.from({ length: keep(body) }, () => request));
  const holds = events.filter(({ body }) => body.kind === 'held' || body.kind === 'booked').map(e => e.request);
  const released = new Set(of(body => (body.kind === 'released' ? 1 : 0)));
  const lost: string[] = [];
  const doubled: string[] = [];
  const compare = (what: string, wanted: readonly string[], found: readonly string[]) => {
    const [must, is] = [tally(wanted), tally(found)];
    for (const key of new Set([...must.keys(), ...is.keys()])) {
      const missing = (must.get(key) ?? 0) - (is.get(key) ?? 0);
      if (missing > 0) lost.push(`${what} ${key}: ${missing} missing`);
      if (missing < 0) doubled.push(`${what} ${key}: ${-missing} too many`);
    }
  };
  compare('request', asked, requests);
  compare(
    'decision of',
    decided,
    of(body => (body.kind === 'answered' ? 1 : 0)),
  );
  // A letter to each holder, and one to everybody who is told how it ended.
  const letters = of(body => (body.kind === 'given' ? 1 : body.kind === 'told' ? body.people.length : 0));
  compare(
    'letters of',
    letters,
    outbox.map(row => row.key.split(':')[0]),
  );
  compare(
    'mail',
    outbox.map(row => `<${encodeURIComponent(row.key)}@selkie.example>`),
    arrived.map(mail => mail.id),
  );
  compare(
    'leave of',
    [...new Set(holds)].filter(id => !released.has(id)),
    entries.map(row => row.request),
  );
  return { lost, doubled };
}

const day = (n: number): string => new Date(Date.UTC(2026, 2, 2) + n * 86_400_000).toISOString().slice(0, 10);
export const askers = ['ina', 'per', 'kay', 'sub'] as const;

/** Until it is answered, as a browser does that keeps the id of what it sends. */
export async function until<T>(work: (n: number) => Promise<T | undefined>): Promise<T> {
  for (let n = 0; ; n++) {
    const done = await work(n % 2).catch((fault: unknown) => {
      if (fault instanceof Disagreement) throw fault;
      return undefined;
    });
    if (done !== undefined) return done;
    await new Promise(go => setTimeout(go, 60));
  }
}

export async function killRun({
  kills,
  requests,
  seed = 7,
}: {
  kills: number;
  requests: number;
  seed?: number;
}): Promise<KillReport> {
  const roll = dice(seed);
  const database = await smallHouse();
  const mail = await startMail();
  const house = new House({
    NP_DATABASE: database,
    NP_DEMO: '1',
    NP_LOG: 'silent',
    NP_SMTP: mail.smtp,
    NP_MAIL_DOMAIN: 'selkie.example',
    NP_SIGN_IN_TRIES: '100000',
  });
  const db = openDatabase(database, 6);
  let working = true;
  let killed = 0;
  try {
    await Promise.all([house.start(0), house.start(1)]);
    const killer = (async () => {
      while (working && killed < kills) {
        await new Promise(go => setTimeout(go, 40 + roll() * 500));
        if (!working) return;
        const n = roll() < 0.5 ? 0 : 1;
        house.kill(n);
        killed++;
        await house.start(n);
      }
    })();
    const answered: string[] = [];
    const decidedOnes: string[] = [];
    let decided = 0;
    let next = 0;
    const person = async () => {
      // As long as plugs are still to be pulled there is work to pull them in.
      for (let n = next++; n < requests || (killed < kills && n < requests * 50); n = next++) {
        const who = askers[n % askers.length];
        // A whole week, so that somebody has to decide on it.
        const monday = 7 * Math.floor(n / askers.length);
        const id = randomUUID();
        const dates = { from: { date: day(monday), half: 'am' }, to: { date: day(monday + 4), half: 'pm' } };
        const ask = { id, workflow: 'annual', answers: { kind: 'sick', dates, remark: `${n}` } };
        const request = await until(async at => {
          const browser = await house.browser(who, at);
          const { status, body } = await browser.call<{ request: string }>('POST', '/requests', ask);
          return status === 201 ? body.request : undefined;
        });
        answered.push(request);
        const command = randomUUID();
        const outcome = n % 3 === 0 ? 'decline' : 'approve';
        const decider = who === 'ina' || who === 'per' ? 'tom' : 'dora';
        await until(async at => {
          const browser = await house.browser(decider, at);
          const { status: found, body: view } = await browser.get<RequestView>(`/requests/${request}`);
          if (found !== 200) return undefined;
          const [task] = view.tasks;
          if (!task) return true;
          const sent = { kind: 'answer' as const, seen: view.version, task: task.id, outcome, note: 'so' };
          const { status } = await browser.command(request, sent, command);
          return status === 200 ? true : undefined;
        });
        decided++;
        decidedOnes.push(request);
      }
    };
    await Promise.all(Array.from({ length: 6 }, person));
    working = false;
    await killer;
    // Whoever was killed while delivering gives its claims back; then everything is out.
    await eventually(async () => (await db.select().from(t.effects)).every(row => row.state === 'delivered'), 120);
    const arrived = await mail.mails();
    const [{ n: stored }] = await db.select({ n: count() }).from(t.requests);
    const trail = await audit(db);
    const { lost, doubled } = await compared(db, answered, decidedOnes, arrived);
    return {
      kills: killed,
      requests: stored,
      decisions: decided,
      events: trail.events,
      mails: arrived.length,
      lost: lost.length,
      doubled: doubled.length,
      faults: [...lost, ...doubled, ...trail.faults.map(f => `${f.request}: ${f.words}`)],
    };
  } finally {
    house.stop();
    mail.stop();
    await db.pool.end();
  }
}

export type SlowReport = { letters: number; arrived: number; lost: number; doubled: number };

/**
 * A mail server that takes longer over a mail than a letter is in one sender’s hands, and two servers that both look for
 * letters: each goes out once all the same.
 */
export async function slowMailRun({
  letters,
  lease,
  slow,
}: {
  letters: number;
  lease: number;
  slow: number;
}): Promise<SlowReport> {
  const database = await smallHouse();
  const mail = await startMail(undefined, slow);
  const house = new House({
    NP_DATABASE: database,
    NP_DEMO: '1',
    NP_LOG: 'silent',
    NP_SMTP: mail.smtp,
    NP_MAIL_DOMAIN: 'selkie.example',
    NP_LEASE: String(lease),
    NP_SIGN_IN_TRIES: '100000',
  });
  const db = openDatabase(database, 2);
  try {
    await Promise.all([house.start(0), house.start(1)]);
    for (let n = 0; n < letters; n++) {
      const monday = 7 * Math.floor(n / askers.length);
      const dates = { from: { date: day(monday), half: 'am' }, to: { date: day(monday + 4), half: 'pm' } };
      const browser = await house.browser(askers[n % askers.length], n % 2);
      const ask = { id: randomUUID(), workflow: 'annual', answers: { kind: 'sick', dates, remark: `${n}` } };
      await browser.call('POST', '/requests', ask);
    }
    await eventually(async () => (await db.select().from(t.effects)).every(row => row.state === 'delivered'), 240);
    const written = await db.select({ key: t.effects.key }).from(t.effects);
    const arrived = await mail.mails();
    const times = new Map(arrived.map(one => [one.id, one.times]));
    const came = written.map(({ key }) => times.get(`<${encodeURIComponent(key)}@selkie.example>`) ?? 0);
    return {
      letters: written.length,
      arrived: arrived.length,
      lost: came.filter(n => n === 0).length,
      doubled: came.filter(n => n > 1).length,
    };
  } finally {
    house.stop();
    mail.stop();
    await db.pool.end();
  }
}

export type BalanceReport = { asked: number; fit: number; booked: number; refused: number; other: number };

/** So many at once ask for half days of one balance, through two servers: exactly as many are booked as fit. */
export async function balanceRun(asked: number): Promise<BalanceReport> {
  const database = await smallHouse();
  const house = new House({ NP_DATABASE: database, NP_DEMO: '1', NP_LOG: 'silent', NP_SIGN_IN_TRIES: '100000' });
  const db = openDatabase(database, 2);
  try {
    await Promise.all([house.start(0), house.start(1)]);
    const browsers = [await house.browser('ina', 0), await house.browser('ina', 1)];
    // Monday to Friday, from after the day on which carried days lapse, inside the one leave year.
    const days = Array.from({ length: 270 }, (_, n) => day(30 + n))
      .filter(date => date < '2027-01-01' && ![0, 6].includes(new Date(date).getUTCDay()) && date !== '2026-06-24')
      .slice(0, Math.ceil(asked / 2));
    const halves = days.flatMap(date => (['am', 'pm'] as const).map(half => ({ date, half }))).slice(0, asked);
    const ask = async (half: (typeof halves)[number], n: number) => {
      const answers = { kind: 'annual', dates: { from: half, to: half } };
      const body = { id: randomUUID(), workflow: 'annual', answers };
      return (await browsers[n % 2].call('POST', '/requests', body)).status;
    };
    const answers = await Promise.all(halves.map((half, n) => ask(half, n).catch(() => 0)));
    const entries = await db.select().from(t.leaveEntries);
    return {
      asked: halves.length,
      // 26 days a year; the five carried over lapse before the first of these days.
      fit: 52,
      booked: entries.length,
      refused: answers.filter(status => status === 400).length,
      other: answers.filter(status => status !== 201 && status !== 400).length,
    };
  } finally {
    house.stop();
    await db.pool.end();
  }
}
