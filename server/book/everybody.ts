/**
 * Everybody’s leave, kept by whoever works with all of it: read whole the first time, and later of those alone for whom
 * something has changed. What has changed is asked of the database each time, so that nothing old is ever worked with.
 */
import type { Adjustment, LeaveEntry } from '@north-pebble/core/leave';
import type { PersonId } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { sql } from 'drizzle-orm';
import { type Database, inOneTrip, Prepared, prepared, tables as t } from '../database/index.ts';
import { entryColumns, type RawAdjustment, type RawEntry, readEntriesOn } from './reading.ts';

/** A sum of all rows of each person that another value, another row or one less makes another; the order of rows is none of it. */
const marksOf = (table: string, columns: readonly string[]): Prepared =>
  new Prepared(
    `select person, concat(count(*), ' ', hex(bit_xor(cast(conv(left(md5(concat_ws('|', ${columns.join(', ')})), 16), 16, 10) as unsigned)))) as mark from ${table} group by person`,
    [],
  );
const entryMarks = marksOf('leave_entries', [
  'request',
  'type',
  'state',
  'span',
  "coalesce(reason, '')",
  "coalesce(asked_instead, '')",
]);
const adjustmentMarks = marksOf('leave_adjustments', ['id', 'type', 'date', 'amount', 'reason']);

const everybodysEntries = prepared<never>(build => build.select(entryColumns).from(t.leaveEntries));
const entriesOfSome = prepared<'people'>((build, slot) =>
  build
    .select(entryColumns)
    .from(t.leaveEntries)
    .where(sql`${t.leaveEntries.person} in (${slot('people')})`),
);
const everybodysAdjustments = prepared<never>(build => build.select().from(t.leaveAdjustments));
const adjustmentsOfSome = prepared<'people'>((build, slot) =>
  build
    .select()
    .from(t.leaveAdjustments)
    .where(sql`${t.leaveAdjustments.person} in (${slot('people')})`),
);

/** More than so many are read with all others. */
const some = 500;

type Mark = { person: PersonId; mark: string };

/** Rows of each person, read anew only where their mark is another one. */
class Kept<Row extends { readonly person: PersonId }> {
  readonly #all: () => Prepared;
  readonly #of: (people: readonly PersonId[]) => Prepared;
  readonly #marks = new Map<PersonId, string>();
  readonly #rows = new Map<PersonId, Row[]>();
  constructor(all: () => Prepared, of: (people: readonly PersonId[]) => Prepared) {
    this.#all = all;
    this.#of = of;
  }

  async refresh(db: Database, marks: readonly Mark[]): Promise<void> {
    const there = new Set(marks.map(({ person }) => person));
    const other = marks.filter(({ person, mark }) => this.#marks.get(person) !== mark);
    for (const person of [...this.#marks.keys()].filter(id => !there.has(id))) {
      this.#marks.delete(person);
      this.#rows.delete(person);
    }
    if (other.length === 0) return;
    const people = other.map(({ person }) => person);
    const [found] = (await inOneTrip(db, [people.length > some ? this.#all() : this.#of(people)])) as [Row[]];
    const changed = new Set(people);
    for (const person of people) this.#rows.set(person, []);
    for (const row of found) if (changed.has(row.person)) this.#rows.get(row.person)?.push(row);
    // Read after their marks: whoever changed between the two is read once more the next time.
    for (const { person, mark } of other) this.#marks.set(person, mark);
  }

  /** The same list for as long as nothing of the person has changed. */
  of(person: PersonId): readonly Row[] {
    return this.#rows.get(person) ?? none;
  }
}
const none: readonly never[] = [];

/** Of one person on a day; the same lists for as long as they and the day stay what they are. */
export type OwnLeave = { readonly entries: readonly LeaveEntry[]; readonly adjustments: readonly Adjustment[] };

export class EverybodysLeave {
  readonly #db: Database;
  readonly #entries = new Kept<RawEntry>(
    () => everybodysEntries({} as never),
    people => entriesOfSome({ people }),
  );
  readonly #adjustments = new Kept<RawAdjustment & { person: PersonId }>(
    () => everybodysAdjustments({} as never),
    people => adjustmentsOfSome({ people }),
  );
  /** What was made of the rows of a person on a day. */
  readonly #made = new Map<
    PersonId,
    { rows: readonly RawEntry[]; beside: readonly unknown[]; day: CivilDate; own: OwnLeave }
  >();
  constructor(db: Database) {
    this.#db = db;
  }

  /** Brings it to what stands in the database now. */
  async refresh(): Promise<void> {
    const [entries, adjustments] = (await inOneTrip(this.#db, [entryMarks, adjustmentMarks])) as [Mark[], Mark[]];
    await this.#entries.refresh(this.#db, entries);
    await this.#adjustments.refresh(this.#db, adjustments);
  }

  of(person: PersonId, day: CivilDate): OwnLeave {
    const rows = this.#entries.of(person);
    const beside = this.#adjustments.of(person);
    const before = this.#made.get(person);
    if (before && before.rows === rows && before.beside === beside && before.day === day) return before.own;
    const own: OwnLeave = {
      entries: rows.flatMap(readEntriesOn(day)),
      adjustments: beside.map(({ type, date, amount, reason }) => ({
        ...{ person, type, amount, reason },
        date: date as CivilDate,
      })),
    };
    this.#made.set(person, { rows, beside, day, own });
    return own;
  }
}
