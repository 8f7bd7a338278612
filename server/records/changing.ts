/** Changes of what is on file: what would follow, made, and taken back. */
import { createHash } from 'node:crypto';
import { type ChangePreview, may, type SaveChange } from '@north-pebble/contract';
import { type Consequences, consequencesOf, touched } from '@north-pebble/core/consequences';
import { changeFaultWords, edited, editsOf, type FactEdit, type HouseChange, reversed } from '@north-pebble/core/facts';
import type { LeaveBook } from '@north-pebble/core/leave';
import { type DirectoryIndex, indexDirectory, type PersonId, personName, postsOf } from '@north-pebble/core/people';
import { addDays, amountWords, type CivilDate, fullDate } from '@north-pebble/core/time';
import { and, eq, inArray, or } from 'drizzle-orm';
import { type Executor, inTransaction, type Transaction, tables as t } from '../database/index.ts';
import { type House, keepFacts, loadEntries, type Moment, rulesFor } from '../house/index.ts';
import { type Caller, notFound, ProblemError, refusedField } from '../http/index.ts';
import { editWords } from './words.ts';

type Worked = {
  readonly moment: Moment;
  readonly edits: readonly FactEdit[];
  readonly after: DirectoryIndex;
  readonly digest: string;
};

/** The day from which a change holds; nothing for what has no days. */
export const dayOf = (change: HouseChange): CivilDate | null => {
  switch (change.what) {
    case 'record':
    case 'post':
    case 'line':
      return change.from;
    case 'comes':
      return change.person.joined;
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
    case 'several':
      return change.changes.map(dayOf).find(day => day !== null) ?? null;
  }
};

/** What is shown and what is made are told to be the same by this. */
const digestOf = (edits: readonly FactEdit[]): string =>
  createHash('sha256').update(JSON.stringify(edits)).digest('hex');

async function work(house: House, db: Executor, change: HouseChange): Promise<Worked> {
  const moment = await house.moment(db);
  const { plans } = await rulesFor(db, moment.index);
  const file = { ...moment.index.directory, lists: moment.lists };
  const found = editsOf(file, change, plans);
  if (!found.ok) {
    const field = found.fault.field === '' ? 'change' : `change.${found.fault.field}`;
    throw refusedField(field, changeFaultWords(moment.index, found.fault));
  }
  const now = edited(file, found.edits);
  if (!now.ok) throw new Error(`edits of a change do not fit the directory that they were made of: ${now.stale}`);
  return { moment, edits: found.edits, after: indexDirectory(now.directory), digest: digestOf(found.edits) };
}

/** Nobody changes their own record or their own line, rights of HR operations or not. */
function mustNotBeOwn(caller: Caller, edits: readonly FactEdit[], { index, now }: Moment): void {
  const own = new Set(postsOf(index, caller.id, now.slice(0, 10) as CivilDate).map(post => post.id));
  const isOwnLine = edits.some(({ before, after }) => {
    const fact = after ?? before;
    return fact?.kind === 'line' && own.has(fact.post);
  });
  if (isOwnLine || touched(edits).includes(caller.id))
    throw new ProblemError('not allowed', 'Your own record is kept by somebody else.');
}

/** Leave of the last years and of all that is to come. */
const reach = 800;

async function follows(house: House, worked: Worked, change: HouseChange): Promise<Consequences> {
  const { db } = house;
  const { index, now } = worked.moment;
  const today = now.slice(0, 10) as CivilDate;
  const people = touched(worked.edits);
  const rules = await rulesFor(db, index);
  const entries = await loadEntries(db, people, addDays(today, -reach), addDays(today, reach));
  const adjustments =
    people.length === 0
      ? []
      : await db.select().from(t.leaveAdjustments).where(inArray(t.leaveAdjustments.person, people));
  const book: LeaveBook = {
    ...rules,
    index,
    today,
    entries,
    adjustments: adjustments.map(({ person, date, ...row }) => ({
      ...row,
      person: person as PersonId,
      date: date as CivilDate,
    })),
  };
  const day = dayOf(change);
  return consequencesOf(book, worked.after, worked.edits, day !== null && day > today ? day : today);
}

const mostShown = 60;
const unitWords = (amount: number, unit: 'days' | 'hours'): string =>
  `${amountWords(amount)} ${amount === 1 ? unit.slice(0, -1) : unit}`;

