/**
 * Delivers what commands left in the outbox: at least once, with a key that lets the receiver tell a repeat,
 * tried again with growing pauses. Each letter is claimed for a while, renewed while it is being sent and checked again
 * before: a slow mail server doubles nothing, and a server that dies gives its claims back.
 */
import { randomUUID } from 'node:crypto';
import { dailyMail, type PersonId, sendingOf, zoneOf } from '@north-pebble/core/people';
import { civilDateAt, type Instant } from '@north-pebble/core/time';
import { and, asc, eq, gt, inArray, isNull, lte, or, sql } from 'drizzle-orm';
import type { MailConnection } from '../connections/index.ts';
import { errorCode, inTransaction, isDatabaseAway, tables as t } from '../database/index.ts';
import { type House, machineNow } from '../house/index.ts';
import { replyAddress } from '../messages/index.ts';

/** How long a letter is in one sender’s hands before another may take it; renewed while it is being sent. */
const leaseMilliseconds = 15_000;
const batch = 20;
const longestPause = 300_000;
/** How long a mail server that cannot be reached is left alone at most. */
const longestSilence = 15_000;

type Row = typeof t.outbox.$inferSelect;

/** One sender of letters: a server has one. */
export type Sender = { readonly id: string; readonly mail: MailConnection; readonly lease?: number };

const leaseOf = ({ lease = leaseMilliseconds }: Sender): number => lease;

async function claim(house: House, sender: Sender): Promise<Row[]> {
  return inTransaction(house.db, async tx => {
    const now = sql`coalesce((select ${t.house.now} from ${t.house} where ${t.house.id} = 1), ${machineNow()})`;
    const ripe = or(isNull(t.outbox.notBefore), lte(t.outbox.notBefore, now));
    const rows = await tx
      .select()
      .from(t.outbox)
      .where(and(eq(t.outbox.state, 'waiting'), lte(t.outbox.nextTry, Date.now()), ripe))
      .orderBy(asc(t.outbox.nextTry), asc(t.outbox.id))
      .limit(batch)
      .for('update', { skipLocked: true });
    if (rows.length > 0) {
      const ids = rows.map(row => row.id);
      await tx
        .update(t.outbox)
        .set({ nextTry: Date.now() + leaseOf(sender), claimedBy: sender.id })
        .where(inArray(t.outbox.id, ids));
    }
    return rows;
  });
}

/** Whether a letter is still in this sender’s hands, for another while; those before it may have taken long. */
async function renew(house: House, sender: Sender, id: number): Promise<boolean> {
  const mine = and(
    eq(t.outbox.id, id),
    eq(t.outbox.state, 'waiting'),
    eq(t.outbox.claimedBy, sender.id),
    gt(t.outbox.nextTry, Date.now()),
  );
  const [{ affectedRows }] = await house.db
    .update(t.outbox)
    .set({ nextTry: Date.now() + leaseOf(sender) })
    .where(mine);
  return affectedRows === 1;
}

/** Does something that may take long with a letter in hand; the claim is renewed meanwhile. */
async function inHand<T>(house: House, sender: Sender, id: number, work: () => Promise<T>): Promise<T> {
  const timer = setInterval(() => {
    renew(house, sender, id).catch(fault => house.log.warn({ err: fault }, 'outbox lease'));
  }, leaseOf(sender) / 3);
  try {
    return await work();
  } finally {
    clearInterval(timer);
  }
}

/**
 * Puts letters off that their readers do not want at once, in the house's time; what is left is to be sent now.
 * A letter that was put off once goes out when its time has come.
 */
async function putOff(house: House, rows: readonly Row[]): Promise<Row[]> {
  const fresh = rows.filter(row => row.notBefore === null && row.payload.to && !row.payload.answers);
  if (fresh.length === 0) return [...rows];
  const choices = await house.db
    .select()
    .from(t.mailChoices)
    .where(inArray(t.mailChoices.person, [...new Set(fresh.map(row => row.payload.to))]));
  if (choices.length === 0) return [...rows];
  const { index, now } = await house.moment(house.db);
  const gone = new Set<number>();
  for (const row of fresh) {
    const choice = choices.find(c => c.person === row.payload.to)?.choice;
    const person = index.person(row.payload.to as PersonId);
    if (!choice || !person) continue;
    const zone = zoneOf(index, person, civilDateAt(now, 'UTC'));
    const sending = sendingOf(choice, row.payload.forRole === true, now, zone);
    if (sending.how === 'now') continue;
    gone.add(row.id);
    const change =
      sending.how === 'not'
        ? { state: 'unsent' as const }
        : { notBefore: sending.at, person: person.id, daily: sending.how === 'daily', nextTry: 0 };
    await house.db.update(t.outbox).set(change).where(eq(t.outbox.id, row.id));
  }
  return rows.filter(row => !gone.has(row.id));
}

