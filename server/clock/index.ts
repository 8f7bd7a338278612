/** The demo clock: it stands still until it is moved forward; timers then fire and accruals appear. */
import { toInstant, toMilliseconds } from '@north-pebble/core/time';
import { eq } from 'drizzle-orm';
import { Router } from 'express';
import { mustBeDemo } from '../access/index.ts';
import { inTransaction, tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { serving } from '../http/index.ts';
import { tellOfLongAbsence } from '../leave/index.ts';
import { mindOwners, tellOfComingBack } from '../leaving/index.ts';
import { forgetOver } from '../outside/index.ts';
import { workRegister } from '../register/index.ts';
import { workReviews } from '../reviews/index.ts';
import { runDueTimers } from '../timers/index.ts';

export function clockRoutes(house: House): Router {
  const router = Router();
  serving(router)('POST /clock', async ({ body: { days, hours } }) => {
    mustBeDemo(house.demo);
    const now = await inTransaction(house.db, async tx => {
      await tx.select().from(t.house).where(eq(t.house.id, 1)).for('update');
      const moved = toInstant(toMilliseconds(await house.now(tx)) + (days * 24 + hours) * 3_600_000);
      await tx.update(t.house).set({ now: moved }).where(eq(t.house.id, 1));
      return moved;
    });
    const timers = await runDueTimers(house);
    // What is done once a day is done when the day comes, also when it is brought forward.
    await workRegister(house);
    await workReviews(house);
    await tellOfLongAbsence(house);
    await tellOfComingBack(house);
    await mindOwners(house);
    for (let gone = await forgetOver(house); gone > 0; gone = await forgetOver(house));
    return { now, timers };
  });
  return router;
}
