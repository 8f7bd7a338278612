/** The leave book of some people, read from its tables. */
import type { OnFile } from '@north-pebble/core/facts';
import {
  type Adjustment,
  type AskedInstead,
  asKnownOn,
  awayOf,
  concerns,
  entriesWith,
  groupOf,
  isOpen,
  type LeastPresence,
  type LeaveBook,
  type LeaveEntry,
  type LeaveSpan,
  type LeaveType,
  type NamedPlan,
  openAhead,
  type Pass,
} from '@north-pebble/core/leave';
import { type Away, type DirectoryIndex, type PersonId, teamOf } from '@north-pebble/core/people';
import { addDays, type CivilDate } from '@north-pebble/core/time';
import { and, asc, eq, gte, inArray, isNull, lte, sql } from 'drizzle-orm';
import { type Executor, inOneTrip, type Prepared, prepared, tables as t } from '../database/index.ts';

type Row = typeof t.leaveEntries.$inferSelect;

/** An entry as far as it is known on a day; what is open goes on until then. */
const knownOn = (row: Omit<LeaveEntry, 'open'>, day: CivilDate): LeaveEntry =>
  isOpen(row.span) ? { ...row, span: asKnownOn(row.span, day), open: true } : row;

/** What is booked, and what is held besides while a change of it is decided. */
const withInstead = (row: Omit<LeaveEntry, 'open'>, instead: AskedInstead | null, day: CivilDate): LeaveEntry[] =>
  entriesWith(row, instead).map(one => knownOn(one, day));

const entriesOn =
  (day: CivilDate) =>
  (row: Row): LeaveEntry[] =>
    withInstead(
      {
        request: row.request,
        person: row.person as PersonId,
        type: row.type,
        span: row.span,
        state: row.state,
        reason: row.reason,
      },
      row.instead,
      day,
    );

/** Rows of one id put together: what was said from the first, and what from which day on. */
function throughTime<R extends { id: string; from: string }, F>(
  rows: readonly R[],
  of: (first: R, later: R[]) => F,
): F[] {
  const groups = new Map<string, R[]>();
  for (const row of rows) groups.set(row.id, [...(groups.get(row.id) ?? []), row]);
  return [...groups.values()].map(versions => {
    const [first, ...later] = versions.toSorted((a, b) => (a.from < b.from ? -1 : 1));
    return of(first, later);
  });
}
const laterOf = <R>(rows: readonly { from: string; rules: R }[]) =>
  rows.length === 0 ? {} : { later: rows.map(({ from, rules }) => ({ from: from as CivilDate, rules })) };

export async function loadTypes(db: Executor): Promise<LeaveType[]> {
  const rows = await db.select().from(t.leaveTypes).orderBy(asc(t.leaveTypes.position), asc(t.leaveTypes.id));
  return throughTime(rows, (first, later) => ({ ...first.rules, ...laterOf(later) }));
}

export async function loadPlans(db: Executor): Promise<NamedPlan[]> {
  const rows = await db.select().from(t.leavePlans).orderBy(asc(t.leavePlans.id));
  return throughTime(rows, ({ id, name, unit, rules }, later) => ({
    id,
    name,
    unit,
    rules: { ...rules, ...laterOf(later) },
  }));
}

export async function loadPresence(db: Executor): Promise<LeastPresence[]> {
  const rows = await db.select().from(t.leastPresence).orderBy(asc(t.leastPresence.name));
  return rows.map(({ from, to, ...row }) => ({ ...row, from: from as CivilDate | null, to: to as CivilDate | null }));
}

export type Rules = { types: LeaveType[]; plans: NamedPlan[]; presence: LeastPresence[] };
// Kept as long as the directory that they were read beside; a new version of it reads them anew.
const rulesBeside = new WeakMap<DirectoryIndex, Rules>();

/** Leave types, plans and least presence, kept as long as the directory. */
export async function rulesFor(db: Executor, index: DirectoryIndex): Promise<Rules> {
  const known = rulesBeside.get(index);
  if (known) return known;
  const rules = { types: await loadTypes(db), plans: await loadPlans(db), presence: await loadPresence(db) };
  rulesBeside.set(index, rules);
  return rules;
}