/** Everything of one person's daily mail that is ripe goes out as one; the rows are held until it is delivered. */
async function deliverDaily(house: House, mail: MailConnection, person: string): Promise<void> {
  const now = await house.now(house.db);
  await inTransaction(house.db, async tx => {
    const of = and(eq(t.outbox.person, person), eq(t.outbox.daily, true), eq(t.outbox.state, 'waiting'));
    const rows = await tx
      .select()
      .from(t.outbox)
      .where(and(of, lte(t.outbox.notBefore, now)))
      .orderBy(asc(t.outbox.id))
      // Waits for another server that is about to send it, or has just claimed a part of it.
      .for('update');
    const found = (await house.directory(tx)).person(person as PersonId);
    if (rows.length === 0) return;
    const ids = inArray(
      t.outbox.id,
      rows.map(row => row.id),
    );
    try {
      const { subject, body } = dailyMail(rows.map(row => row.payload));
      // The first of them names the mail, so that a repeat can be told.
      const key = `daily:${rows[0].key}`;
      if (found)
        await mail.send({
          key,
          to: { name: found.name, mail: found.mail },
          subject,
          text: body,
          link: `${house.address}/desk`,
          at: now,
        });
      await tx
        .update(t.outbox)
        .set({ state: 'sent', attempts: rows[0].attempts + 1 })
        .where(ids);
    } catch (fault) {
      if (isDatabaseAway(fault)) throw fault;
      await tx
        .update(t.outbox)
        .set(retry(house, rows[0], fault))
        .where(ids);
    }
  });
}

/** When a row is tried again: after pauses that grow. */
function retry(house: House, row: Row, fault: unknown): { attempts: number; nextTry: number } {
  const attempts = row.attempts + 1;
  house.log.warn({ key: row.key, attempts, reason: String(fault) }, 'mail not delivered');
  return { attempts, nextTry: Date.now() + Math.min(longestPause, 1000 * 2 ** Math.min(attempts, 10)) };
}

/** Where its reader opens what a letter is about: their desk when something waits for them, else the request. */
function linkOf({ address }: House, { key, payload }: Row): { link?: string } {
  const [request] = key.split(':');
  if (payload.address !== undefined || !/^R-\d+$/.test(request)) return {};
  return { link: `${address}/${payload.task ? 'desk?item=' : 'requests/'}${request}` };
}

async function deliver(house: House, sender: Sender, row: Row): Promise<void> {
  const { mail } = sender;
  if (!(await renew(house, sender, row.id))) return;
  const index = await house.directory(house.db);
  const { address } = row.payload;
  const person = index.person(row.payload.to as PersonId);
  const to =
    address === undefined ? person && { name: person.name, mail: person.mail } : { name: address, mail: address };
  try {
    if (to) {
      const letter = {
        key: row.key,
        to,
        subject: row.payload.subject,
        text: row.payload.body,
        ...(row.payload.html ? { html: row.payload.html } : {}),
        ...linkOf(house, row),
        ...(row.payload.answers ? { answers: row.payload.answers } : {}),
        ...(row.payload.task && person
          ? {
              replyTo: replyAddress(
                await house.secret(house.db),
                row.payload.task,
                person.id,
                row.writtenAt as Instant,
              ),
            }
          : {}),
        at: row.writtenAt,
      };
      await inHand(house, sender, row.id, () => mail.send(letter));
    }
    await house.db
      .update(t.outbox)
      .set({ state: 'sent', attempts: row.attempts + 1 })
      .where(eq(t.outbox.id, row.id));
  } catch (fault) {
    if (isDatabaseAway(fault)) throw fault;
    await house.db
      .update(t.outbox)
      .set(retry(house, row, fault))
      .where(eq(t.outbox.id, row.id));
    if (isMailAway(fault)) throw new MailAway(String(fault));
  }
}

/** The mail server cannot be reached at all: the other letters need not be tried now. */
class MailAway extends Error {}
const unreachable = new Set(['ECONNECTION', 'ECONNREFUSED', 'ESOCKET', 'ETIMEDOUT', 'EDNS']);
const isMailAway = (fault: unknown): boolean => unreachable.has(errorCode(fault) ?? '');

/** Delivers everything that is ready; how many rows were tried. */
export async function deliverReady(house: House, sender: Sender): Promise<number> {
  let tried = 0;
  for (let rows = await claim(house, sender); rows.length > 0; rows = await claim(house, sender)) {
    const due = await putOff(house, rows);
    for (const person of new Set(due.flatMap(row => (row.daily && row.person ? [row.person] : [])))) {
      await deliverDaily(house, sender.mail, person);
    }
    for (const row of due) if (!row.daily) await deliver(house, sender, row);
    tried += rows.length;
  }
  return tried;
}

export type Postman = { wake: () => void; stop: () => Promise<void> };

/** Delivers when woken, and every `pause` milliseconds for what is to be tried again. */
export function keepDelivering(
  house: () => House,
  mail: MailConnection,
  { pause = 1000, lease = leaseMilliseconds }: { pause?: number; lease?: number } = {},
): Postman {
  const sender: Sender = { id: randomUUID(), mail, lease };
  let stopped = false;
  let again = false;
  let running: Promise<void> | null = null;
  let notBefore = 0;
  let failures = 0;
  const round = async () => {
    do {
      again = false;
      try {
        await deliverReady(house(), sender);
        failures = 0;
      } catch (fault) {
        if (fault instanceof MailAway) {
          failures += 1;
          notBefore = Date.now() + Math.min(longestSilence, 500 * 2 ** failures);
          again = false;
        } else if (isDatabaseAway(fault)) house().log.warn('outbox waits for the database');
        else house().log.error({ err: fault }, 'outbox');
      }
    } while (again && !stopped);
    running = null;
  };
  const wake = () => {
    if (stopped || Date.now() < notBefore) return;
    if (running) again = true;
    else running = round();
  };
  const timer = setInterval(wake, pause);
  return {
    wake,
    stop: async () => {
      stopped = true;
      clearInterval(timer);
      await running;
      mail.close();
    },
  };
}
