/**
 * Effects in hand. Each is claimed for a while, renewed while it is worked on and checked again before: a slow target
 * doubles nothing, and a server that dies gives its claims back.
 */
import { and, asc, eq, gt, inArray, isNull, lt, lte, notExists, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/mysql-core';
import { tables as t } from '../database/index.ts';
import { type House, machineNow } from '../house/index.ts';

/** How long an effect is in one sender’s hands before another may take it; renewed while it is worked on. */
export const leaseMilliseconds = 15_000;
const batch = 20;
const longestPause = 300_000;

/** Now as the database has it, in milliseconds: servers whose own clocks differ agree on it. */
const databaseNow = sql<number>`cast(unix_timestamp(now(3)) * 1000 as unsigned)`;

export type Row = typeof t.effects.$inferSelect;

/** One sender: a server has one for every connection. */
export type Claimant = { readonly id: string; readonly lease?: number };

const leaseOf = ({ lease = leaseMilliseconds }: Claimant): number => lease;

const leaseEnd = (by: Claimant) => sql<number>`${databaseNow} + ${leaseOf(by)}`;

/**
 * The effects of one connection that are ripe, in the order in which they were asked for; of one target only the first.
 * They are looked up without a lock and taken by their ids: a lock on what is looked through would reach into what waits
 * for other connections. Of two senders who see the same ones, the second to take them gets none.
 */
export async function claim(house: House, by: Claimant, connection: string): Promise<Row[]> {
  const now = sql`coalesce((select ${t.house.now} from ${t.house} where ${t.house.id} = 1), ${machineNow()})`;
  const ripe = or(isNull(t.effects.notBefore), lte(t.effects.notBefore, now));
  const before = alias(t.effects, 'before_it');
  const first = or(
    isNull(t.effects.target),
    notExists(
      house.db
        .select({ id: before.id })
        .from(before)
        .where(
          and(
            eq(before.connection, connection),
            eq(before.target, t.effects.target),
            eq(before.state, 'waiting'),
            lt(before.id, t.effects.id),
            or(isNull(before.notBefore), lte(before.notBefore, now)),
          ),
        ),
    ),
  );
  const free = and(eq(t.effects.state, 'waiting'), lte(t.effects.nextTry, databaseNow));
  const seen = await house.db
    .select({ id: t.effects.id })
    .from(t.effects)
    .where(and(eq(t.effects.connection, connection), free, ripe, ...(connection === 'mail' ? [] : [first])))
    .orderBy(asc(t.effects.nextTry), asc(t.effects.id))
    .limit(batch);
  if (seen.length === 0) return [];
  const ids = seen.map(row => row.id);
  await house.db
    .update(t.effects)
    .set({ nextTry: leaseEnd(by), claimedBy: by.id })
    .where(and(inArray(t.effects.id, ids), free));
  const taken = await house.db
    .select()
    .from(t.effects)
    .where(and(inArray(t.effects.id, ids), eq(t.effects.claimedBy, by.id), gt(t.effects.nextTry, databaseNow)));
  // Somebody else was quicker with all of these; behind them there may be more.
  if (taken.length === 0) return claim(house, by, connection);
  return taken.sort((a, b) => ids.indexOf(a.id) - ids.indexOf(b.id));
}

/** Whether an effect is still in this sender’s hands, for another while; those before it may have taken long. */
export async function renew(house: House, by: Claimant, id: number): Promise<boolean> {
  const mine = and(
    eq(t.effects.id, id),
    eq(t.effects.state, 'waiting'),
    eq(t.effects.claimedBy, by.id),
    gt(t.effects.nextTry, databaseNow),
  );
  const [{ affectedRows }] = await house.db
    .update(t.effects)
    .set({ nextTry: leaseEnd(by) })
    .where(mine);
  return affectedRows === 1;
}

/** Does something that may take long with an effect in hand; the claim is renewed meanwhile. */
export async function inHand<T>(house: House, by: Claimant, id: number, work: () => Promise<T>): Promise<T> {
  const timer = setInterval(() => {
    renew(house, by, id).catch(fault => house.log.warn({ err: fault }, 'lease of an effect'));
  }, leaseOf(by) / 3);
  try {
    return await work();
  } finally {
    clearInterval(timer);
  }
}

/** When an effect is tried again: after pauses that grow, or when the other side says. */
export function retry(house: House, row: Row, reason: string, after?: number) {
  const attempts = row.attempts + 1;
  house.log.warn({ key: row.key, attempts, reason }, 'not delivered');
  const pause = Math.max(after ?? 0, 1000 * 2 ** Math.min(attempts, 10));
  return {
    attempts,
    nextTry: sql<number>`${databaseNow} + ${Math.min(longestPause, pause)}`,
    fault: reason.slice(0, 500),
  };
}

/** Delivered, with one more try. */
export const asDelivered = (row: Row) => ({
  state: 'delivered' as const,
  attempts: row.attempts + 1,
  fault: null,
  doneAt: Date.now(),
});
