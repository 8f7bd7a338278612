/** Setting the house up, accounts, and one's own password and sessions. */
import {
  ChangeAccount,
  ChangePassword,
  ChoosePassword,
  Forgotten,
  Invite,
  LinkToken,
  type SessionRow,
  SetUp,
} from '@north-pebble/contract';
import { and, desc, eq, gt } from 'drizzle-orm';
import { type RequestHandler, Router } from 'express';
import { mustLookAfterAccounts } from '../access/index.ts';
import { tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { callerOf, read } from '../http/index.ts';
import {
  accountRows,
  changeAccount,
  changePassword,
  choosePassword,
  forgotten,
  invite,
  inviteAgain,
  linkView,
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
  router.post('/setup', slow, async (request, response) => {
    await setUp(house, read(SetUp, request.body));
    response.status(204).end();
  });
  router.get('/links/:token', slow, async (request, response) => {
    response.json(await linkView(house, read(LinkToken, request.params.token)));
  });
  router.post('/password', slow, async (request, response) => {
    const { token, password } = read(ChoosePassword, request.body);
    await choosePassword(house, token, password);
    response.status(204).end();
  });
  router.post('/password/forgotten', slow, async (request, response) => {
    await forgotten(house, read(Forgotten, request.body).mail);
    response.status(204).end();
  });
  router.put('/password', slow, async (request, response) => {
    const caller = callerOf(request);
    const { before, password } = read(ChangePassword, request.body);
    await changePassword(house, caller, before, password, sessionOf(request.headers.cookie));
    response.status(204).end();
  });
  router.get('/sessions', async (request, response) => {
    const caller = callerOf(request);
    const own = and(eq(t.sessions.person, caller.id), gt(t.sessions.expires, Date.now()));
    const rows = await db.select().from(t.sessions).where(own).orderBy(desc(t.sessions.expires));
    const mine = sessionOf(request.headers.cookie);
    const view: SessionRow[] = rows.map(row => ({
      id: row.tokenHash.slice(0, 16),
      expires: new Date(row.expires).toISOString(),
      isThis: row.tokenHash === mine,
    }));
    response.json(view);
  });
  router.delete('/sessions/others', async (request, response) => {
    const caller = callerOf(request);
    const mine = sessionOf(request.headers.cookie);
    const rows = await db.select().from(t.sessions).where(eq(t.sessions.person, caller.id));
    for (const row of rows)
      if (row.tokenHash !== mine) await db.delete(t.sessions).where(eq(t.sessions.tokenHash, row.tokenHash));
    response.status(204).end();
  });
  router.get('/accounts', async (request, response) => {
    mustLookAfterAccounts(callerOf(request));
    response.json(await accountRows(db));
  });
  router.post('/accounts', async (request, response) => {
    mustLookAfterAccounts(callerOf(request));
    await invite(house, read(Invite, request.body));
    response.status(201).json(await accountRows(db));
  });
  router.post('/accounts/:person/invitation', async (request, response) => {
    mustLookAfterAccounts(callerOf(request));
    await inviteAgain(house, request.params.person);
    response.json(await accountRows(db));
  });
  router.put('/accounts/:person', async (request, response) => {
    const caller = callerOf(request);
    mustLookAfterAccounts(caller);
    await changeAccount(house, caller, request.params.person, read(ChangeAccount, request.body));
    response.json(await accountRows(db));
  });
  return router;
}
