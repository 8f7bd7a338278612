/** The directory, read from its tables as one value. */
import {
  type Directory,
  type DirectoryIndex,
  indexDirectory,
  type Person,
  type PersonId,
} from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { asc } from 'drizzle-orm';
import type { MySqlTable } from 'drizzle-orm/mysql-core';
import { type Executor, inOneTrip, insertion, tables as t } from '../database/index.ts';

const day = (text: string): CivilDate => text as CivilDate;
const person = (text: string): PersonId => text as PersonId;

export function byKey<T>(rows: readonly T[], key: (row: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const row of rows) {
    const group = groups.get(key(row));
    if (group) group.push(row);
    else groups.set(key(row), [row]);
  }
  return groups;
}

const openingsOf = (rows: readonly (typeof t.leaveOpenings.$inferSelect)[] = []): Pick<Person, 'openings'> =>
  rows.length === 0
    ? {}
    : {
        openings: rows.map(({ person: _, on, lapses, ...own }) => ({
          ...own,
          on: day(on),
          lapses: lapses === null ? null : day(lapses),
        })),
      };

const circumstancesOf = (rows: readonly (typeof t.circumstances.$inferSelect)[] = []): Pick<Person, 'circumstances'> =>
  rows.length === 0 ? {} : { circumstances: rows.map(({ id, holds }) => ({ id, holds })) };

export async function loadDirectory(db: Executor): Promise<DirectoryIndex> {
  const people = await db.select().from(t.people).orderBy(asc(t.people.name));
  const records = byKey(await db.select().from(t.personRecords).orderBy(asc(t.personRecords.from)), r => r.person);
  const openings = byKey(await db.select().from(t.leaveOpenings), o => o.person);
  const circumstances = byKey(await db.select().from(t.circumstances), one => one.person);
  const posts = await db.select().from(t.posts);
  const lines = byKey(await db.select().from(t.postLines).orderBy(asc(t.postLines.from)), l => l.post);
  const holidays = byKey(await db.select().from(t.holidays), h => h.calendar);
  const directory: Directory = {
    people: people.map(p => ({
      id: person(p.id),
      name: p.name,
      mail: p.mail,
      joined: day(p.joined),
      left: p.leftOn === null ? null : day(p.leftOn),
      dottedTo: p.dottedTo === null ? null : person(p.dottedTo),
      ...(p.number === null ? {} : { number: p.number }),
      records: (records.get(p.id) ?? []).map(({ person: _, planPer, costCentre, ...r }) => ({
        ...r,
        from: day(r.from),
        ...(planPer === null ? {} : { planPer }),
        ...(costCentre === null ? {} : { costCentre }),
      })),
      ...openingsOf(openings.get(p.id)),
      ...circumstancesOf(circumstances.get(p.id)),
    })),
    posts: posts.map(p => ({
      ...p,
      closed: p.closed === null ? null : day(p.closed),
      lines: (lines.get(p.id) ?? []).map(l => ({ from: day(l.from), reportsTo: l.reportsTo })),
    })),
    holdings: (await db.select().from(t.holdings)).map(h => ({
      ...h,
      person: person(h.person),
      from: day(h.from),
      to: h.to === null ? null : day(h.to),
    })),
    covers: (await db.select().from(t.covers)).map(c => ({
      person: person(c.person),
      by: person(c.by),
      from: day(c.from),
      to: day(c.to),
      ...(c.workflows ? { workflows: c.workflows } : {}),
      ...(c.setBy ? { setBy: person(c.setBy) } : {}),
    })),
    roles: (await db.select().from(t.roles)).map(r => ({
      role: r.role,
      person: person(r.person),
      ...(r.place ? { place: r.place } : {}),
      ...(r.department ? { department: r.department } : {}),
      ...(r.from ? { from: day(r.from) } : {}),
      ...(r.to ? { to: day(r.to) } : {}),
    })),
    places: await db.select().from(t.places),
    departments: await db.select().from(t.departments),
    patterns: (await db.select().from(t.patterns)).map(p => ({ ...p, anchor: day(p.anchor) })),
    calendars: (await db.select().from(t.calendars)).map(c => ({
      ...c,
      rules: c.rules ?? [],
      holidays: (holidays.get(c.id) ?? []).map(h => ({ date: day(h.date), part: h.part, name: h.name })),
    })),
  };
  return indexDirectory(directory);
}

const chunk = 500;

/** Inserts many rows, some hundreds a statement. */
export async function insertMany<T extends MySqlTable>(
  db: Executor,
  table: T,
  rows: readonly T['$inferInsert'][],
): Promise<void> {
  const put = insertion(table);
  for (let i = 0; i < rows.length; i += chunk) await inOneTrip(db, [put(rows.slice(i, i + chunk))]);
}

/** Writes a whole directory into empty tables. */
export async function storeDirectory(db: Executor, directory: Directory): Promise<void> {
  await insertMany(
    db,
    t.people,
    directory.people.map(p => ({
      id: p.id,
      name: p.name,
      mail: p.mail,
      joined: p.joined,
      leftOn: p.left,
      dottedTo: p.dottedTo,
      number: p.number ?? null,
    })),
  );
  await insertMany(
    db,
    t.personRecords,
    directory.people.flatMap(p => p.records.map(r => ({ ...r, person: p.id }))),
  );
  await insertMany(
    db,
    t.leaveOpenings,
    directory.people.flatMap(p => (p.openings ?? []).map(one => ({ ...one, person: p.id }))),
  );
  await insertMany(
    db,
    t.circumstances,
    directory.people.flatMap(p => (p.circumstances ?? []).map(({ id, holds }) => ({ id, holds, person: p.id }))),
  );
  await insertMany(
    db,
    t.posts,
    directory.posts.map(({ id, title, department, place, grade = null, spending = null, closed = null }) => ({
      id,
      title,
      department,
      place,
      grade,
      spending,
      closed,
    })),
  );
  await insertMany(
    db,
    t.postLines,
    directory.posts.flatMap(p => p.lines.map(l => ({ ...l, post: p.id }))),
  );
  await insertMany(db, t.holdings, directory.holdings);
  await insertMany(
    db,
    t.covers,
    directory.covers.map(c => ({ ...c, workflows: c.workflows ? [...c.workflows] : null, setBy: c.setBy ?? null })),
  );
  await insertMany(
    db,
    t.roles,
    directory.roles.map(r => ({
      ...r,
      place: r.place ?? '',
      department: r.department ?? '',
      from: r.from ?? null,
      to: r.to ?? null,
    })),
  );
  await insertMany(db, t.places, directory.places);
  await insertMany(db, t.departments, directory.departments);
  await insertMany(db, t.patterns, directory.patterns);
  await insertMany(
    db,
    t.calendars,
    directory.calendars.map(({ id, name, buildsOn, rules }) => ({ id, name, buildsOn, rules: [...(rules ?? [])] })),
  );
  await insertMany(
    db,
    t.holidays,
    directory.calendars.flatMap(c => c.holidays.map(h => ({ ...h, calendar: c.id, name: h.name ?? 'Holiday' }))),
  );
}
