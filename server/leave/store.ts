/** The leave book of some people, read from its tables. */
import type { LeaveBook, LeaveEntry, LeaveSpan, LeaveType, NamedPlan } from '@north-pebble/core/leave';
import { awayOf } from '@north-pebble/core/leave';
import { type Away, type DirectoryIndex, type PersonId, teamOf } from '@north-pebble/core/people';
import { addDays, type CivilDate } from '@north-pebble/core/time';
import { and, asc, eq, gte, inArray, lte, type SQL } from 'drizzle-orm';
import { unionAll } from 'drizzle-orm/mysql-core';
import { type Executor, type Statement, tables as t, together } from '../database/index.ts';

type Row = typeof t.leaveEntries.$inferSelect;

const entry = (row: Row): LeaveEntry => ({
  request: row.request,
  person: row.person as PersonId,
  type: row.type,
  span: row.span,
  state: row.state,
});

export async function loadTypes(db: Executor): Promise<LeaveType[]> {
  return (await db.select().from(t.leaveTypes).orderBy(asc(t.leaveTypes.position))).map(row => row.rules);
}

export async function loadPlans(db: Executor): Promise<NamedPlan[]> {
  return db.select().from(t.leavePlans);
}

type Rules = { types: LeaveType[]; plans: NamedPlan[] };
// Kept as long as the directory that they were read beside; a new version of it reads them anew.
const rulesBeside = new WeakMap<DirectoryIndex, Rules>();

async function rulesFor(db: Executor, index: DirectoryIndex): Promise<Rules> {
  const known = rulesBeside.get(index);
  if (known) return known;
  const rules = { types: await loadTypes(db), plans: await loadPlans(db) };
  rulesBeside.set(index, rules);
  return rules;
}

/** How far back the leave of the rest of the team matters. */
const teamDaysBack = 60;

const entriesWhere = (db: Executor, condition: SQL | undefined) => db.select().from(t.leaveEntries).where(condition);

/** Of one person everything, of their team what is near: two looks along an index each, joined. */
function aroundPerson(db: Executor, index: DirectoryIndex, person: PersonId, today: CivilDate) {
  const others = teamOf(index, person, today).flatMap(p => (p.id === person ? [] : [p.id]));
  const own = entriesWhere(db, eq(t.leaveEntries.person, person));
  const since = addDays(today, -teamDaysBack);
  // An empty team still needs a second query of the same shape; nobody has an empty id.
  const near = entriesWhere(
    db,
    and(inArray(t.leaveEntries.person, others.length > 0 ? others : ['']), gte(t.leaveEntries.lastDay, since)),
  );
  return { own, near };
}

const awayOn = (today: CivilDate) =>
  and(gte(t.leaveEntries.lastDay, today), lte(t.leaveEntries.firstDay, today), eq(t.leaveEntries.state, 'booked'));

const adjustmentsOf = (db: Executor, person: PersonId) =>
  db.select().from(t.leaveAdjustments).where(eq(t.leaveAdjustments.person, person));

/** As the driver gives the rows of both statements. */
type RawEntry = { request: string; person: string; type: string; state: LeaveEntry['state']; span: string } & {
  first_day: string;
  last_day: string;
};
type RawAdjustment = { type: string; date: string; amount: number; reason: string };

/** What a command looks at: the book of one person, with everybody who is away today, for routing. */
export const bookAndAwayStatements = (
  db: Executor,
  index: DirectoryIndex,
  person: PersonId,
  today: CivilDate,
): Statement[] => {
  const { own, near } = aroundPerson(db, index, person, today);
  return [unionAll(own, near, entriesWhere(db, awayOn(today))), adjustmentsOf(db, person)];
};

/** @param found what the two statements gave */
export async function readBookAndAway(
  db: Executor,
  index: DirectoryIndex,
  person: PersonId,
  today: CivilDate,
  found: readonly unknown[],
): Promise<{ book: LeaveBook; away: Away[] }> {
  const [entries, adjustments] = found as [RawEntry[], RawAdjustment[]];
  const rows = [...new Map(entries.map(row => [row.request, row])).values()];
  const team = new Set<string>(teamOf(index, person, today).map(p => p.id));
  const isToday = (row: RawEntry) => row.state === 'booked' && row.first_day <= today && today <= row.last_day;
  const read = ({ request, type, state, ...row }: RawEntry): LeaveEntry => ({
    request,
    person: row.person as PersonId,
    type,
    span: JSON.parse(row.span) as LeaveSpan,
    state,
  });
  const around = rows.filter(row => row.person === person || team.has(row.person));
  return {
    book: {
      index,
      ...(await rulesFor(db, index)),
      entries: around.map(read),
      adjustments: adjustments.map(({ type, date, amount, reason }) => ({
        person,
        type,
        date: date as CivilDate,
        amount,
        reason,
      })),
      today,
    },
    away: awayOf(rows.filter(isToday).map(read)),
  };
}

/** The book for one person: all of their entries, and the near ones of their team. */
export const loadBook = async (db: Executor, index: DirectoryIndex, person: PersonId, today: CivilDate) =>
  (await loadBookAndAway(db, index, person, today)).book;

export const loadBookAndAway = async (db: Executor, index: DirectoryIndex, person: PersonId, today: CivilDate) =>
  readBookAndAway(db, index, person, today, await together(db, bookAndAwayStatements(db, index, person, today)));

/** Entries of some people that touch the days from `from` to `to`. */
export async function loadEntries(
  db: Executor,
  people: readonly PersonId[],
  from: CivilDate,
  to: CivilDate,
): Promise<LeaveEntry[]> {
  if (people.length === 0) return [];
  const rows = await db
    .select()
    .from(t.leaveEntries)
    .where(
      and(
        inArray(t.leaveEntries.person, [...people]),
        gte(t.leaveEntries.lastDay, from),
        lte(t.leaveEntries.firstDay, to),
      ),
    );
  return rows.map(entry);
}
