/** Letters: sent over SMTP, at once or together with others, as their readers want them. */
import { may } from '@north-pebble/contract';
import { writeInvitation } from '@north-pebble/core/formats';
import { dailyMail, hrOperations, type PersonId, sendingOf, zoneFor } from '@north-pebble/core/people';
import { civilDateAt, fullDate, type Instant } from '@north-pebble/core/time';
import type { LinkInLetter } from '@north-pebble/core/workflow';
import { and, asc, eq, inArray, lte } from 'drizzle-orm';
import { accountAddress } from '../accounts/index.ts';
import type { Mail, MailConnection } from '../connections/index.ts';
import { errorCode, inTransaction, isDatabaseAway, tables as t, waiting } from '../database/index.ts';
import { bytesOf } from '../files/index.ts';
import { firstPasswordAddress } from '../firstPasswords/index.ts';
import { linkAddress } from '../guests/index.ts';
import { type House, nameOfHouse } from '../house/index.ts';
import { replyAddress } from '../messages/index.ts';
import { asDelivered, type Claimant, claim, inHand, type Row, renew, retry } from './claims.ts';
import { forward, leaverOf } from './leavers.ts';

/** One sender of letters: a server has one. */
export type Sender = Claimant & { readonly mail: MailConnection };

/**
 * Puts letters off that their readers do not want at once, in the house's time; what is left is to be sent now.
 * A letter that was put off once goes out when its time has come.
 */
async function putOff(house: House, rows: readonly Row[]): Promise<Row[]> {
  // What brings files or an invitation, and what is about an account, goes out by itself.
  const fresh = rows.filter(
    row =>
      row.notBefore === null &&
      row.payload.to &&
      row.payload.address === undefined &&
      row.payload.account === undefined &&
      !row.payload.answers &&
      !row.payload.attach,
  );
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
    const zone = zoneFor(index, person.id, now);
    const sending = sendingOf(choice, row.payload.forRole === true, now, zone);
    if (sending.how === 'now') continue;
    gone.add(row.id);
    const change =
      sending.how === 'not'
        ? { state: 'unwanted' as const }
        : { notBefore: sending.at, person: person.id, daily: sending.how === 'daily', nextTry: 0 };
    await house.db.update(t.effects).set(change).where(eq(t.effects.id, row.id));
  }
  return rows.filter(row => !gone.has(row.id));
}

/** Everything of one person's daily mail that is ripe goes out as one; the rows are held until it is delivered. */
async function deliverDaily(house: House, mail: MailConnection, person: string): Promise<void> {
  const now = await house.now(house.db);
  await inTransaction(house.db, async tx => {
    const of = and(eq(t.effects.person, person), eq(t.effects.daily, true), eq(t.effects.state, 'waiting'));
    const rows = await tx
      .select()
      .from(t.effects)
      .where(and(of, lte(t.effects.notBefore, now)))
      .orderBy(asc(t.effects.id))
      // Waits for another server that is about to send it, or has just claimed a part of it.
      .for('update');
    const found = (await house.directory(tx)).person(person as PersonId);
    if (rows.length === 0) return;
    const ids = inArray(
      t.effects.id,
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
        .update(t.effects)
        .set({ state: 'delivered', attempts: rows[0].attempts + 1, doneAt: Date.now() })
        .where(ids);
    } catch (fault) {
      if (isDatabaseAway(fault)) throw fault;
      await tx
        .update(t.effects)
        .set(retry(house, rows[0], String(fault)))
        .where(ids);
    }
  });
}

/** Where its reader opens what a letter is about: their desk when something waits for them, else the request. */
function linkOf({ address }: House, { key, payload }: Row): { link?: string } {
  const [request] = key.split(':');
  if (payload.address !== undefined || !/^R-\d+$/.test(request)) return {};
  return { link: `${address}/${payload.task ? 'desk?item=' : 'requests/'}${request}` };
}

/** The link is for its reader alone; how long it is good is said with it. */
function withPage({ body, html }: Row['payload'], address: string, { until }: LinkInLetter) {
  const words = `Your own page, good until ${fullDate(civilDateAt(until, 'UTC'))}. It is for you alone, so do not pass it on:`;
  return {
    text: `${body}\n\n${words}\n\n${address}`,
    ...(html ? { html: `${html}<p>${words}</p><p><a href="${address}">${address}</a></p>` } : {}),
  };
}

const plainly = ({ body, html }: Row['payload']) => ({ text: body, ...(html ? { html } : {}) });

/** A mail carries no more than this; what is larger is opened on the request. */
const mostAttached = 15_000_000;

/** What goes along with a letter: its files, as far as a mail carries them, and its invitation. */
async function attachedTo(
  house: House,
  row: Row,
  to: { name: string; mail: string },
): Promise<Pick<Mail, 'files' | 'calendar'> & { left?: string }> {
  const { files = [], invitation } = row.payload.attach ?? {};
  const size = files.reduce((sum, file) => sum + file.size, 0);
  const isTooMuch = size > mostAttached;
  const found = isTooMuch
    ? []
    : await Promise.all(files.map(async ({ id, name, type }) => ({ name, type, bytes: await bytesOf(house, id) })));
  return {
    ...(found.length > 0 ? { files: found } : {}),
    ...(isTooMuch
      ? { left: `Too large for a mail, so they are on the request: ${files.map(f => f.name).join(', ')}.` }
      : {}),
    ...(invitation
      ? {
          calendar: {
            method: invitation.method,
            text: writeInvitation(invitation, {
              organizer: { name: await nameOfHouse(house.db), mail: `calendar@${house.domain}` },
              invited: to,
              domain: house.domain,
              stamp: row.writtenAt,
            }),
          },
        }
      : {}),
  };
}