/** What is on file besides the directory that changes are about. */
export const besideOf = (lists: OnFile['lists'], { types, plans, presence }: Rules) => ({
  lists: lists ?? [],
  leaveTypes: types,
  leavePlans: plans,
  presence,
});

/** How far back the leave of the rest of the team matters. */
const teamDaysBack = 60;

const { person: whose, lastDay, firstDay, state } = t.leaveEntries;
export const entryColumns = {
  request: t.leaveEntries.request,
  person: whose,
  type: t.leaveEntries.type,
  span: t.leaveEntries.span,
  state,
  reason: t.leaveEntries.reason,
  instead: t.leaveEntries.instead,
};

// A look of its own for each: a union would put the spans, which are texts, into a table on disk every time.
const entriesOf = prepared<'person'>((build, slot) =>
  build
    .select(entryColumns)
    .from(t.leaveEntries)
    .where(eq(whose, slot('person'))),
);
const entriesNear = prepared<'people' | 'since'>((build, slot) =>
  build
    .select(entryColumns)
    .from(t.leaveEntries)
    .where(and(sql`${whose} in (${slot('people')})`, gte(lastDay, slot('since')))),
);
const bookedOn = prepared<'day'>((build, slot) =>
  build
    .select(entryColumns)
    .from(t.leaveEntries)
    .where(and(gte(lastDay, slot('day')), lte(firstDay, slot('day')), eq(state, 'booked'))),
);
const passesOf = prepared<'person'>((build, slot) =>
  build
    .select({
      id: t.leavePasses.id,
      type: t.leavePasses.type,
      from: t.leavePasses.from,
      to: t.leavePasses.to,
      by: t.leavePasses.by,
      reason: t.leavePasses.reason,
    })
    .from(t.leavePasses)
    .where(and(eq(t.leavePasses.person, slot('person')), isNull(t.leavePasses.endedAt))),
);
const ownAdjustments = prepared<'person'>((build, slot) =>
  build
    .select()
    .from(t.leaveAdjustments)
    .where(eq(t.leaveAdjustments.person, slot('person'))),
);

/** As the driver gives the rows. */
export type RawEntry = Omit<LeaveEntry, 'span'> & { span: string; asked_instead: string | null };
type RawPass = { id: number; type: string; from_day: string; to_day: string; let_by: string; reason: string };
export type RawAdjustment = { type: string; date: string; amount: number; reason: string; warns: number };

export const readEntriesOn =
  (day: CivilDate) =>
  ({ span, asked_instead: instead, ...row }: RawEntry): LeaveEntry[] =>
    withInstead(
      { ...row, span: JSON.parse(span) as LeaveSpan },
      instead === null ? null : (JSON.parse(instead) as AskedInstead),
      day,
    );

/**
 * What a command looks at: the book of one person with the near leave of their team, and everybody who is away today,
 * for routing.
 */
export function bookAndAwayStatements(index: DirectoryIndex, person: PersonId, today: CivilDate): Prepared[] {
  const team = teamOf(index, person, today).map(p => p.id);
  // Whoever is counted with them where a least number is needed is looked at as well.
  const needed = rulesBeside.get(index)?.presence ?? [];
  const self = index.person(person);
  const counted = self
    ? needed.filter(one => concerns(one, self, today)).flatMap(one => groupOf(index, one, today).map(p => p.id))
    : [];
  const others = [...new Set([...team, ...counted])].filter(id => id !== person);
  // A team of nobody is still asked for; nobody has an empty id.
  const people = others.length > 0 ? others : [''];
  return [
    entriesOf({ person }),
    entriesNear({ people, since: addDays(today, -teamDaysBack) }),
    bookedOn({ day: today }),
    ownAdjustments({ person }),
    passesOf({ person }),
  ];
}

