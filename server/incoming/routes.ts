/** Whether a directory may tell of people, and the token by which it does. */
import { randomBytes } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { Router } from 'express';
import { inLedger, inTransaction, tables as t } from '../database/index.ts';
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
  const setToken = (incomingToken: string | null) =>
    inTransaction(house.db, async tx => {
      await tx.update(t.house).set({ incomingToken }).where(eq(t.house.id, 1));
      await inLedger(tx, { what: 'house', keys: [{ id: 1 }] });
    });
  at('GET /incoming-directory', isOn);
  at('POST /incoming-directory', async () => {
    const token = randomBytes(32).toString('base64url');
    await setToken(hashOfToken(token));
    return { token, address };
  });
  at('DELETE /incoming-directory', async () => {
    await setToken(null);
    return isOn();
  });
  return router;
}
