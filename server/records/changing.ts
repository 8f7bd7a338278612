/** Changes of what is on file: what would follow, made, and taken back. */
import { createHash } from 'node:crypto';
import { type ChangePreview, may, type SaveChange } from '@north-pebble/contract';
import { touched } from '@north-pebble/core/consequences';
import {
  type Booking,
  changeFaultWords,
  edited,
  editsOf,
  type FactEdit,
  type FactOf,
  factOfEdit,
  type HouseChange,
  type Of,
  reversed,
} from '@north-pebble/core/facts';
import { indexDirectory, latestDay, type PersonId, postsOf, todayFor } from '@north-pebble/core/people';
import { addDays, type CivilDate } from '@north-pebble/core/time';
import { eq, inArray, or } from 'drizzle-orm';
import { type Executor, inTransaction, type Transaction, tables as t } from '../database/index.ts';
import {
  adjustmentsOf,
  besideOf,
  type House,
  keepFacts,
  type Moment,
  mustLeaveAccountsAsTheyAre,
  rulesFor,
} from '../house/index.ts';
import { type Caller, notFound, ProblemError, refusedField } from '../http/index.ts';
import { Ended } from '../threads/index.ts';
import {
  bookedByHand,
  bookedIn,
  bookingsOf,
  booksForMany,
  mustBeBorne,
  mustBePossible,
  mustBeTheirs,
  tellOfLeaveForMany,
} from './bookings.ts';
import { concernsMany, follows, shown, type Worked } from './follows.ts';
import { underway } from './underway.ts';
import { forManyWords } from './views/words.ts';

/** The day from which a change holds; nothing for what has no days. */
export const dayOf = (change: HouseChange): CivilDate | null => {
  switch (change.what) {
    case 'record':
    case 'post':
    case 'line':
    case 'acts':
    case 'seconded':
    case 'leave type':
    case 'leave plan':
    case 'not from then':
      return change.from;
    case 'presence':
      return change.presence.from;
    case 'circumstance':
      return null;
    case 'opening':
      return change.opening?.on ?? null;
    case 'adjustment':
      return change.date;
    case 'leaves post':
      return addDays(change.last, 1);
    case 'comes':
      return change.person.joined;
    case 'first day':
      return change.joined;
    case 'last day':
      return change.left === null ? null : addDays(change.left, 1);
    case 'own':
    case 'place':
    case 'department':
    case 'pattern':
    case 'calendar':
    case 'list':
      return null;
    case 'role':
      return change.from ?? null;
    case 'a post':
      return change.under?.from ?? null;
    case 'row':
      return change.row.from;
    case 'booking':
      return change.booking?.from.date ?? null;
    case 'shutdown':
      return change.from.date;
    case 'wishes':
      return change.chosen.map(one => one.from.date).sort()[0] ?? null;
    case 'several':
      return change.changes.map(dayOf).find(day => day !== null) ?? null;
  }
};

/** What is shown and what is made are told to be the same by this. */
const digestOf = (edits: readonly FactEdit[]): string =>
  createHash('sha256').update(JSON.stringify(edits)).digest('hex');

/** Those on whose balances a change puts something by hand. */
const adjustedIn = (change: HouseChange): PersonId[] =>
  (change.what === 'several' ? change.changes : [change]).flatMap(one =>
    one.what === 'adjustment' ? [one.person] : [],
  );