/** @param found what those statements gave */
export async function readBookAndAway(
  db: Executor,
  index: DirectoryIndex,
  person: PersonId,
  today: CivilDate,
  found: readonly unknown[],
): Promise<{ book: LeaveBook; away: Away[] }> {
  const [own, near, booked, adjustments, passes] = found as [
    RawEntry[],
    RawEntry[],
    RawEntry[],
    RawAdjustment[],
    RawPass[],
  ];
  return {
    book: {
      index,
      ...(await rulesFor(db, index)),
      // Others who are away without an end are counted as away for the next days too.
      entries: [...own.flatMap(readEntriesOn(today)), ...near.flatMap(readEntriesOn(addDays(today, openAhead)))],
      adjustments: adjustments.map(({ type, date, amount, reason, warns }) => ({
        ...{ person, type, amount, reason },
        date: date as CivilDate,
        ...(warns ? { warns: true } : {}),
      })),
      passes: passes.map(
        ({ id, type, from_day, to_day, let_by, reason }): Pass => ({
          ...{ id, type, reason, person },
          from: from_day as CivilDate,
          to: to_day as CivilDate,
          by: let_by as PersonId,
        }),
      ),
      today,
    },
    away: awayOf(booked.flatMap(readEntriesOn(today))),
  };
}

/** The book for one person: all of their entries, and the near ones of their team. */
export const loadBook = async (db: Executor, index: DirectoryIndex, person: PersonId, today: CivilDate) =>
  (await loadBookAndAway(db, index, person, today)).book;

export const loadBookAndAway = async (db: Executor, index: DirectoryIndex, person: PersonId, today: CivilDate) =>
  readBookAndAway(db, index, person, today, await inOneTrip(db, bookAndAwayStatements(index, person, today)));

/** The days of which entries are looked for, and the day until which those without an end go on. */
export type LookedAt = { readonly from: CivilDate; readonly to: CivilDate; readonly known: CivilDate };

/** Entries of some people, or of everybody, that touch these days. */
export async function loadEntries(
  db: Executor,
  people: readonly PersonId[] | 'everybody',
  { from, to, known }: LookedAt,
): Promise<LeaveEntry[]> {
  if (people.length === 0) return [];
  const rows = await db
    .select()
    .from(t.leaveEntries)
    .where(
      and(
        people === 'everybody' ? undefined : inArray(t.leaveEntries.person, [...people]),
        gte(t.leaveEntries.lastDay, from),
        lte(t.leaveEntries.firstDay, to),
      ),
    );
  return rows.flatMap(entriesOn(known));
}

/** Every absence of some people, whenever it is; what is open goes on until `known`. */
export async function loadEntriesOf(
  db: Executor,
  people: readonly PersonId[],
  known: CivilDate,
): Promise<LeaveEntry[]> {
  if (people.length === 0) return [];
  return (
    await db
      .select()
      .from(t.leaveEntries)
      .where(inArray(t.leaveEntries.person, [...people]))
  ).flatMap(entriesOn(known));
}

/** What somebody does elsewhere in some days, put on the planner by a step of a request. */
export type PlannerLine = {
  readonly request: string;
  readonly step: string;
  readonly person: PersonId;
  readonly from: CivilDate;
  readonly to: CivilDate;
  readonly label: string;
  readonly sequence: number;
  readonly gone: boolean;
};

/** Lines on the planner that are no leave: a trip, a course. */
export async function loadLines(
  db: Executor,
  people: readonly PersonId[],
  from: CivilDate,
  to: CivilDate,
  which: 'as it is' | 'with gone' = 'as it is',
): Promise<PlannerLine[]> {
  if (people.length === 0) return [];
  const rows = await db
    .select()
    .from(t.plannerLines)
    .where(
      and(
        inArray(t.plannerLines.person, [...people]),
        gte(t.plannerLines.lastDay, from),
        lte(t.plannerLines.firstDay, to),
        which === 'with gone' ? undefined : eq(t.plannerLines.gone, false),
      ),
    );
  return rows.map(({ request, step, person, firstDay, lastDay, label, sequence, gone }) => ({
    ...{ request, step, label, sequence, gone },
    person: person as PersonId,
    from: firstDay as CivilDate,
    to: lastDay as CivilDate,
  }));
}

/** What was put on the balances of some people by hand or by file. */
export async function adjustmentsOf(db: Executor, people: readonly PersonId[]): Promise<Adjustment[]> {
  if (people.length === 0) return [];
  const rows = await db
    .select()
    .from(t.leaveAdjustments)
    .where(inArray(t.leaveAdjustments.person, [...people]));
  return rows.map(({ person, date, type, amount, reason, warns }) => ({
    ...{ type, amount, reason },
    person: person as PersonId,
    date: date as CivilDate,
    ...(warns ? { warns } : {}),
  }));
}
