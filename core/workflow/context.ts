/** Everything that a command may look at besides the request itself. There is no clock here: now is given. */
import type { LeaveBook } from '../leave/index.ts';
import { type Away, type DirectoryIndex, type PersonId, workingTimeOf, zoneOf } from '../people/index.ts';
import {
  civilDateAt,
  type Deadline,
  deadlineFrom,
  type Instant,
  momentWords,
  toDay,
  type WorkingAmount,
  workingWords,
} from '../time/index.ts';

export type Context = {
  readonly now: Instant;
  /** Who acts; nobody when it is a timer. */
  readonly actor: PersonId | null;
  readonly index: DirectoryIndex;
  readonly book: LeaveBook;
  readonly away: readonly Away[];
};

export const nameOf = (index: DirectoryIndex, id: PersonId | null): string =>
  id === null ? 'North Pebble' : (index.person(id)?.name ?? id);

/** Today where a person works. */
export function todayOf(context: Context, id: PersonId) {
  const person = context.index.person(id);
  const day = civilDateAt(context.now, 'UTC');
  return civilDateAt(context.now, person ? zoneOf(context.index, person, day) : 'UTC');
}

export type Due = { at: Instant; reason: string } | { never: string };

/** When something is due in the holder's working time: their pattern, their holidays, their zone. */
export function dueFor(context: Context, holder: PersonId, amount: WorkingAmount): Due {
  const person = context.index.person(holder);
  if (!person) return { never: 'the holder is not on file' };
  const today = todayOf(context, holder);
  const zone = zoneOf(context.index, person, today);
  const day = toDay(today);
  const time = workingTimeOf(context.index, person, { first: day, last: day - 1 });
  const due: Deadline = deadlineFrom(time, zone, context.now, amount);
  if ('error' in due) return { never: `${person.name} has no working time on file` };
  return {
    at: due.due,
    reason: `${workingWords(amount)} in ${person.name}’s working time, counted from ${momentWords(context.now, zone)} (${zone})`,
  };
}