async function work(house: House, db: Executor, change: HouseChange): Promise<Worked> {
  const moment = await house.moment(db);
  const rules = await rulesFor(db, moment.index);
  const adjusted = adjustedIn(change);
  const adjustments = adjusted.length > 0 ? await adjustmentsOf(db, adjusted) : null;
  const booked = await bookedIn(db, change, moment, rules);
  const file = {
    ...moment.index.directory,
    ...besideOf(moment.lists, rules),
    ...(adjustments ? { adjustments } : {}),
    ...(booked ? { bookings: booked } : {}),
  };
  const found = editsOf(file, change, rules.plans);
  if (!found.ok) {
    const field = found.fault.field === '' ? 'change' : `change.${found.fault.field}`;
    throw refusedField(field, changeFaultWords(moment.index, found.fault));
  }
  const now = edited(file, found.edits);
  if (!now.ok) throw new Error(`edits of a change do not fit the directory that they were made of: ${now.stale}`);
  const { leaveTypes: types, leavePlans: plans } = now.directory;
  const after = indexDirectory(now.directory);
  const balances = adjustments ? { adjustments: now.directory.adjustments ?? [] } : {};
  const away = booksForMany(change) ? (booked?.map(one => one.person) ?? []) : [];
  if (change.what === 'wishes') await mustBeBorne(db, change, moment, rules);
  await mustBePossible(db, change, moment, rules);
  await mustBeTheirs(db, change, latestDay(moment.index, moment.now));
  const says = booksForMany(change) ? { says: forManyWords(moment.index, change, found.edits.length) } : {};
  return {
    ...{ moment, edits: found.edits, after, away, digest: digestOf(found.edits) },
    ...{ rules: { types, plans, ...balances }, ...says },
  };
}

/** Nobody changes their own record or their own line, rights of HR operations or not. */
function mustNotBeOwn(caller: Caller, edits: readonly FactEdit[], { index, now }: Moment): void {
  const own = new Set(postsOf(index, caller.id, todayFor(index, caller.id, now)).map(post => post.id));
  const isOwnLine = edits.some(({ before, after }) => {
    const fact = after ?? before;
    return fact?.kind === 'line' && own.has(fact.post);
  });
  if (isOwnLine || touched(edits).includes(caller.id))
    throw new ProblemError('not allowed', 'Your own record is kept by somebody else.');
}

/** @param id under which whoever waits asks how far it is, and stops it */
export async function previewChange(
  house: House,
  caller: Caller,
  change: HouseChange,
  id?: string,
): Promise<ChangePreview> {
  await mustChange(house, caller, change);
  const worked = await work(house, house.db, change);
  if (!booksForMany(change)) mustNotBeOwn(caller, worked.edits, worked.moment);
  const from = dayOf(change);
  const today = latestDay(worked.moment.index, worked.moment.now);
  await mustLeaveAccountsAsTheyAre(house.db, worked.edits, may(caller, 'keep accounts'), today);
  const day = from !== null && from > today ? from : today;
  const found = await underway(house, caller, id, own => follows(house, worked, from, own)).catch(fault => {
    throw fault instanceof Ended ? new ProblemError('refused', 'It was stopped. Nothing was changed.') : fault;
  });
  return shown(house, worked, found, day);
}

async function lockPeople(tx: Transaction, people: readonly PersonId[]): Promise<void> {
  if (people.length > 0)
    await tx.select({ id: t.people.id }).from(t.people).where(inArray(t.people.id, people.toSorted())).for('update');
}

/** Changes are made one after another, each from the house as it stands then. */
async function locked<T>(house: House, work: Parameters<typeof inTransaction<T>>[1]): Promise<T> {
  return inTransaction(house.db, async tx => {
    await tx.select().from(t.house).where(eq(t.house.id, 1)).for('update');
    return work(tx);
  });
}

const changedMeanwhile = () =>
  new ProblemError('stale', 'Somebody changed it meanwhile. Look at what follows as it is now.');

/** Whoever keeps records changes anything; the owners of a list change its rows. */
async function mustChange(house: House, caller: Caller, change: HouseChange): Promise<void> {
  if (mayChangeRecords(caller)) return;
  const lists = await house.lists(house.db);
  const isOwner = (one: HouseChange): boolean =>
    one.what === 'row' && (lists.find(list => list.id === one.list)?.owners?.includes(caller.id) ?? false);
  const all = change.what === 'several' ? change.changes : [change];
  if (!all.every(isOwner)) throw new ProblemError('not allowed', 'Records are kept by HR operations.');
}

