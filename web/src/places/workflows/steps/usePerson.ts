/** A person as a form and a rehearsal see them: their leave, their team, what is on file. */
import type { RehearsalView, SurroundingsView } from '@north-pebble/contract';
import { type DirectoryIndex, type PersonId, todayFor, withOpenings } from '@north-pebble/core/people';
import type { RehearsalFacts } from '@north-pebble/core/proof';
import type { Instant } from '@north-pebble/core/time';
import { type Facts, listsOf } from '@north-pebble/core/workflow';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { personFactsQuery } from '../../../api/queries.ts';

export function rehearsalFacts(
  index: DirectoryIndex,
  surroundings: SurroundingsView,
  view: RehearsalView,
): RehearsalFacts {
  const { types, plans, entries, adjustments, away } = view;
  const known = withOpenings(index, view);
  return { index: known, away, lists: surroundings.lists, book: { index: known, types, plans, entries, adjustments } };
}

/** The facts of a person for trying things out; nothing while they are being fetched. */
export function usePerson(
  person: string,
  index: DirectoryIndex | undefined,
  surroundings: SurroundingsView | undefined,
) {
  const query = useQuery({ ...personFactsQuery(person), enabled: person !== '' });
  return useMemo(
    () => (index && surroundings && query.data ? rehearsalFacts(index, surroundings, query.data) : null),
    [index, surroundings, query.data],
  );
}

/** What formulas look at for a person at a moment. */
export const factsFor = (about: RehearsalFacts, person: string, now: Instant): Facts => ({
  book: { ...about.book, today: todayFor(about.index, person as PersonId, now) },
  asker: person as PersonId,
  subject: null,
  lists: listsOf(about),
});
