/** Once in the life of a house: everything that was stored before there were keys is sealed with them. */
import { createHash } from 'node:crypto';
import { and, asc, eq, gt, inArray, isNotNull, like, not, or, sql } from 'drizzle-orm';
import {
  beginLedger,
  type Database,
  inTransaction,
  isHidden,
  KeysMissing,
  rowText,
  sealedText,
  sealOf,
  type Transaction,
  tables as t,
} from '../database/index.ts';
import { byKey } from '../house/index.ts';

const batch = 200;

/** As events were sealed before there were keys. */
const sealOfBefore = (text: string): string => createHash('sha256').update(text).digest('hex');

/**
 * Makes a house ready whose seals are made with keys. The first server of a new house makes the file of the keys; a house
 * that has seals already is not started without the keys that made them.
 * @param hideMore hides what others keep secret
 * @returns how many requests were sealed
 */
export async function beginSeals(db: Database, hideMore: (tx: Transaction) => Promise<void>): Promise<number> {
  const [head] = await db.select().from(t.ledgerHead).where(eq(t.ledgerHead.id, 1));
  if (!head) db.keys.makeIfMissing();
  const known = db.keys.ids;
  const made = head?.seal?.split('.')[0];
  if (made && !known.includes(made))
    throw new KeysMissing(`This house is sealed with the key ${made}…, which is not in ${db.keys.file}.`);
  if (head) return 0;
  const requests = await sealRequests(db);
  await inTransaction(db, async tx => {
    if ((await tx.$count(t.accounts)) === 0) return;
    await hideSecrets(tx);
    await hideMore(tx);
    await beginLedger(tx);
  });
  return requests;
}

/** Seals the trail of each request that has no keyed seal yet; where an older seal does not bear an event out, it is left as it is. */
async function sealRequests(db: Database): Promise<number> {
  let sealed = 0;
  let after = 0;
  for (;;) {
    const rows = await db
      .select({ number: t.requests.number, id: t.requests.id })
      .from(t.requests)
      .where(
        and(
          gt(t.requests.number, after),
          isNotNull(t.requests.id),
          or(sql`${t.requests.rowSeal} is null`, not(like(t.requests.head, '%.%')), sql`${t.requests.head} is null`),
        ),
      )
      .orderBy(asc(t.requests.number))
      .limit(batch);
    if (rows.length === 0) break;
    after = rows[rows.length - 1].number;
    await inTransaction(db, tx =>
      sealSome(
        tx,
        rows.map(row => row.id ?? ''),
      ),
    );
    sealed += rows.length;
  }
  // The links of before name seals that are no more.
  if (sealed > 0)
    await inTransaction(db, async tx => {
      await tx.delete(t.anchors);
      await tx.update(t.house).set({ anchors: 0, anchorHead: null, anchoredUntil: 0, anchoredNumber: 0 });
    });
  return sealed;
}

async function sealSome(tx: Transaction, ids: readonly string[]): Promise<void> {
  const requests = await tx
    .select()
    .from(t.requests)
    .where(inArray(t.requests.id, [...ids]))
    .for('update');
  const events = byKey(
    await tx
      .select()
      .from(t.events)
      .where(inArray(t.events.request, [...ids]))
      .orderBy(asc(t.events.request), asc(t.events.seq)),
    event => event.request,
  );
  for (const request of requests) {
    const id = request.id ?? '';
    const rows = events.get(id) ?? [];
    if (!isBorneOut(id, rows, request.head)) continue;
    let seal: string | null = null;
    for (const { seq, body } of rows) {
      seal = sealOf(tx.keys, seal, id, seq, body);
      await tx
        .update(t.events)
        .set({ seal })
        .where(and(eq(t.events.request, id), eq(t.events.seq, seq)));
    }
    const subject = request.subject === request.asker ? null : request.subject;
    const rowSeal = tx.keys.seal(rowText({ ...request, subject, head: seal }));
    await tx.update(t.requests).set({ head: seal, rowSeal }).where(eq(t.requests.id, id));
  }
}

/** Whether the seals of before bear out what stands there; what was never sealed is taken as it is. */
function isBorneOut(
  id: string,
  rows: readonly Pick<typeof t.events.$inferSelect, 'seq' | 'body' | 'seal'>[],
  head: string | null,
): boolean {
  if (head === null) return rows.every(row => row.seal === null);
  let seal: string | null = null;
  for (const row of rows) {
    seal = sealOfBefore(sealedText(seal, id, row.seq, row.body));
    if (row.seal !== seal) return false;
  }
  return seal === head;
}

/** Secrets that stood as they are. */
async function hideSecrets(tx: Transaction): Promise<void> {
  const [house] = await tx.select({ secret: t.house.secret }).from(t.house).where(eq(t.house.id, 1));
  if (house?.secret && !isHidden(house.secret))
    await tx
      .update(t.house)
      .set({ secret: tx.keys.hide(house.secret, 'the house') })
      .where(eq(t.house.id, 1));
  for (const account of await tx.select().from(t.accounts).where(isNotNull(t.accounts.factorSecret))) {
    const secret = account.factorSecret ?? '';
    if (isHidden(secret)) continue;
    await tx
      .update(t.accounts)
      .set({ factorSecret: tx.keys.hide(secret, `account ${account.person}`), factorBegun: null })
      .where(eq(t.accounts.person, account.person));
  }
}
