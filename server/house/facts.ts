/** Facts of the house as they are stored: a change, its edits, and the rows that they are of, in one transaction. */
import { touched } from '@north-pebble/core/consequences';
import { type Fact, type FactEdit, factKey, factOfEdit, type HouseChange, sameValue } from '@north-pebble/core/facts';
import { lastDayOf } from '@north-pebble/core/leave';
import type { PersonId } from '@north-pebble/core/people';
import type { CivilDate, Instant } from '@north-pebble/core/time';
import { and, eq, getTableColumns, type SQL } from 'drizzle-orm';
import type { MySqlTable } from 'drizzle-orm/mysql-core';
import { type GuardedName, guardedName, inLedger, type Row, type Transaction, tables as t } from '../database/index.ts';
import { mustLeaveAccountsAsTheyAre, tellOldAddresses } from './accountsKept.ts';
import { insertMany } from './directory.ts';
import { raiseDirectoryVersion } from './house.ts';
import { lookAgain, type Restating, restate } from './restating.ts';

/** A fact is not as the edit says: somebody was faster. The transaction is done again from how it stands then. */
class FactChanged extends Error {
  readonly code = 'ER_CHECKREAD';
}

/** The row of a fact: by which columns it is found, and what its others hold. */
type Placed = {
  readonly table: MySqlTable;
  readonly key: Readonly<Record<string, unknown>>;
  readonly values: Readonly<Record<string, unknown>>;
};

function placed(fact: Fact): Placed {
  switch (fact.kind) {
    case 'person': {
      const { kind: _, id, left, number = null, ...rest } = fact;
      return { table: t.people, key: { id }, values: { ...rest, number, leftOn: left } };
    }
    case 'record': {
      const { kind: _, person, from, planPer = null, costCentre = null, ...values } = fact;
      return { table: t.personRecords, key: { person, from }, values: { ...values, planPer, costCentre } };
    }
    case 'post': {
      const { kind: _, id, ...values } = fact;
      return { table: t.posts, key: { id }, values };
    }
    case 'line': {
      const { kind: _, post, from, ...values } = fact;
      return { table: t.postLines, key: { post, from }, values };
    }
    case 'holding': {
      const { kind: _, post, person, from, ...values } = fact;
      return { table: t.holdings, key: { post, person, from }, values };
    }
    case 'role': {
      const { role, person, place, department, from, to } = fact;
      const key = { role, person, place: place ?? '', department: department ?? '' };
      return { table: t.roles, key, values: { from: from ?? null, to: to ?? null } };
    }
    case 'place': {
      const { kind: _, id, ...values } = fact;
      return { table: t.places, key: { id }, values };
    }
    case 'department': {
      const { kind: _, id, ...values } = fact;
      return { table: t.departments, key: { id }, values };
    }
    case 'pattern': {
      const { kind: _, id, ...values } = fact;
      return { table: t.patterns, key: { id }, values };
    }
    case 'calendar': {
      const { kind: _, id, ...values } = fact;
      return { table: t.calendars, key: { id }, values };
    }
    case 'holiday': {
      const { calendar, date, part, name } = fact;
      return { table: t.holidays, key: { calendar, date, part }, values: { name } };
    }
    case 'list': {
      const { kind: _, id, ...values } = fact;
      return { table: t.lists, key: { id }, values };
    }
    case 'row': {
      const { kind: _, list, id, ...values } = fact;
      return { table: t.listRows, key: { list, id }, values };
    }
    case 'opening': {
      const { kind: _, person, type, ...values } = fact;
      return { table: t.leaveOpenings, key: { person, type }, values };
    }
    case 'circumstance': {
      const { person, id, holds } = fact;
      return { table: t.circumstances, key: { person, id }, values: { holds } };
    }
    case 'adjustment': {
      const { person, type, date, reason, amount, warns = false } = fact;
      return { table: t.leaveAdjustments, key: { person, type, date, reason }, values: { amount, warns } };
    }
    case 'leave type': {
      const { id, from, rules } = fact;
      return { table: t.leaveTypes, key: { id, from }, values: { rules } };
    }
    case 'leave plan': {
      const { id, from, name, unit, rules } = fact;
      return { table: t.leavePlans, key: { id, from }, values: { name, unit, rules } };
    }
    case 'presence': {
      const { kind: _, id, ...values } = fact;
      return { table: t.leastPresence, key: { id }, values };
    }
    case 'booking': {
      const { id: request, person, type, span, reason = null } = fact;
      const days = { firstDay: span.from.date, lastDay: lastDayOf(span) };
      return {
        table: t.leaveEntries,
        key: { request },
        values: { person, type, state: 'booked', span, ...days, planner: true, reason },
      };
    }
  }
}

