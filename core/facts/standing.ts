/** What stands on file that a change is held against. */
import type { Directory, PersonId } from '../people/index.ts';
import type { CivilDate } from '../time/index.ts';
import type { ChangeFault } from './change.ts';

export const personOf = (directory: Directory, id: PersonId) => directory.people.find(one => one.id === id);
export const onFile = (all: readonly { id: string }[], id: string): boolean => all.some(one => one.id === id);

/** Whether somebody is employed on a day, or which end of their time it misses. */
export function outside(person: { joined: CivilDate; left: CivilDate | null }, day: CivilDate): ChangeFault | null {
  if (day < person.joined) return { code: 'before joining', field: 'from', joined: person.joined };
  if (person.left !== null && day > person.left) return { code: 'after leaving', field: 'from', left: person.left };
  return null;
}

/** Whoever else holds a post as their main one on some day from a day on. */
export function mainHolder(directory: Directory, post: string, person: PersonId | null, from: CivilDate) {
  const held = directory.holdings.find(one => {
    if (one.post !== post || one.person === person || !one.main || (one.to !== null && one.to < from)) return false;
    const left = personOf(directory, one.person)?.left ?? null;
    return left === null || left >= from;
  });
  return held && { by: held.person, day: held.from > from ? held.from : from };
}