/** Leave that is counted anew for many is worked out before anything is locked; it holds as long as the house is the same. */
export const countedAhead = async (house: House, worked: Worked, day: CivilDate | null) =>
  concernsMany(worked) ? (await follows(house, worked, day)).leave : undefined;

export const aroundOf = ({ index, lists, now }: Moment) => ({ index, lists, today: latestDay(index, now) });

export async function saveChange(
  house: House,
  caller: Caller,
  { change, reason, digest }: SaveChange,
): Promise<{ id: number }> {
  await mustChange(house, caller, change);
  const from = dayOf(change);
  const ahead = await work(house, house.db, change);
  const leave = await countedAhead(house, ahead, from);
  const saved = await locked(house, async tx => {
    // Whoever grants leave to one of them locks them as well: nobody is given the same days twice.
    if (booksForMany(change)) await lockPeople(tx, touched(ahead.edits));
    const worked = await work(house, tx, change);
    // A house that is closed is closed for whoever says so, too.
    if (!booksForMany(change)) mustNotBeOwn(caller, worked.edits, worked.moment);
    if (worked.digest !== digest) throw changedMeanwhile();
    if (leave && worked.moment.directoryVersion !== ahead.moment.directoryVersion) throw changedMeanwhile();
    const id = await keepFacts(
      tx,
      {
        at: worked.moment.now,
        by: caller.id,
        request: null,
        reason,
        from,
        change,
        edits: worked.edits,
        takesBack: null,
        keepsAccounts: may(caller, 'keep accounts'),
      },
      { ...aroundOf(worked.moment), ...(leave ? { leave } : {}) },
    );
    if (booksForMany(change)) await tellOfLeaveForMany(tx, id, worked.moment.now, change, worked.edits);
    return { id };
  });
  // What is to be sent is there once it is committed, and not before.
  house.wake();
  return saved;
}

/**
 * A change that the house itself is told to make, as by a directory; what is so already stays so.
 * @throws ProblemError where something stands in its way, at its field
 */
export async function keepByHouse(
  house: House,
  change: HouseChange,
  reason: string,
  also: (tx: Transaction) => Promise<void> = async () => {},
): Promise<void> {
  await locked(house, async tx => {
    const moment = await house.moment(tx);
    const rules = await rulesFor(tx, moment.index);
    const found = editsOf({ ...moment.index.directory, ...besideOf(moment.lists, rules) }, change, rules.plans);
    if (!found.ok && found.fault.code !== 'nothing changes')
      throw refusedField(found.fault.field, changeFaultWords(moment.index, found.fault));
    if (found.ok)
      await keepFacts(
        tx,
        {
          at: moment.now,
          by: null,
          request: null,
          reason,
          from: dayOf(change),
          change,
          edits: found.edits,
          takesBack: null,
          keepsAccounts: false,
        },
        aroundOf(moment),
      );
    await also(tx);
  });
  house.wake();
}

const bare = ({ kind: _, ...own }: FactOf<'booking'>): Booking => own;

/** So many adjustments are taken back at once; more came with a file. */
const mostAdjusted = 20;

