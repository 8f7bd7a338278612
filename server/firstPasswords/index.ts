/**
 * The first password of an account outside: made when its owner opens a one-time address, set there, shown, and kept nowhere.
 * No mail, no log and no table has it.
 */
import { randomBytes, randomInt } from 'node:crypto';
import { and, eq, gt, lt } from 'drizzle-orm';
import { Router } from 'express';
import { hashOf } from '../accounts/index.ts';
import { loadConnection, opened } from '../connections/index.ts';
import { inTransaction, tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { ProblemError, serving, slowDown } from '../http/index.ts';

type Account = { connection: string; target: string; account: string };

const lasts = 14 * 86_400_000;

/** The address that a letter brings; made when the letter goes out. */
export async function firstPasswordAddress(house: House, of: Account): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await house.db.insert(t.firstPasswords).values({ ...of, hash: hashOf(token), expires: Date.now() + lasts });
  return `${house.address}/first#${token}`;
}

/** Letters and digits that nobody takes for one another, in groups of four. */
const letters = 'abcdefghjkmnpqrstuvwxyzABCDEFGHJKMNPQRSTUVWXYZ23456789';
const newPassword = (): string =>
  Array.from({ length: 4 }, () => Array.from({ length: 4 }, () => letters[randomInt(letters.length)]).join('')).join(
    '-',
  );

const overWords = 'This address was used already, or its time is over. Ask HR operations for another.';

async function firstPassword(house: House, token: string) {
  const hash = hashOf(token);
  // Taken first: whoever is second sees nothing, also while the directory is asked.
  const row = await inTransaction(house.db, async tx => {
    const good = and(eq(t.firstPasswords.hash, hash), gt(t.firstPasswords.expires, Date.now()));
    const [found] = await tx.select().from(t.firstPasswords).where(good).for('update');
    if (found) await tx.delete(t.firstPasswords).where(eq(t.firstPasswords.hash, hash));
    return found;
  });
  if (!row) throw new ProblemError('refused', overWords);
  const { connection, target, account } = row;
  const stored = await loadConnection(house.db, connection);
  const set = stored && opened(stored)?.setPassword;
  const password = newPassword();
  const fault = set ? await set(target, password) : 'it is not set up any more';
  if (fault !== null) {
    // Nothing was shown, so the address is good again.
    await house.db.insert(t.firstPasswords).ignore().values(row);
    throw new ProblemError('refused', `${connection} did not take it: ${fault}. Try again in a while.`);
  }
  return { connection, account, password };
}

export function firstPasswordRoutes(house: House, triesPerMinute: number): Router {
  const router = Router();
  serving(router)('POST /first-password', ({ body }) => firstPassword(house, body.token), slowDown(triesPerMinute * 3));
  return router;
}

export const dropOldFirstPasswords = ({ db }: House) =>
  db.delete(t.firstPasswords).where(lt(t.firstPasswords.expires, Date.now()));
