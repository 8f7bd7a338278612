/** Whose absence somebody may look at: their own teams, or a place or a department as a whole. */
import type { LookAtPlanner } from '@north-pebble/contract';
import {
  type DirectoryIndex,
  holdsOn,
  isEmployed,
  mainPost,
  type Person,
  type PostId,
  recordOn,
  reportsOf,
  reportsTo,
} from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { mayPlan, mayPlanForSome } from '../access/index.ts';
import { type Caller, notFound } from '../http/index.ts';

type Whole = Pick<LookAtPlanner, 'place' | 'department'>;
export type Group = { readonly name: string; readonly people: readonly Person[] };

/** Everybody of a place or a department whom the reader looks after. */
function wholeGroup(index: DirectoryIndex, caller: Caller, asked: Whole, today: CivilDate): Group {
  const where = asked.place !== undefined ? index.place(asked.place) : index.department(asked.department ?? '');
  if (!where) throw notFound();
  const people = index.directory.people.filter(person => {
    if (!isEmployed(person, today) || !mayPlan(caller, person.id, index, today)) return false;
    const record = recordOn(person, today);
    return asked.place !== undefined ? record?.place === asked.place : record?.department === asked.department;
  });
  return { name: where.name, people };
}

/**
 * The groups that are looked at: the whole of what is asked for, or the teams that somebody is part of and leads.
 * @throws ProblemError where somebody who looks after nobody asks for a place or a department
 */
export function groupsFor(index: DirectoryIndex, caller: Caller, asked: Whole, today: CivilDate): Group[] {
  // The team that one is part of, then the teams of the posts that one holds.
  const leads = new Set<PostId>();
  const own = mainPost(index, caller.id, today);
  const above = own && reportsTo(own, today);
  if (above) leads.add(above);
  for (const holding of index.holdingsOfPerson(caller.id)) if (holdsOn(holding, today)) leads.add(holding.post);

  const groups: Group[] = [];
  const whole = asked.place !== undefined || asked.department !== undefined;
  const looks = mayPlanForSome(caller, index, today);
  if (whole && !looks) throw notFound();
  if (whole) groups.push(wholeGroup(index, caller, asked, today));
  for (const lead of whole ? [] : leads) {
    const people = reportsOf(index, lead, today);
    const post = index.post(lead);
    if (people.length > 0 && post) groups.push({ name: `Reports to ${post.title}`, people });
  }
  const self = index.person(caller.id);
  if (groups.length === 0 && self) groups.push({ name: 'You', people: [self] });

  return groups;
}