/** What takes a change back, as long as nothing later stands on it. */
async function backOf(
  house: House,
  db: Executor,
  id: number,
): Promise<Worked & { from: CivilDate | null; many: Of<'shutdown'> | Of<'wishes'> | null }> {
  const [row] = await db.select().from(t.factChanges).where(eq(t.factChanges.id, id));
  if (!row) throw notFound();
  const [taken] = await db.select().from(t.factChanges).where(eq(t.factChanges.takesBack, id));
  if (taken) throw new ProblemError('stale', 'It was taken back already.');
  const edits = reversed(row.edits);
  const moment = await house.moment(db);
  const many = row.change && booksForMany(row.change) ? row.change : null;
  const byHand = row.change ? bookedByHand(row.change) : [];
  const isBooked = !many && byHand.length === 0 && edits.some(edit => factOfEdit(edit).kind === 'booking');
  const adjusted = edits.flatMap(edit => {
    const fact = factOfEdit(edit);
    return fact.kind === 'adjustment' ? [fact.person] : [];
  });
  // Opening balances of a whole house came with a file.
  if (isBooked || adjusted.length > mostAdjusted)
    throw new ProblemError('refused', 'Leave that was moved in is corrected by another file, or by hand.');
  const file = {
    ...moment.index.directory,
    ...besideOf(moment.lists, await rulesFor(db, moment.index)),
    ...(adjusted.length > 0 ? { adjustments: await adjustmentsOf(db, adjusted) } : {}),
    ...(byHand.length > 0
      ? { bookings: (await bookingsOf(db, byHand, latestDay(moment.index, moment.now))) ?? [] }
      : {}),
    // Held against the rows themselves when it is made.
    ...(many ? { bookings: edits.flatMap(({ before }) => (before?.kind === 'booking' ? [bare(before)] : [])) } : {}),
  };
  const found = edited(file, edits);
  if (!found.ok)
    throw new ProblemError('refused', 'A later change stands on it. Take that back first, or change it anew.');
  const after = indexDirectory(found.directory);
  const { leaveTypes: types, leavePlans: plans } = found.directory;
  return {
    ...{ moment, edits, after, rules: { types, plans }, digest: digestOf(edits) },
    from: row.from as CivilDate | null,
    many,
  };
}

export async function takeBack(house: House, caller: Caller, id: number, reason: string): Promise<{ id: number }> {
  const ahead = await backOf(house, house.db, id);
  const leave = await countedAhead(house, ahead, ahead.from);
  const saved = await locked(house, async tx => {
    const worked = await backOf(house, tx, id);
    if (!worked.many) mustNotBeOwn(caller, worked.edits, worked.moment);
    if (worked.digest !== ahead.digest || (leave && worked.moment.directoryVersion !== ahead.moment.directoryVersion))
      throw changedMeanwhile();
    for (const { before, after } of worked.edits)
      if (before?.kind === 'person' && after === null) await mustBeTouchedByNothing(tx, before.id);
    const made = await keepFacts(
      tx,
      {
        at: worked.moment.now,
        by: caller.id,
        request: null,
        reason,
        from: worked.from,
        change: null,
        edits: worked.edits,
        takesBack: id,
        keepsAccounts: may(caller, 'keep accounts'),
      },
      { ...aroundOf(worked.moment), ...(leave ? { leave } : {}) },
    );
    if (worked.many) await tellOfLeaveForMany(tx, made, worked.moment.now, worked.many, worked.edits);
    return { id: made };
  });
  house.wake();
  return saved;
}

/** Whoever has asked for something, holds something or can sign in stays on file: what they did names them. */
export async function isTouched(tx: Transaction, person: PersonId): Promise<boolean> {
  const counts = [
    await tx.$count(t.requests, or(eq(t.requests.asker, person), eq(t.requests.subject, person))),
    await tx.$count(t.tasks, eq(t.tasks.holder, person)),
    await tx.$count(t.leaveEntries, eq(t.leaveEntries.person, person)),
    await tx.$count(t.papers, eq(t.papers.person, person)),
    await tx.$count(t.accounts, eq(t.accounts.person, person)),
    await tx.$count(t.covers, or(eq(t.covers.person, person), eq(t.covers.by, person))),
  ];
  return counts.some(n => n > 0);
}

async function mustBeTouchedByNothing(tx: Transaction, person: PersonId): Promise<void> {
  if (await isTouched(tx, person))
    throw new ProblemError('refused', 'Something here is theirs already. Give them a last day instead.');
}

export const mayChangeRecords = (caller: Caller): boolean => may(caller, 'keep records');