/** Told to be unlike one another by a reader of the database that puts nothing for an empty list. */
const stands = (there: unknown, wanted: unknown): boolean =>
  sameValue(there, wanted) || ((there ?? null) === null && Array.isArray(wanted) && wanted.length === 0);

const rowAt = ({ table, key }: Placed): SQL | undefined =>
  and(...Object.entries(key).map(([name, value]) => eq(getTableColumns(table)[name] as never, value)));

async function keepOne(tx: Transaction, { before, after }: FactEdit): Promise<void> {
  const was = placed((before ?? after) as Fact);
  const [there] = await tx.select().from(was.table).where(rowAt(was)).for('update');
  const found = there as Readonly<Record<string, unknown>> | undefined;
  const isAsSaid = before
    ? found && Object.entries(was.values).every(([name, value]) => stands(found[name], value))
    : !found;
  if (!isAsSaid) throw new FactChanged('somebody changed it meanwhile');
  const is = after && placed(after);
  if (is && before) await tx.update(is.table).set(is.values).where(rowAt(is));
  else if (is) await tx.insert(is.table).values({ ...is.key, ...is.values } as never);
  else await tx.delete(was.table).where(rowAt(was));
}

/** So many facts come one by one; more come some hundreds a statement. */
const few = 100;

async function keepMany(tx: Transaction, edits: readonly FactEdit[]): Promise<void> {
  const times = new Map<string, number>();
  for (const edit of edits) {
    const key = factKey(factOfEdit(edit));
    times.set(key, (times.get(key) ?? 0) + 1);
  }
  const coming = new Map<MySqlTable, object[]>();
  for (const edit of edits) {
    if (edit.before !== null || edit.after === null || times.get(factKey(edit.after)) !== 1) {
      await keepOne(tx, edit);
      continue;
    }
    const { table, key, values } = placed(edit.after);
    const rows = coming.get(table) ?? [];
    rows.push({ ...key, ...values });
    coming.set(table, rows);
  }
  for (const [table, rows] of coming) await insertMany(tx, table, rows as never);
}

/** The rows that edits are of, for the ledger. */
function rowsOf(edits: readonly FactEdit[]): { what: GuardedName; keys: Row[] }[] {
  const keys = new Map<GuardedName, Row[]>();
  for (const edit of edits) {
    const { table, key } = placed(factOfEdit(edit));
    const what = guardedName(table);
    if (!what) throw new Error(`the ledger does not guard the facts of ${factKey(factOfEdit(edit))}`);
    const own = keys.get(what);
    if (own) own.push(key);
    else keys.set(what, [key]);
  }
  return [...keys].map(([what, rows]) => ({ what, keys: rows }));
}

/** The edits that are about each person. */
function ofPeople(edits: readonly FactEdit[]): Map<PersonId, FactEdit[]> {
  const of = new Map<PersonId, FactEdit[]>();
  for (const edit of edits)
    for (const person of touched([edit])) {
      const own = of.get(person);
      if (own) own.push(edit);
      else of.set(person, [edit]);
    }
  return of;
}

export type ToKeep = {
  readonly at: Instant;
  readonly by: PersonId | null;
  readonly request: string | null;
  readonly reason: string;
  readonly from: CivilDate | null;
  readonly change: HouseChange | null;
  readonly edits: readonly FactEdit[];
  readonly takesBack: number | null;
  /** Whether whoever makes it may keep accounts. */
  readonly keepsAccounts: boolean;
};

/**
 * Stores edits that were worked out from the directory as it stands in this transaction, with who made them and why, and
 * what booked leave they count anew.
 * @param around how things stand before the edits
 * @returns the number of the change
 */
export async function keepFacts(
  tx: Transaction,
  { edits, keepsAccounts, ...change }: ToKeep,
  around: Restating,
): Promise<number> {
  await mustLeaveAccountsAsTheyAre(tx, edits, keepsAccounts, around.today);
  await tellOldAddresses(tx, edits, change.at);
  if (edits.length > few) await keepMany(tx, edits);
  else for (const edit of edits) await keepOne(tx, edit);
  const [{ insertId }] = await tx.insert(t.factChanges).values({ ...change, edits: [...edits] });
  const people = touched(edits);
  const of = edits.length > few ? ofPeople(edits) : null;
  if (people.length > 0)
    await insertMany(
      tx,
      t.factChangePeople,
      people.map(person => ({ person, change: insertId, edits: of?.get(person) ?? null })),
    );
  await restate(tx, { id: insertId, at: change.at, reason: change.reason, edits }, around);
  await lookAgain(tx, { id: insertId, at: change.at, from: change.from, edits }, around);
  await raiseDirectoryVersion(tx);
  await inLedger(tx, ...rowsOf(edits), { what: 'change of facts', keys: [{ id: insertId }] });
  return insertId;
}
