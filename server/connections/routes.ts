/** Connections, for administrators: set up, checked, paused, and what did not go through tried again. */
import type { CheckedView, ConnectionsView, ConnectionView } from '@north-pebble/contract';
import type { Instant } from '@north-pebble/core/time';
import { and, count, desc, eq, gte, inArray, max, or, sql } from 'drizzle-orm';
import { Router } from 'express';
import { type Executor, tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { notFound, ProblemError, serving } from '../http/index.ts';
import { connectionKinds, openConnection } from './registry.ts';
import { dropConnection, keepConnection, loadConnection, loadConnections, opened } from './store.ts';

const mostFailed = 100;
const mostConnections = 50;

const failing = and(eq(t.effects.state, 'waiting'), gte(t.effects.attempts, 1));

async function counted(db: Executor) {
  const rows = await db
    .select({
      name: t.effects.connection,
      state: t.effects.state,
      n: count(),
      failing: sql<number>`coalesce(sum(${t.effects.state} = 'waiting' and ${t.effects.attempts} > 0), 0)`,
      ahead: sql<number>`coalesce(sum(${t.effects.state} = 'waiting' and ${t.effects.notBefore} is not null and ${t.effects.undoes} is not null), 0)`,
      fault: max(t.effects.fault),
    })
    .from(t.effects)
    .groupBy(t.effects.connection, t.effects.state);
  return (name: string) => {
    const own = rows.filter(row => row.name === name);
    const n = (state: string) => own.find(row => row.state === state)?.n ?? 0;
    const waiting = own.find(row => row.state === 'waiting');
    const ahead = Number(waiting?.ahead ?? 0);
    return {
      waiting: n('waiting') - ahead,
      ahead,
      refused: n('refused'),
      delivered: n('delivered'),
      failing: Number(waiting?.failing ?? 0),
      fault: Number(waiting?.failing ?? 0) > 0 ? (waiting?.fault ?? null) : null,
    };
  };
}

async function connectionsView(db: Executor): Promise<ConnectionsView> {
  const of = await counted(db);
  const rows = await loadConnections(db);
  const mail: ConnectionView = { name: 'mail', kind: 'mail', shown: {}, paused: false, usable: true, ...of('mail') };
  const connections = rows.map((row): ConnectionView => {
    const found = opened(row);
    return {
      name: row.name,
      kind: row.kind,
      shown: found?.shown ?? {},
      paused: row.paused,
      usable: found !== null,
      ...of(row.name),
    };
  });
  const known = ['mail', ...rows.map(row => row.name)];
  const asked = await db
    .select({ name: t.effects.connection, n: count() })
    .from(t.effects)
    .where(eq(t.effects.state, 'waiting'))
    .groupBy(t.effects.connection);
  const failed = await db
    .select()
    .from(t.effects)
    .where(or(eq(t.effects.state, 'refused'), failing))
    .orderBy(desc(t.effects.id))
    .limit(mostFailed);
  return {
    connections: [mail, ...connections],
    kinds: connectionKinds,
    missing: asked.filter(row => !known.includes(row.name)).map(row => ({ name: row.name, waiting: row.n })),
    failed: failed.map(({ id, connection, action, request, state, attempts, fault, writtenAt }) => ({
      id,
      connection,
      action,
      request,
      state,
      attempts,
      fault,
      writtenAt: writtenAt as Instant,
    })),
  };
}

export function connectionRoutes(house: House): Router {
  const router = Router();
  const { db } = house;
  const at = serving(router);
  at('GET /connections', () => connectionsView(db));
  at('PUT /connections/:name', async ({ params: { name }, body: { kind, settings, paused } }) => {
    const before = await loadConnection(db, name);
    if (!before && (await loadConnections(db)).length >= mostConnections)
      throw new ProblemError('refused', `A house has at most ${mostConnections} connections.`);
    const found = openConnection(kind, settings, before?.kind === kind ? before.settings : {});
    if (!found.ok) throw new ProblemError('bad input', found.faults[0].message, found.faults);
    await keepConnection(db, { name, kind, settings: found.settings, paused });
    house.wake();
    return connectionsView(db);
  });
  at('DELETE /connections/:name', async ({ params }) => {
    // What waits for it goes on waiting: it is asked for still.
    await dropConnection(db, params.name);
    return connectionsView(db);
  });
  at('POST /connections/:name/check', async ({ params }) => {
    const row = await loadConnection(db, params.name);
    const found = row && opened(row);
    if (!found) throw notFound();
    const fault = await found.check();
    const view: CheckedView = {
      reached: fault === null,
      words: fault === null ? 'It answers.' : `It does not answer as it should: ${fault}.`,
    };
    return view;
  });
  at('GET /connections/:name/named', async ({ params, query: { what, typed } }) => {
    const row = await loadConnection(db, params.name);
    const named = row && opened(row)?.named;
    if (!named) throw notFound();
    const found = await named(what, typed);
    return found.ok
      ? { names: [...found.names], more: found.more, fault: null }
      : { names: [], more: 0, fault: found.reason };
  });
  // What was tried in vain is tried now: one effect, or all of one connection.
  at('POST /connections/:name/again', async ({ params, body: { id } }) => {
    const of = and(eq(t.effects.connection, params.name), inArray(t.effects.state, ['waiting']));
    await db
      .update(t.effects)
      .set({ nextTry: 0 })
      .where(id === undefined ? of : and(of, eq(t.effects.id, id)));
    house.wake();
    return connectionsView(db);
  });
  return router;
}
