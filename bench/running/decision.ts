/** One decision over HTTP, stored, against bare transactions that write the same rows to the same database. */
import { randomUUID } from 'node:crypto';
import { type Database, tables as t } from '@north-pebble/server/database';
import { insertMany } from '@north-pebble/server/house';
import autocannon, { type Request, type Result } from 'autocannon';
import { eq, inArray } from 'drizzle-orm';
import { index } from '../house.ts';
import type { Row } from '../measure.ts';
import type { Served } from '../served.ts';

const clients = 50;
/** As many managers as decide two at a time each: nobody has more than that beside others. */
const deciders = index.directory.people.filter(p => p.joined < '2026-01-01' && p.left === null).slice(0, clients / 2);
const decisions = 2000;
/** As many as a server has long answered that has been up for an hour. */
const warmUp = 3000;

type Waiting = { id: string; task: string; holder: string; version: number };

/** Requests that wait for one manager or another, each a copy of one of the demo's, so that each can be declined once. */
async function waitingRequests(db: Database, count: number, from: number): Promise<Waiting[]> {
  const open = await db.select().from(t.requests).where(eq(t.requests.status, 'open'));
  const model = open.find(row => row.state.tasks.some(task => task.holder === 'tobias'));
  if (!model) throw new Error('the demo has nothing waiting for Tobias');
  // Many people ask; a single asker's requests would wait for each other's balance.
  const askers = index.directory.people.filter(p => !deciders.includes(p) && p.joined < '2026-01-01').map(p => p.id);
  const copies = Array.from({ length: count }, (_, i) => {
    const number = from + i;
    const id = `R-${number}`;
    const task = `${id}.1`;
    const asker = askers[i % askers.length];
    const holder = deciders[i % deciders.length].id;
    const tasks = [{ ...model.state.tasks[0], id: task, holder }];
    const state = { ...model.state, asker, subject: asker, leave: null, request: id, tasks };
    return { row: { ...model, asker, subject: asker, number, id, state }, task, holder };
  });
  await insertMany(
    db,
    t.requests,
    copies.map(c => c.row),
  );
  await insertMany(
    db,
    t.tasks,
    copies.map(c => ({ id: c.task, request: c.row.id, holder: c.holder, open: true })),
  );
  return copies.map(c => ({ id: c.row.id, task: c.task, holder: c.holder, version: c.row.state.version }));
}

function deciding(request: Request, cookies: ReadonlyMap<string, string>, one: Waiting | undefined): Request {
  if (!one) return request;
  const command = { kind: 'answer', seen: one.version, task: one.task, outcome: 'decline', note: 'Not then.' };
  return {
    ...request,
    path: `/api/requests/${one.id}/commands`,
    headers: { 'Content-Type': 'application/json', 'X-North-Pebble': '1', Cookie: cookies.get(one.holder) },
    body: JSON.stringify({ id: randomUUID(), command }),
  };
}

/** @returns how many were taken a second, from the first asked to the last answered, and the 95th of a hundred times in ms */
async function overHttp(
  base: string,
  cookies: ReadonlyMap<string, string>,
  waiting: Waiting[],
): Promise<{ rate: number; p95: number }> {
  let next = 0;
  const times: number[] = [];
  const began = performance.now();
  let ended = began;
  const result = await new Promise<Result>((done, fail) => {
    const running = autocannon(
      {
        url: base,
        connections: Math.min(clients, waiting.length),
        amount: waiting.length,
        requests: [{ method: 'POST', setupRequest: request => deciding(request, cookies, waiting[next++]) }],
      },
      (fault, all) => (fault ? fail(fault) : done(all)),
    );
    // It looks only once a second whether everything has been answered, so the time is taken here.
    running.on('response', (_client, _status, _bytes, milliseconds) => {
      times.push(milliseconds);
      ended = performance.now();
    });
  });
  if (result['2xx'] !== waiting.length) throw new Error(`${waiting.length - result['2xx']} decisions were not taken`);
  times.sort((a, b) => a - b);
  return { rate: waiting.length / ((ended - began) / 1000), p95: times[Math.floor(times.length * 0.95)] };
}

/** The rows of a decision, written by hand in one transaction, as fast as the pool can. */
async function bare(db: Database, waiting: Waiting[]): Promise<number> {
  const body = JSON.stringify('x'.repeat(180));
  const [{ state }] = await db
    .select({ state: t.requests.state })
    .from(t.requests)
    .where(eq(t.requests.id, waiting[0].id));
  const stateText = JSON.stringify(state);
  let next = 0;
  const one = async () => {
    const connection = await db.pool.getConnection();
    try {
      for (let at = waiting[next++]; at; at = waiting[next++]) {
        await connection.query('start transaction');
        await connection.query('insert into commands (id, actor, request, version) values (?, ?, ?, ?)', [
          randomUUID(),
          'tobias',
          at.id,
          9,
        ]);
        await connection.query('select id from requests where id = ? for update', [at.id]);
        const rows = [1, 2, 3, 4].map(n => [at.id, at.version + n, '2026-02-02T09:40:00Z', 'tobias', 'answered', body]);
        await connection.query('insert into events (request, seq, at, actor, kind, body) values ?', [rows]);
        await connection.query('update requests set status = ?, closing = ?, closed_at = ?, state = ? where id = ?', [
          'closed',
          'declined',
          '2026-02-02T09:40:00Z',
          stateText,
          at.id,
        ]);
        await connection.query('update tasks set open = 0 where id = ?', [at.task]);
        await connection.query(
          'insert into effects (effect_key, payload, state, attempts, next_try, written_at) values (?, ?, ?, 0, 0, ?)',
          [`bare:${at.id}`, body, 'delivered', '2026-02-02T09:40:00Z'],
        );
        await connection.query('commit');
      }
    } finally {
      connection.release();
    }
  };
  const began = Date.now();
  await Promise.all(Array.from({ length: 16 }, one));
  return waiting.length / ((Date.now() - began) / 1000);
}

export async function decisionRows({ db, base, signIn }: Served): Promise<Row[]> {
  const forBare = await waitingRequests(db, decisions + warmUp, 100_000);
  const forHttp = await waitingRequests(db, decisions + warmUp, 200_000);
  // They get a card each, as the demo's own people have.
  const names = deciders.map(one => one.id);
  await db.update(t.accounts).set({ card: 100, cardWords: 'decides' }).where(inArray(t.accounts.person, names));
  const cookies = new Map<string, string>();

  for (const name of names) cookies.set(name, await signIn(name));
  await overHttp(base, cookies, forHttp.slice(0, warmUp));
  const http = await overHttp(base, cookies, forHttp.slice(warmUp));
  await bare(db, forBare.slice(0, warmUp));
  const theirs = await bare(db, forBare.slice(warmUp));
  return [
    {
      what: `a decision over HTTP, ${clients} at once, a second`,
      ours: http.rate,
      theirs,
      baseline: 'bare transactions',
      ratio: http.rate / theirs,
      bar: 0.5,
      better: 'more',
    },
    {
      what: 'its latency at 95 %, in ms, against 100 ms',
      ours: http.p95,
      theirs: 100,
      baseline: 'the bar itself',
      ratio: http.p95 / 100,
      bar: 1,
      better: 'less',
    },
  ];
}
