/** Which day it is for somebody: the day where they work, so that nobody’s day ends or begins with that of another zone. */
import { type CivilDate, civilDateAt, type Instant } from '../time/index.ts';
import { type DirectoryIndex, isEmployed, type Person, type PersonId, zoneOf } from './directory.ts';

/** Whose clocks somebody lives by at an instant, as an IANA zone; UTC for somebody who is not on file. */
export function zoneFor(index: DirectoryIndex, id: PersonId | null, at: Instant): string {
  const person = id === null ? undefined : index.person(id);
  return person ? zoneOf(index, person, civilDateAt(at, 'UTC')) : 'UTC';
}

/** Today where somebody works; the day of UTC for somebody who is not on file. */
export const todayFor = (index: DirectoryIndex, id: PersonId | null, at: Instant): CivilDate =>
  civilDateAt(at, zoneFor(index, id, at));

/** Whether somebody works here on their own today: from its midnight on the first day to that after the last. */
export const worksAt = (index: DirectoryIndex, person: Person, at: Instant): boolean =>
  isEmployed(person, todayFor(index, person.id, at));

/** The latest day that it is at a place of the house now: for what is looked at for everybody at once. */
export function latestDay(index: DirectoryIndex, at: Instant): CivilDate {
  const zones = new Set(['UTC', ...index.directory.places.map(({ zone }) => zone)]);
  return [...zones].map(zone => civilDateAt(at, zone)).toSorted()[zones.size - 1]!;
}
