/** Comparisons in the background: one of a connection at a time, told of as it goes, stopped by whoever started it or another. */
import { differences } from '@north-pebble/core/access';
import type { Instant } from '@north-pebble/core/time';
import { and, eq, lt, ne, or } from 'drizzle-orm';
import { loadConnection, loadConnections, type Opened, opened } from '../connections/index.ts';
import { tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { ProblemError } from '../http/index.ts';
import { shouldBe } from './should.ts';

/** So many differences are kept; with more, something else is wrong. */
const mostKept = 2000;
/** A comparison that has not gone on for so long is nobody’s any more. */
const silent = 60_000;

const rowOf = (connection: string) => eq(t.comparisons.connection, connection);

/** Claims the comparison of a connection; false where one is under way. */
async function claim(house: House, connection: string, startedAt: Instant): Promise<boolean> {
  const fresh = {
    state: 'running' as const,
    startedAt,
    doneAt: null,
    beat: Date.now(),
    read: 0,
    total: 0,
    fault: null,
  };
  const [before] = await house.db.select().from(t.comparisons).where(rowOf(connection));
  if (!before) {
    const [made] = await house.db
      .insert(t.comparisons)
      .ignore()
      .values({ ...fresh, connection, found: [], more: 0 });
    return made.affectedRows === 1;
  }
  const free = or(ne(t.comparisons.state, 'running'), lt(t.comparisons.beat, Date.now() - silent));
  const [taken] = await house.db
    .update(t.comparisons)
    .set(fresh)
    .where(and(rowOf(connection), free));
  return taken.affectedRows === 1;
}

/** Reads what the directory holds and writes down what differs; what was found before stays until then. */
async function compare(house: House, connection: string, holds: NonNullable<Opened['holds']>): Promise<void> {
  let isStopped = false;
  const found = await holds({
    told: async (read, total) => {
      const [row] = await house.db.select({ state: t.comparisons.state }).from(t.comparisons).where(rowOf(connection));
      isStopped = row?.state !== 'running';
      await house.db.update(t.comparisons).set({ read, total, beat: Date.now() }).where(rowOf(connection));
    },
    stopped: () => isStopped,
  });
  if (isStopped) return;
  const doneAt = await house.now(house.db);
  const running = and(rowOf(connection), eq(t.comparisons.state, 'running'));
  if (!found.ok) {
    await house.db
      .update(t.comparisons)
      .set({ state: 'failed', doneAt, fault: found.reason.slice(0, 500) })
      .where(running);
    return;
  }
  const all = differences(await shouldBe(house, connection), found.holds);
  await house.db
    .update(t.comparisons)
    .set({ state: 'done', doneAt, found: all.slice(0, mostKept), more: Math.max(0, all.length - mostKept) })
    .where(running);
}

/** Begins a comparison, which goes on by itself; one that is under way goes on. */
export async function startComparing(house: House, connection: string): Promise<void> {
  const stored = await loadConnection(house.db, connection);
  const holds = stored && opened(stored)?.holds;
  if (!holds) throw new ProblemError('refused', 'This connection cannot say what it holds.');
  if (!(await claim(house, connection, await house.now(house.db)))) return;
  compare(house, connection, holds).catch(async fault => {
    house.log.error({ err: fault, connection }, 'comparing');
    const reason = fault instanceof Error ? fault.message : String(fault);
    await house.db
      .update(t.comparisons)
      .set({ state: 'failed', fault: reason.slice(0, 500) })
      .where(and(rowOf(connection), eq(t.comparisons.state, 'running')))
      .catch(() => {});
  });
}

export const stopComparing = (house: House, connection: string) =>
  house.db
    .update(t.comparisons)
    .set({ state: 'stopped' })
    .where(and(rowOf(connection), eq(t.comparisons.state, 'running')));

/** Every directory once a night of the house, and where it was never compared; several servers may look. */
export function keepCompared(house: House, pause = 10 * 60_000): () => void {
  const look = async () => {
    const now = await house.now(house.db);
    for (const stored of await loadConnections(house.db)) {
      if (stored.paused || !opened(stored)?.holds) continue;
      const [last] = await house.db.select().from(t.comparisons).where(rowOf(stored.name));
      const isNight = now.slice(11, 13) >= '02';
      if (!last || (isNight && last.startedAt.slice(0, 10) < now.slice(0, 10)))
        await startComparing(house, stored.name);
    }
  };
  const timer = setInterval(() => {
    look().catch(fault => house.log.warn({ err: fault }, 'comparing'));
  }, pause);
  return () => clearInterval(timer);
}
