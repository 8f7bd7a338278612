/**
 * What connections are asked to do. What they answer becomes a command on the request that asked, in the transaction in
 * which the effect is marked as done: an answer that comes twice counts once.
 */

import { groupsBy } from '@north-pebble/core/access';
import { type PersonId, postsOf, todayFor } from '@north-pebble/core/people';
import { dayOver, type Instant } from '@north-pebble/core/time';
import type { EffectCommand } from '@north-pebble/core/workflow';
import { and, eq } from 'drizzle-orm';
import {
  type Answered,
  type Asked,
  givenBesides,
  groupsGiven,
  loadConnection,
  type Opened,
  opened,
  passOn,
  type StoredConnection,
} from '../connections/index.ts';
import { inTransaction, isDatabaseAway, type Transaction, tables as t, waiting } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { effectCameBack } from '../requests/index.ts';
import { type Claimant, claim, inHand, type Row, renew, retry } from './claims.ts';

/** The connection cannot be reached at all: what else waits for it need not be tried now. */
export class ConnectionAway extends Error {}

type Payload = { values?: Record<string, unknown> };

const askedOf = (house: House, row: Row): Asked => ({
  noted: row.noted,
  note: async noted => {
    await house.db.update(t.effects).set({ noted }).where(eq(t.effects.id, row.id));
  },
  key: row.key,
  action: row.action,
  request: row.request,
  step: row.step,
  values: (row.payload as unknown as Payload).values ?? {},
  at: row.writtenAt,
  keeps: who => groupsKept(house, row.connection, who),
});

/** Groups that somebody has for other reasons than where they stand: requests gave them, or another post of theirs does. */
async function groupsKept(house: House, connection: string, who: { person: string; account: string }) {
  const [given, stored] = await Promise.all([
    groupsGiven(house.db, connection, who),
    loadConnection(house.db, connection),
  ]);
  const rules = (stored && opened(stored)?.groupRules) ?? [];
  if (rules.length === 0 || who.person === '') return given;
  const { index, now } = await house.moment(house.db);
  const [, ...others] = postsOf(index, who.person as PersonId, todayFor(index, who.person as PersonId, now));
  return [...given, ...others.flatMap(post => groupsBy(rules, { post: post.title, place: null, department: null }))];
}

/** What is taken back, with what its connection said when it brought it about. */
async function original(house: House, row: Row): Promise<Row | undefined> {
  const [found] = await house.db
    .select()
    .from(t.effects)
    .where(eq(t.effects.key, row.undoes ?? ''));
  return found;
}

async function ask(house: House, connection: Opened, row: Row): Promise<Answered> {
  if (row.undoes === null) return connection.deliver(askedOf(house, row));
  const before = await original(house, row);
  if (!before) return { state: 'refused', reason: 'what it takes back is not on file any more' };
  const other = await givenBesides(house.db, before);
  if (other) return { state: 'delivered', result: { stays: other.request ?? 'another request' } };
  return connection.undo(askedOf(house, before), before.result ?? before.noted ?? {});
}

/**
 * Marks an effect as done or refused, and tells its request.
 * @param owner whose a file is that came back, where one did
 */
