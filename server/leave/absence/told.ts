/** Letters about absence: of which absences, to whom, written once. */
import { type LeaveBook, type LeaveEntry, type LeaveTypeRules, typeOn } from '@north-pebble/core/leave';
import {
  type DirectoryIndex,
  hrOperations,
  hrPartner,
  isEmployed,
  isHeldFor,
  type Person,
  type PersonId,
  recordOn,
} from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { tables as t, waiting } from '../../database/index.ts';
import { type House, loadEntries, loadEntriesOf, rulesFor } from '../../house/index.ts';

/** Whoever left, or is still to come, reads no letters here. */
export function isHere(index: DirectoryIndex, id: PersonId, today: CivilDate): boolean {
  const person = index.person(id);
  return person !== undefined && isEmployed(person, today);
}

/** The HR partners of a person who are here; where nobody looks after them, whoever keeps the house. */
export function hrOf(index: DirectoryIndex, person: Person, today: CivilDate): PersonId[] {
  const record = recordOn(person, today);
  const partners = index
    .holdersOfRole(hrPartner, today)
    .filter(holding => holding.person !== person.id && record !== undefined && isHeldFor(holding, record))
    .map(holding => holding.person)
    .filter(id => isHere(index, id, today));
  return partners.length > 0 ? [...new Set(partners)] : [hrOperations];
}

export type Absences = {
  readonly now: string;
  readonly today: CivilDate;
  /** The leave of everybody who is away so. */
  readonly book: LeaveBook;
  /** What is booked of the types that say so, between two days. */
  readonly booked: readonly { readonly entry: LeaveEntry; readonly person: Person }[];
};

/**
 * Booked absence of the types that say something now or later.
 * @param says whether the rules do
 * @param within the first and last day of those that are looked at, by the rules of all types
 */
export async function absencesOf(
  house: House,
  says: (rules: LeaveTypeRules) => boolean,
  within: (today: CivilDate, rules: readonly LeaveTypeRules[]) => { from: CivilDate; to: CivilDate },
): Promise<Absences | null> {
  const { db } = house;
  const { index, now } = await house.moment(db);
  const today = now.slice(0, 10) as CivilDate;
  const rules = await rulesFor(db, index);
  const through = rules.types.map(type => ({ id: type.id, all: [type, ...(type.later ?? []).map(one => one.rules)] }));
  const told = through.filter(({ all }) => all.some(says));
  if (told.length === 0) return null;
  const ids = new Set(told.map(({ id }) => id));
  const span = within(
    today,
    told.flatMap(({ all }) => all),
  );
  const near = await loadEntries(db, 'everybody', { ...span, known: today });
  const booked = near.flatMap(entry => {
    const person = entry.state === 'booked' && ids.has(entry.type) ? index.person(entry.person) : undefined;
    return person ? [{ entry, person }] : [];
  });
  const people = [...new Set(booked.map(({ person }) => person.id))];
  const book = { index, ...rules, adjustments: [], today, entries: await loadEntriesOf(db, people, today) };
  return { now, today, book, booked };
}

/** What kind of leave it is, as it stands in a sentence. */
export function kindWords({ types }: LeaveBook, { type: id, span }: LeaveEntry): string {
  const type = types.find(one => one.id === id);
  return (type ? typeOn(type, span.from.date).name : id).toLowerCase();
}

export type Letter = { readonly key: string; readonly to: PersonId; readonly subject: string; readonly body: string };

/** The key says what is told and to whom: whoever looks again writes nothing again. @returns how many letters there are */
export async function writeOnce(house: House, now: string, letters: readonly Letter[]): Promise<number> {
  if (letters.length === 0) return 0;
  const rows = letters.map(({ key, ...payload }) => ({ key, ...waiting, writtenAt: now, payload }));
  await house.db.insert(t.effects).ignore().values(rows);
  house.wake();
  return letters.length;
}