export async function previewChange(house: House, caller: Caller, change: HouseChange): Promise<ChangePreview> {
  const worked = await work(house, house.db, change);
  mustNotBeOwn(caller, worked.edits, worked.moment);
  const { index } = worked.moment;
  const rules = await rulesFor(house.db, index);
  const found = await follows(house, worked, change);
  const nameIn = (id: PersonId | null) => (id === null ? null : personName(worked.after, id));
  const typeName = (id: string) => rules.types.find(one => one.id === id)?.name ?? id;
  return {
    digest: worked.digest,
    says: worked.edits.flatMap(edit => editWords({ index: worked.after, plans: rules.plans }, edit)),
    managers: found.managers.slice(0, mostShown).map(one => ({
      name: personName(worked.after, one.person),
      before: nameIn(one.before),
      after: nameIn(one.after),
    })),
    leave: found.leave.slice(0, mostShown).map(one => ({
      name: personName(worked.after, one.person),
      what: `${typeName(one.type)}, ${fullDate(one.span.from.date)} to ${fullDate(one.span.to.date)}`,
      request: one.request,
      before: unitWords(one.before, one.unit),
      after: unitWords(one.after, one.unit),
    })),
    balances: found.balances.map(one => ({
      name: personName(worked.after, one.person),
      what: `${typeName(one.type)} on ${fullDate(one.on)}`,
      before: one.before === null ? null : unitWords(one.before, one.unit),
      after: one.after === null ? null : unitWords(one.after, one.unit),
    })),
    open: await staying(house, found),
    notes: [
      ...(found.managers.length > mostShown
        ? [`${found.managers.length - mostShown} more get another line manager.`]
        : []),
      ...found.vacant.map(post => `Nobody holds the post ${worked.after.post(post)?.title ?? post} then.`),
      ...found.empty.map(role => `Nobody has the role ${role} then.`),
    ],
  };
}

/** Open requests of those who get another manager, as far as the one of before has them: they stay there. */
async function staying(house: House, { managers }: Consequences): Promise<ChangePreview['open'][number][]> {
  const moved = managers.filter(one => one.before !== null).slice(0, 500);
  if (moved.length === 0) return [];
  const rows = await house.db
    .select({ request: t.requests.id, title: t.requests.title, asker: t.requests.asker, holder: t.tasks.holder })
    .from(t.tasks)
    .innerJoin(t.requests, eq(t.requests.id, t.tasks.request))
    .where(
      and(
        eq(t.tasks.open, true),
        inArray(
          t.requests.asker,
          moved.map(one => one.person),
        ),
      ),
    )
    .limit(500);
  const index = await house.directory(house.db);
  return rows
    .filter(row => moved.some(one => one.person === row.asker && one.before === row.holder))
    .slice(0, mostShown)
    .map(row => ({
      request: row.request ?? '',
      title: row.title,
      holder: personName(index, row.holder as PersonId),
    }));
}

/** Changes are made one after another, each from the house as it stands then. */
async function locked<T>(house: House, work: Parameters<typeof inTransaction<T>>[1]): Promise<T> {
  return inTransaction(house.db, async tx => {
    await tx.select().from(t.house).where(eq(t.house.id, 1)).for('update');
    return work(tx);
  });
}

export async function saveChange(
  house: House,
  caller: Caller,
  { change, reason, digest }: SaveChange,
): Promise<{ id: number }> {
  return locked(house, async tx => {
    const worked = await work(house, tx, change);
    mustNotBeOwn(caller, worked.edits, worked.moment);
    if (worked.digest !== digest)
      throw new ProblemError('stale', 'Somebody changed it meanwhile. Look at what follows as it is now.');
    const { now } = worked.moment;
    const from = dayOf(change);
    const id = await keepFacts(tx, {
      at: now,
      by: caller.id,
      request: null,
      reason,
      from,
      change,
      edits: worked.edits,
      takesBack: null,
    });
    return { id };
  });
}

export async function takeBack(house: House, caller: Caller, id: number, reason: string): Promise<{ id: number }> {
  return locked(house, async tx => {
    const [row] = await tx.select().from(t.factChanges).where(eq(t.factChanges.id, id));
    if (!row) throw notFound();
    const [taken] = await tx.select().from(t.factChanges).where(eq(t.factChanges.takesBack, id));
    if (taken) throw new ProblemError('stale', 'It was taken back already.');
    const edits = reversed(row.edits);
    const moment = await house.moment(tx);
    mustNotBeOwn(caller, edits, moment);
    const { index, now } = moment;
    const found = edited({ ...index.directory, lists: moment.lists }, edits);
    for (const { before, after } of edits)
      if (before?.kind === 'person' && after === null) await mustBeTouchedByNothing(tx, before.id);
    if (!found.ok)
      throw new ProblemError('refused', 'A later change stands on it. Take that back first, or change it anew.');
    return {
      id: await keepFacts(tx, {
        at: now,
        by: caller.id,
        request: null,
        reason,
        from: row.from as CivilDate | null,
        change: null,
        edits,
        takesBack: id,
      }),
    };
  });
}

/** Whoever has asked for something, holds something or can sign in stays on file: what they did names them. */
async function mustBeTouchedByNothing(tx: Transaction, person: PersonId): Promise<void> {
  const counts = [
    await tx.$count(t.requests, or(eq(t.requests.asker, person), eq(t.requests.subject, person))),
    await tx.$count(t.tasks, eq(t.tasks.holder, person)),
    await tx.$count(t.leaveEntries, eq(t.leaveEntries.person, person)),
    await tx.$count(t.papers, eq(t.papers.person, person)),
    await tx.$count(t.accounts, eq(t.accounts.person, person)),
    await tx.$count(t.covers, or(eq(t.covers.person, person), eq(t.covers.by, person))),
  ];
  if (counts.some(n => n > 0))
    throw new ProblemError('refused', 'Something here is theirs already. Give them a last day instead.');
}

export const mayChangeRecords = (caller: Caller): boolean => may(caller, 'keep records');