export async function settle(
  house: House,
  tx: Transaction,
  row: Row,
  answered: Exclude<Answered, { state: 'later' }>,
  owner?: string,
) {
  const done = { attempts: row.attempts + 1, doneAt: Date.now() };
  const isDelivered = answered.state === 'delivered';
  await tx
    .update(t.effects)
    .set(
      isDelivered
        ? { state: 'delivered', result: answered.result, fault: null, ...done }
        : { state: 'refused', fault: answered.reason.slice(0, 500), ...done },
    )
    .where(eq(t.effects.id, row.id));
  const stays = isDelivered && row.undoes !== null ? answered.result.stays : undefined;
  if (isDelivered && row.undoes !== null) {
    if (typeof stays === 'string') await passOn(tx, row.undoes);
    await tx.update(t.effects).set({ state: 'undone' }).where(eq(t.effects.key, row.undoes));
  }
  if (isDelivered && row.undoes === null && row.until !== null)
    await tx.insert(t.effects).values({
      key: `${row.key}:undo`,
      connection: row.connection,
      action: row.action,
      request: row.request,
      step: row.step,
      target: row.target,
      payload: row.payload,
      ...waiting,
      writtenAt: await house.now(tx),
      notBefore: row.undoAt ?? dayOver(row.until, 'UTC'),
      undoes: row.key,
    });
  if (isDelivered && row.undoes === null && row.action === 'create account')
    await offerFirstPassword(tx, row, answered.result, await house.now(tx));
  if (row.request === null) return;
  const outcome: EffectCommand['outcome'] | null =
    row.undoes !== null
      ? isDelivered
        ? { state: 'undone', ...(typeof stays === 'string' ? { stays } : {}) }
        : null
      : isDelivered
        ? { state: 'delivered', result: answered.result }
        : { state: 'refused', reason: answered.reason };
  const command = outcome && ({ kind: 'effect', key: row.undoes ?? row.key, outcome } as const);
  if (command) await effectCameBack(house, tx, row.request, command, owner);
}

/** Whoever has a new account is written to, where the workflow says so: with a one-time address, never with a password. */
async function offerFirstPassword(
  tx: Transaction,
  row: Row,
  { id, account }: Readonly<Record<string, unknown>>,
  now: Instant,
): Promise<void> {
  const { values = {} } = row.payload as unknown as { values?: Record<string, unknown> };
  const address = values.welcome;
  if (typeof address !== 'string' || !address.includes('@') || typeof id !== 'string' || !row.connection) return;
  const first = { connection: row.connection, target: id, account: String(account ?? '') };
  await tx
    .insert(t.effects)
    .ignore()
    .values({
      key: `${row.key}:first`.slice(0, 150),
      request: row.request,
      payload: {
        to: '',
        address: address.trim(),
        subject: 'Your account is ready',
        body: `Your account “${first.account}” is there. Its first password is shown to you once, on this page:`,
        first,
      },
      ...waiting,
      writtenAt: now,
    });
}

async function deliver(house: House, by: Claimant, connection: Opened, row: Row): Promise<void> {
  if (!(await renew(house, by, row.id))) return;
  const answered = await inHand(house, by, row.id, () => ask(house, connection, row));
  if (answered.state === 'later') {
    await house.db
      .update(t.effects)
      .set(retry(house, row, answered.reason, answered.after))
      .where(and(eq(t.effects.id, row.id), eq(t.effects.state, 'waiting')));
    if (answered.away) throw new ConnectionAway(answered.reason);
    return;
  }
  try {
    await inTransaction(house.db, tx => settle(house, tx, row, answered));
  } catch (fault) {
    if (isDatabaseAway(fault)) throw fault;
    // The other side has answered; the request could not take it in. It is asked again with the same key.
    await house.db
      .update(t.effects)
      .set(retry(house, row, fault instanceof Error ? fault.message : String(fault)))
      .where(eq(t.effects.id, row.id));
  }
}

/** So many calls are under way to one connection from one server. */
const atOnce = 4;

/** Asks one connection for everything that is ripe; how much was tried. */
export async function askReady(house: House, by: Claimant, stored: StoredConnection): Promise<number> {
  const connection = opened(stored);
  if (!connection || stored.paused) return 0;
  let tried = 0;
  for (let rows = await claim(house, by, stored.name); rows.length > 0; rows = await claim(house, by, stored.name)) {
    // Each is of another target: none waits for another.
    for (let i = 0; i < rows.length; i += atOnce) {
      const some = await Promise.allSettled(rows.slice(i, i + atOnce).map(row => deliver(house, by, connection, row)));
      const failed = some.find(one => one.status === 'rejected');
      if (failed) throw failed.reason;
    }
    tried += rows.length;
  }
  return tried;
}
