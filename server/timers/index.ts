/** Timers that have come due. Each is claimed, carried out and removed in one transaction, so several servers can share them. */
import type { Instant } from '@north-pebble/core/time';
import { asc, eq, lte } from 'drizzle-orm';
import { inTransaction, isDatabaseAway, tables as t } from '../database/index.ts';
import type { House } from '../house.ts';
import { timerDue } from '../requests/service.ts';

/** Carries out the earliest due timer that no other server has; false when there is none. */
async function runOne(house: House): Promise<boolean> {
  return inTransaction(house.db, async tx => {
    const now = await house.now(tx);
    const [timer] = await tx
      .select()
      .from(t.timers)
      .where(lte(t.timers.at, now))
      .orderBy(asc(t.timers.at))
      .limit(1)
      .for('update', { skipLocked: true });
    if (!timer) return false;
    await tx.delete(t.timers).where(eq(t.timers.key, timer.key));
    await timerDue(
      house,
      tx,
      timer.request,
      { kind: 'timer', task: timer.task, what: timer.what },
      timer.at as Instant,
    );
    return true;
  });
}

const mostInOneGo = 10_000;

/** Carries out everything that is due, oldest first; timers set meanwhile count too. */
export async function runDueTimers(house: House): Promise<number> {
  let done = 0;
  while (done < mostInOneGo && (await runOne(house))) done++;
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
