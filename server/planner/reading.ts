/** Who reads on the planner, and in calendars of it, what somebody is away for. */
import { type DirectoryIndex, isAbove, type Person } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { mayPlan } from '../access/index.ts';
import type { Caller } from '../http/index.ts';

/** Whether somebody reads which kind of leave it is, and not only that somebody is away. */
export function readsKind(
  index: DirectoryIndex,
  caller: Caller,
  person: Person,
  by: 'line' | 'HR' | undefined,
  today: CivilDate,
): boolean {
  if (person.id === caller.id || mayPlan(caller, person.id, index, today)) return true;
  return by !== 'HR' && isAbove(index, caller.id, person.id, today);
}

/** Whether somebody reads where a colleague works meanwhile, and which request it is about. */
export const readsLine = (index: DirectoryIndex, caller: Caller, person: Person, today: CivilDate): boolean =>
  readsKind(index, caller, person, 'line', today);