/** A letter to HR operations is one to each person there; written once, however often this is tried. */
async function spread(house: House, row: Row): Promise<void> {
  const accounts = await house.db.select().from(t.accounts).where(eq(t.accounts.closed, false));
  const people = accounts.filter(one => may(one, 'help requests on')).map(one => one.person);
  await inTransaction(house.db, async tx => {
    for (const to of people)
      await tx
        .insert(t.effects)
        .ignore()
        .values({
          key: `${row.key}:${to}`,
          request: row.request,
          payload: { ...row.payload, to, forRole: true },
          ...waiting,
          writtenAt: row.writtenAt,
        });
    await tx.update(t.effects).set(asDelivered(row)).where(eq(t.effects.id, row.id));
  });
}

async function deliver(house: House, sender: Sender, row: Row): Promise<void> {
  const { mail } = sender;
  if (!(await renew(house, sender, row.id))) return;
  if (row.payload.to === hrOperations) return spread(house, row);
  const { index, now } = await house.moment(house.db);
  const leaver = leaverOf(index, row, now);
  if (leaver) return forward(house, row, leaver, index, now);
  const { address } = row.payload;
  const person = index.person(row.payload.to as PersonId);
  const to =
    address === undefined ? person && { name: person.name, mail: person.mail } : { name: address, mail: address };
  try {
    if (to) {
      const { left, ...attached } = await attachedTo(house, row, to);
      const { link } = row.payload;
      const own = link ? await linkAddress(house, house.db, row.key.split(':')[0], link) : null;
      const { first } = row.payload;
      const page = first ? await firstPasswordAddress(house, first) : null;
      const { account } = row.payload;
      const chooses = account ? await accountAddress(house, account) : null;
      const letter = {
        key: row.key,
        to,
        subject: row.payload.subject,
        ...(own && link ? withPage(row.payload, own, link) : plainly(row.payload)),
        ...(page ? { text: `${row.payload.body}\n\n${page}\n\nIt works once, within two weeks.` } : {}),
        ...(chooses ? { text: `${row.payload.body}\n\n${chooses}` } : {}),
        ...(left ? { text: `${row.payload.body}\n\n${left}` } : {}),
        ...attached,
        ...linkOf(house, row),
        ...(row.payload.answers ? { answers: row.payload.answers } : {}),
        ...(row.payload.task && person
          ? {
              replyTo: replyAddress(
                await house.secret(house.db),
                house.domain,
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
    await house.db.update(t.effects).set(asDelivered(row)).where(eq(t.effects.id, row.id));
  } catch (fault) {
    if (isDatabaseAway(fault)) throw fault;
    await house.db
      .update(t.effects)
      .set(retry(house, row, String(fault)))
      .where(eq(t.effects.id, row.id));
    if (isMailAway(fault)) throw new MailAway(String(fault));
  }
}

/** The mail server cannot be reached at all: the other letters need not be tried now. */
export class MailAway extends Error {}
const unreachable = new Set(['ECONNECTION', 'ECONNREFUSED', 'ESOCKET', 'ETIMEDOUT', 'EDNS']);
const isMailAway = (fault: unknown): boolean => unreachable.has(errorCode(fault) ?? '');

/** How many letters are under way at once, so that a letter to one does not wait for those to a whole house. */
const lanes = 4;

/**
 * Sends letters to several readers side by side; those of one reader go one after the other, in their order.
 * It ends when none is under way any more, also when the mail server went away meanwhile.
 */
async function deliverEach(house: House, sender: Sender, rows: readonly Row[]): Promise<void> {
  const ofReader = new Map<string, Row[]>();
  for (const row of rows) {
    const reader = row.payload.address ?? row.payload.to;
    const before = ofReader.get(reader);
    if (before) before.push(row);
    else ofReader.set(reader, [row]);
  }
  const queues = [...ofReader.values()];
  const faults: unknown[] = [];
  const lane = async () => {
    for (let queue = queues.shift(); queue; queue = queues.shift()) {
      for (const row of queue) {
        if (faults.length > 0) return;
        await deliver(house, sender, row).catch(fault => faults.push(fault));
      }
    }
  };
  await Promise.all(Array.from({ length: lanes }, lane));
  if (faults.length > 0) throw faults[0];
}

/** Delivers everything that is ready; how many rows were tried. */
export async function deliverReady(house: House, sender: Sender): Promise<number> {
  let tried = 0;
  for (let rows = await claim(house, sender, 'mail'); rows.length > 0; rows = await claim(house, sender, 'mail')) {
    const due = await putOff(house, rows);
    for (const person of new Set(due.flatMap(row => (row.daily && row.person ? [row.person] : [])))) {
      await deliverDaily(house, sender.mail, person);
    }
    await deliverEach(
      house,
      sender,
      due.filter(row => !row.daily),
    );
    tried += rows.length;
  }
  return tried;
}
