/** Everybody’s balances of one type: worked out where it stands for few, on a thread for many. */
import type { Writable } from 'node:stream';
import type { FindStandings, StandingsView } from '@north-pebble/contract';
import { may } from '@north-pebble/contract';
import {
  booksOf,
  filteredStandings,
  type LeaveBook,
  type LeaveStanding,
  type LeaveType,
  type StandingRow,
  sortedStandings,
  standingColumns,
  standingOf,
  typeOn,
} from '@north-pebble/core/leave';
import { type DirectoryIndex, isEmployed, type PersonId, recordOn, todayFor } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { maySeeBalance } from '../access/index.ts';
import { adjustmentsOf, type House, loadEntriesOf, rulesFor } from '../house/index.ts';
import { type Caller, dayCell, notFound, writeCsv } from '../http/index.ts';

/** So many people are worked out where it stands; more on the thread. */
export const few = 60;

/** Rows of one type in the order of the people; nothing for whoever has no balance of it. */
export async function standingsOf(
  house: House,
  index: DirectoryIndex,
  people: readonly PersonId[],
  type: LeaveType,
  today: CivilDate,
): Promise<readonly (LeaveStanding | null)[]> {
  if (people.length > few)
    return house.reckoning.standings(index, await rulesFor(house.db, index), { people, type: type.id, today });
  const bookOfOne = booksOf({ ...(await bookOf(house, people, today)), index });
  return people.map(id => standingOf(bookOfOne(id), id, type) ?? null);
}

/** The book of some people, with all that is booked and asked for. */
export async function bookOf(
  house: House,
  people: readonly PersonId[],
  today: CivilDate,
): Promise<Omit<LeaveBook, 'index'>> {
  const { db } = house;
  const rules = await rulesFor(db, await house.directory(db));
  const entries = await loadEntriesOf(db, people, today);
  const adjustments = await adjustmentsOf(db, people);
  return {
    types: rules.types,
    plans: rules.plans,
    today,
    entries,
    adjustments,
  };
}

/** The types that have balances of their own on a day; the first is the one that is shown where nothing is said. */
export async function balanceTypes(house: House, index: DirectoryIndex, day: CivilDate): Promise<LeaveType[]> {
  const { types } = await rulesFor(house.db, index);
  return types.filter(type => ['plan', 'earned'].includes(typeOn(type, day).takesFrom));
}

async function work(house: House, caller: Caller, find: FindStandings): Promise<StandingsView> {
  const { db } = house;
  const { index, now } = await house.moment(db);
  const today = todayFor(index, caller.id, now);
  const { directory } = index;
  const own = await balanceTypes(house, index, today);
  const type = own.find(one => one.id === (find.type ?? own[0]?.id));
  if (!type) throw notFound();
  const all = may(caller, 'read every record');
  const people = directory.people
    .filter(person => isEmployed(person, today) && (all || maySeeBalance(caller, person.id, index, today)))
    .map(person => person.id);
  // Whoever sees nobody’s but their own has a statement for that.
  if (!all && people.every(id => id === caller.id)) throw notFound();
  const found = await standingsOf(house, index, people, type, today);
  const rows: StandingRow[] = people.flatMap((id, n) => {
    const standing = found[n];
    const person = index.person(id);
    const record = person && recordOn(person, today);
    if (!standing || !person || !record) return [];
    return [{ person: id, name: person.name, place: record.place, department: record.department, ...standing }];
  });
  const named = ({ id, name }: { id: string; name: string }) => ({ id, name });
  return {
    today,
    type: type.id,
    types: own.map(named),
    places: directory.places.map(named),
    departments: directory.departments.map(named),
    plans: [...new Set(rows.map(row => row.plan))].sort(),
    rows,
  };
}

/** The rows as they are asked for, filtered and sorted like the same as a table. */
export async function standingsView(house: House, caller: Caller, find: FindStandings): Promise<StandingsView> {
  const view = await work(house, caller, find);
  return {
    ...view,
    rows: sortedStandings(filteredStandings(view.rows, find), find.sort ?? 'name', find.down === 'yes'),
  };
}

const headings = {
  carried: 'Carried',
  entitled: 'Entitled',
  adjusted: 'Adjusted',
  taken: 'Taken',
  planned: 'Planned',
  held: 'Asked for',
  lapsed: 'Lapsed',
  lapsing: 'To lapse',
  now: 'Balance today',
  free: 'Left at the end',
} as const;

export async function writeStandings(house: House, caller: Caller, find: FindStandings, out: Writable): Promise<void> {
  const view = await work(house, caller, find);
  const rows = sortedStandings(filteredStandings(view.rows, find), find.sort ?? 'name', find.down === 'yes');
  const nameIn = (all: readonly { id: string; name: string }[], id: string) =>
    all.find(one => one.id === id)?.name ?? id;
  async function* lines() {
    yield rows.map(row => [
      row.name,
      nameIn(view.places, row.place),
      nameIn(view.departments, row.department),
      row.plan,
      row.unit,
      dayCell(row.from),
      dayCell(row.to),
      ...standingColumns.map(column => row[column]),
      dayCell(row.lapsesOn),
    ]);
  }
  await writeCsv(
    out,
    [
      ...['Name', 'Place', 'Department', 'Plan', 'Unit', 'Leave year from', 'Leave year to'],
      ...standingColumns.map(column => headings[column]),
      'Lapses on',
    ],
    lines(),
  );
}
