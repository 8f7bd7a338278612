/** The end of leave years in the house: looked at before it is closed, closed once, and kept as it was. */
import type { CloseYear, YearEndView } from '@north-pebble/contract';
import { byPerson, type ClosedYear, type LeaveType, typeOn } from '@north-pebble/core/leave';
import { type PersonId, personName, todayFor } from '@north-pebble/core/people';
import type { CivilDate, Instant } from '@north-pebble/core/time';
import { and, desc, eq, inArray } from 'drizzle-orm';
import { type Executor, inLedger, inTransaction, tables as t } from '../database/index.ts';
import { type House, insertMany, rulesFor } from '../house/index.ts';
import { type Caller, mustHave, notFound, ProblemError, refusedField } from '../http/index.ts';

type Row = YearEndView['rows'][number];

const names = new Intl.Collator('en');

async function typeFor(house: House, id: string | undefined, today: CivilDate): Promise<[LeaveType, LeaveType[]]> {
  const { types } = await rulesFor(house.db, await house.directory(house.db));
  const own = types.filter(type => typeOn(type, today).takesFrom === 'plan');
  const type = own.find(one => one.id === (id ?? own[0]?.id));
  if (!type) throw notFound();
  return [type, own];
}

/** The last day of leave years that are looked at: of today, where nothing is said, the last one that has passed. */
const untilOf = (asked: CivilDate | undefined, today: CivilDate): CivilDate =>
  asked ?? (`${Number(today.slice(0, 4)) - 1}-12-31` as CivilDate);

async function endsOf(house: House, type: LeaveType, until: CivilDate, today: CivilDate, lines: boolean) {
  const index = await house.directory(house.db);
  const people = index.directory.people.filter(person => person.joined <= until).map(person => person.id);
  const rules = await rulesFor(house.db, index);
  const ends = await house.reckoning.yearEnds(index, rules, { people, type: type.id, today, until, lines });
  return people.flatMap((id, n) => {
    const end = ends[n];
    return end ? [{ id, end }] : [];
  });
}

export async function yearEndView(
  house: House,
  caller: Caller,
  asked: { type?: string | undefined; until?: CivilDate | undefined },
): Promise<YearEndView> {
  mustHave(caller, 'keep records');
  const { db } = house;
  const { index, now } = await house.moment(db);
  const today = todayFor(index, caller.id, now);
  const until = untilOf(asked.until, today);
  const [type, types] = await typeFor(house, asked.type, today);
  const ends = await endsOf(house, type, until, today, false);
  const closed = await db
    .select({ person: t.closedYears.person, on: t.closedYears.on, by: t.closedYears.by, at: t.closedYears.at })
    .from(t.closedYears)
    .where(eq(t.closedYears.type, type.id));
  const isClosed = new Map(closed.map(one => [`${one.person} ${one.on}`, one]));
  const held = await db
    .select({ person: t.leaveEntries.person, first: t.leaveEntries.firstDay })
    .from(t.leaveEntries)
    .where(eq(t.leaveEntries.state, 'held'));
  const firstDays = byPerson(held);
  const rows = ends.map(({ id, end }): Row => {
    const mark = isClosed.get(`${id} ${end.on}`);
    return {
      person: id,
      name: personName(index, id),
      ...{ on: end.on, unit: end.unit, plan: end.plan, balance: end.balance, carried: end.carried, lapses: end.lapses },
      open: firstDays.get(id)?.filter(one => one.first <= end.on).length ?? 0,
      closed: mark ? { by: personName(index, mark.by as PersonId), at: mark.at as Instant } : null,
    };
  });
  return {
    today,
    type: type.id,
    types: types.map(({ id, name }) => ({ id, name })),
    until,
    rows: rows.sort((a, b) => names.compare(a.name, b.name)),
  };
}

/** Closes every leave year that ended by a day and is not closed. @throws ProblemError where somebody was faster */
export async function closeYears(
  house: House,
  caller: Caller,
  { type: id, until, years }: CloseYear,
): Promise<{ closed: number }> {
  mustHave(caller, 'keep records');
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, caller.id, now);
  if (until >= today)
    throw refusedField('until', 'A leave year is closed when it is over. Choose a day that has passed.');
  const [type] = await typeFor(house, id, today);
  const ends = await endsOf(house, type, until, today, true);
  return inTransaction(house.db, async tx => {
    await tx.select().from(t.house).where(eq(t.house.id, 1)).for('update');
    const there = await tx
      .select({ person: t.closedYears.person, on: t.closedYears.on })
      .from(t.closedYears)
      .where(eq(t.closedYears.type, type.id));
    const closed = new Set(there.map(one => `${one.person} ${one.on}`));
    const open = ends.filter(({ id: person, end }) => !closed.has(`${person} ${end.on}`));
    if (open.length === 0) throw new ProblemError('stale', 'These leave years have been closed already.');
    // What was looked at is what is closed.
    if (open.length !== years)
      throw new ProblemError('stale', 'Somebody changed something meanwhile. Look at the leave years as they are now.');
    await insertMany(
      tx,
      t.closedYears,
      open.map(({ id: person, end }) => ({
        ...{ person, type: type.id, on: end.on, balance: end.balance, lines: [...end.lines] },
        by: caller.id,
        at: now,
      })),
    );
    const keys = open.map(({ id: person, end }) => ({ person, type: type.id, on: end.on }));
    await inLedger(tx, { what: 'closed year', keys });
    return { closed: open.length };
  });
}

/** The last closed leave year of each type of a person, as it stood. */
export async function closedOf(
  db: Executor,
  person: PersonId,
  types: readonly string[],
): Promise<Map<string, ClosedYear>> {
  if (types.length === 0) return new Map();
  const rows = await db
    .select()
    .from(t.closedYears)
    .where(and(eq(t.closedYears.person, person), inArray(t.closedYears.type, [...types])))
    .orderBy(desc(t.closedYears.on));
  const found = new Map<string, ClosedYear>();
  for (const { type, on, balance, lines } of rows)
    if (!found.has(type)) found.set(type, { on: on as CivilDate, balance, lines });
  return found;
}
