/** Whether a directory may tell of people, and the token by which it does. */
import { randomBytes } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { Router } from 'express';
import { tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { serving } from '../http/index.ts';
import { hashOfToken } from './scim.ts';

export function incomingRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  const address = `${house.address}/scim/v2`;
  const isOn = async () => {
    const [row] = await house.db.select({ hash: t.house.incomingToken }).from(t.house).where(eq(t.house.id, 1));
    return { isOn: (row?.hash ?? null) !== null, address };
  };
  at('GET /incoming-directory', isOn);
  at('POST /incoming-directory', async () => {
    const token = randomBytes(32).toString('base64url');
    await house.db
      .update(t.house)
      .set({ incomingToken: hashOfToken(token) })
      .where(eq(t.house.id, 1));
    return { token, address };
  });
  at('DELETE /incoming-directory', async () => {
    await house.db.update(t.house).set({ incomingToken: null }).where(eq(t.house.id, 1));
    return isOn();
  });
  return router;
}
