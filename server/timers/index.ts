/**
 * Timers that have come due. Each is claimed, carried out and removed in one transaction, so several servers can share
 * them. One that cannot be carried out is put off, longer each time, and holds no other up.
 */
import type { Instant } from '@north-pebble/core/time';
import { and, asc, eq, lte } from 'drizzle-orm';
import { inTransaction, isDatabaseAway, isDeadlock, tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { timerDue } from '../requests/index.ts';

type Timer = typeof t.timers.$inferSelect;

/** What went wrong with one timer; the transaction that found it is rolled back. */
class Failed extends Error {
  readonly timer: Timer;
  readonly reason: unknown;
  constructor(timer: Timer, reason: unknown) {
    super(reason instanceof Error ? reason.message : String(reason));
    this.timer = timer;
    this.reason = reason;
  }
}

const longestPause = 3_600_000;

async function putOff(house: House, { timer, message, reason }: Failed): Promise<void> {
  house.log.error({ err: reason, timer: timer.key }, 'a timer did not go off');
  const failures = timer.failures + 1;
  const nextTry = Date.now() + Math.min(longestPause, 5000 * 2 ** Math.min(failures, 12));
  await house.db
    .update(t.timers)
    .set({ failures, nextTry, fault: message.slice(0, 300) })
    .where(eq(t.timers.key, timer.key));
}

/** Carries out the earliest due timer, if no other server or command is faster. */
async function runOne(house: House): Promise<'done' | 'gone' | 'none'> {
  try {
    const now = await house.now(house.db);
    const [next] = await house.db
      .select({ key: t.timers.key, request: t.timers.request })
      .from(t.timers)
      .where(and(lte(t.timers.at, now), lte(t.timers.nextTry, Date.now())))
      .orderBy(asc(t.timers.at))
      .limit(1);
    if (!next) return 'none';
    return await inTransaction(house.db, async tx => {
      // The request first and its timer then, as a command takes them: in another order they would wait for one another.
      await tx.select({ id: t.requests.id }).from(t.requests).where(eq(t.requests.id, next.request)).for('update');
      const [timer] = await tx.select().from(t.timers).where(eq(t.timers.key, next.key)).for('update');
      // Another server was faster, or a command has put it off.
      if (!timer || timer.at > now || timer.nextTry > Date.now()) return 'gone';
      await tx.delete(t.timers).where(eq(t.timers.key, timer.key));
      const { request, task, what, at } = timer;
      try {
        await timerDue(house, tx, request, { kind: 'timer', task, what }, at as Instant);
      } catch (reason) {
        // A database that is away, or that asks to try again, says nothing about this timer.
        if (isDatabaseAway(reason) || isDeadlock(reason)) throw reason;
        throw new Failed(timer, reason);
      }
      return 'done';
    });
  } catch (fault) {
    if (!(fault instanceof Failed)) throw fault;
    await putOff(house, fault);
    return 'done';
  }
}

const mostInOneGo = 10_000;

/** Carries out everything that is due, oldest first; timers set meanwhile count too. */
export async function runDueTimers(house: House): Promise<number> {
  let done = 0;
  for (let found = await runOne(house); found !== 'none' && done < mostInOneGo; found = await runOne(house))
    if (found === 'done') done++;
  if (done > 0) house.wake();
  return done;
}

/** Looks for due timers every `pause` milliseconds until stopped. */
export function keepTime(house: House, pause = 1000): () => Promise<void> {
  let stopped = false;
  let running: Promise<void> = Promise.resolve();
  let next: NodeJS.Timeout | undefined;
  const round = async () => {
    try {
      await runDueTimers(house);
      house.beats.set('timers', Date.now());
    } catch (fault) {
      if (isDatabaseAway(fault)) house.log.warn('timers wait for the database');
      else house.log.error({ err: fault }, 'timers');
    }
    if (!stopped) next = setTimeout(start, pause);
  };
  const start = () => {
    running = round();
  };
  start();
  return async () => {
    stopped = true;
    clearTimeout(next);
    await running;
  };
}
