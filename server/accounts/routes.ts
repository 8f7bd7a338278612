/** Setting the house up, accounts, and one's own password and sessions. */
import { and, desc, eq, gt } from 'drizzle-orm';
import { type RequestHandler, Router } from 'express';
import { inLedger, inTransaction, tables as t } from '../database/index.ts';
import { exportRows, type House, requiredRights } from '../house/index.ts';
import { serving } from '../http/index.ts';
import { beginFactor, confirmFactor, factorView, giveUpFactor, requireFactor } from './factor.ts';
import {
  accountRows,
  changeAccount,
  changePassword,
  choosePassword,
  forgotten,
  invite,
  inviteAgain,
  inviteMissing,
  linkView,
  missingAccounts,
} from './service.ts';
import { setUp } from './setup.ts';

/**
 * @param slow slows down those who try links and addresses
 * @param sessionOf the hash of the caller's own session
 */
export function accountRoutes(
  house: House,
  slow: RequestHandler,
  sessionOf: (cookie: string | undefined) => string,
): Router {
  const router = Router();
  const { db } = house;
  const at = serving(router);
  at(
    'POST /setup',
    async ({ body }) => {
      await setUp(house, body);
    },
    slow,
  );
  at('GET /links/:token', ({ params }) => linkView(house, params.token), slow);
  at('POST /password', ({ body }) => choosePassword(house, body.token, body.password), slow);
  at('POST /password/forgotten', ({ body }) => forgotten(house, body.mail), slow);
  at(
    'PUT /password',
    ({ caller, body, request }) =>
      changePassword(house, caller, body.before, body.password, sessionOf(request.headers.cookie)),
    slow,
  );
  at('GET /sessions', async ({ caller, request }) => {
    const own = and(eq(t.sessions.person, caller.id), gt(t.sessions.expires, Date.now()));
    const rows = await db.select().from(t.sessions).where(own).orderBy(desc(t.sessions.expires));
    const mine = sessionOf(request.headers.cookie);
    return rows.map(row => ({
      id: row.tokenHash.slice(0, 16),
      expires: new Date(row.expires).toISOString(),
      isThis: row.tokenHash === mine,
    }));
  });
  at('DELETE /sessions/others', async ({ caller, request }) => {
    const mine = sessionOf(request.headers.cookie);
    const rows = await db.select().from(t.sessions).where(eq(t.sessions.person, caller.id));
    for (const row of rows)
      if (row.tokenHash !== mine) await db.delete(t.sessions).where(eq(t.sessions.tokenHash, row.tokenHash));
  });
  at('GET /factor', ({ caller }) => factorView(db, caller));
  at('POST /factor', ({ caller, body }) => beginFactor(house, caller, body.password), slow);
  at(
    'PUT /factor',
    ({ caller, body, request }) => confirmFactor(house, caller, body.code, sessionOf(request.headers.cookie)),
    slow,
  );
  at('POST /factor/off', ({ caller, body }) => giveUpFactor(house, caller, body.code), slow);
  at('GET /factor/required', async () => ({ rights: await requiredRights(db) }));
  at('PUT /factor/required', async ({ caller, body }) => ({ rights: await requireFactor(house, caller, body.rights) }));
  const colleagues = async () => {
    const [row] = await db.select({ fields: t.house.colleaguesRead }).from(t.house).where(eq(t.house.id, 1));
    return { fields: row?.fields ?? [] };
  };
  at('GET /colleagues', colleagues);
  at('PUT /colleagues', async ({ body }) => {
    await inTransaction(db, async tx => {
      await tx.update(t.house).set({ colleaguesRead: body.fields }).where(eq(t.house.id, 1));
      await inLedger(tx, { what: 'house', keys: [{ id: 1 }] });
    });
    return colleagues();
  });
  at('GET /exports', () => exportRows(house));
  at('GET /accounts', () => accountRows(db));
  at('POST /accounts', async ({ body }) => {
    await invite(house, body);
    return accountRows(db);
  });
  at('GET /accounts/missing', () => missingAccounts(house));
  at('POST /accounts/missing', () => inviteMissing(house));
  at('POST /accounts/:person/invitation', async ({ params }) => {
    await inviteAgain(house, params.person);
    return accountRows(db);
  });
  at('PUT /accounts/:person', async ({ caller, params, body }) => {
    await changeAccount(house, caller, params.person, body);
    return accountRows(db);
  });
  return router;
}
