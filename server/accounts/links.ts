/** One-time links: random, kept as hashes only, over after a time, and used once. */
import { createHash, randomBytes } from 'node:crypto';
import { and, eq, gt, lt } from 'drizzle-orm';
import { type Executor, type Transaction, tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';

type Purpose = (typeof t.links.$inferSelect)['purpose'];

const hour = 3_600_000;
/** How long each kind of link lasts. */
const lasts: Record<Purpose, number> = { setup: hour, invitation: 14 * 24 * hour, password: hour };

/** Of a token or a code: what is kept of it. */
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** A new link; those made before for the same purpose and person are over. */
export async function makeLink(db: Executor, purpose: Purpose, person: string | null): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  const before =
    person === null ? eq(t.links.purpose, purpose) : and(eq(t.links.purpose, purpose), eq(t.links.person, person));
  await db.delete(t.links).where(before);
  await db.insert(t.links).values({ hash: hashOf(token), purpose, person, expires: Date.now() + lasts[purpose] });
  return token;
}

/** The address that a letter brings; made when the letter goes out, so that it is kept nowhere but in the letter. */
export const accountAddress = async (
  { db, address }: Pick<House, 'db' | 'address'>,
  { person, purpose }: { person: string; purpose: 'invitation' | 'password' },
): Promise<string> => `${address}/link#${await makeLink(db, purpose, person)}`;

/** What a link is for, while it lasts. */
export async function findLink(db: Executor, token: string) {
  const [link] = await db
    .select()
    .from(t.links)
    .where(and(eq(t.links.hash, hashOf(token)), gt(t.links.expires, Date.now())));
  return link;
}

/** Uses a link up, in the transaction of what it is used for; nothing when somebody has done so already. */
export async function useLink(tx: Transaction, token: string) {
  const [link] = await tx
    .select()
    .from(t.links)
    .where(and(eq(t.links.hash, hashOf(token)), gt(t.links.expires, Date.now())))
    .for('update');
  if (link) await tx.delete(t.links).where(eq(t.links.hash, link.hash));
  return link;
}

export const dropOldLinks = (db: Executor) => db.delete(t.links).where(lt(t.links.expires, Date.now()));
