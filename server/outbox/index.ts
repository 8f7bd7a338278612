/**
 * Delivers what commands left in the outbox: at least once, with a key that lets the receiver tell a repeat,
 * tried again with growing pauses. A row is claimed for a while; a server that dies gives its claims back by that.
 */
import type { PersonId } from '@north-pebble/core/people';
import type { Instant } from '@north-pebble/core/time';
import { and, asc, eq, inArray, lte } from 'drizzle-orm';
import type { MailConnection } from '../connections/mail.ts';
import { inTransaction, isDatabaseAway, tables as t } from '../database/index.ts';
import type { House } from '../house.ts';
import { replyAddress } from '../messages/address.ts';

const claimMilliseconds = 15_000;
const batch = 20;
const longestPause = 300_000;

type Row = typeof t.outbox.$inferSelect;

async function claim(house: House): Promise<Row[]> {
  return inTransaction(house.db, async tx => {
    const rows = await tx
      .select()
      .from(t.outbox)
      .where(and(eq(t.outbox.state, 'waiting'), lte(t.outbox.nextTry, Date.now())))
      .orderBy(asc(t.outbox.nextTry), asc(t.outbox.id))
      .limit(batch)
      .for('update', { skipLocked: true });
    if (rows.length > 0) {
      const ids = rows.map(row => row.id);
      await tx
        .update(t.outbox)
        .set({ nextTry: Date.now() + claimMilliseconds })
        .where(inArray(t.outbox.id, ids));
    }
    return rows;
  });
}

async function deliver(house: House, mail: MailConnection, row: Row): Promise<void> {
  const index = await house.directory(house.db);
  const { address } = row.payload;
  const person = index.person(row.payload.to as PersonId);
  const to =
    address === undefined ? person && { name: person.name, mail: person.mail } : { name: address, mail: address };
  try {
    if (to) {
      await mail.send({
        key: row.key,
        to,
        subject: row.payload.subject,
        text: row.payload.body,
        ...(row.payload.html ? { html: row.payload.html } : {}),
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
      });
    }
    await house.db
      .update(t.outbox)
      .set({ state: 'sent', attempts: row.attempts + 1 })
      .where(eq(t.outbox.id, row.id));
  } catch (fault) {
    if (isDatabaseAway(fault)) throw fault;
    const attempts = row.attempts + 1;
    const pause = Math.min(longestPause, 1000 * 2 ** Math.min(attempts, 10));
    house.log.warn({ key: row.key, attempts, reason: String(fault) }, 'mail not delivered');
    await house.db
      .update(t.outbox)
      .set({ attempts, nextTry: Date.now() + pause })
      .where(eq(t.outbox.id, row.id));
  }
}

/** Delivers everything that is ready; how many rows were tried. */
export async function deliverReady(house: House, mail: MailConnection): Promise<number> {
  let tried = 0;
  for (let rows = await claim(house); rows.length > 0; rows = await claim(house)) {
    for (const row of rows) await deliver(house, mail, row);
    tried += rows.length;
  }
  return tried;
}

export type Postman = { wake: () => void; stop: () => Promise<void> };

/** Delivers when woken, and every `pause` milliseconds for what is to be tried again. */
export function keepDelivering(house: () => House, mail: MailConnection, pause = 1000): Postman {
  let stopped = false;
  let again = false;
  let running: Promise<void> | null = null;
  const round = async () => {
    do {
      again = false;
      try {
        await deliverReady(house(), mail);
      } catch (fault) {
        if (isDatabaseAway(fault)) house().log.warn('outbox waits for the database');
        else house().log.error({ err: fault }, 'outbox');
      }
    } while (again && !stopped);
    running = null;
  };
  const wake = () => {
    if (stopped) return;
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
