/** The book of each of many people by itself: nobody’s leave is looked for among everybody’s. */
import type { PersonId } from '../../people/index.ts';
import type { LeaveBook } from '../book.ts';

/** Grouped once, so that nobody is looked for among all. */
export function byPerson<T extends { readonly person: string }>(all: readonly T[]): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const one of all) {
    const group = groups.get(one.person);
    if (group) group.push(one);
    else groups.set(one.person, [one]);
  }
  return groups;
}

export function booksOf(book: LeaveBook): (id: PersonId) => LeaveBook {
  const entries = byPerson(book.entries);
  const adjustments = byPerson(book.adjustments);
  return id => ({ ...book, entries: entries.get(id) ?? [], adjustments: adjustments.get(id) ?? [] });
}
