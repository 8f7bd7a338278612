/** Whose absence somebody may look at: their own teams, a place, a department, a line, or the house as a whole. */
import type { PlannerView, WhoseDays } from '@north-pebble/contract';
import { may } from '@north-pebble/contract';
import {
  type DirectoryIndex,
  holdsOn,
  isAbove,
  linesOn,
  mainPost,
  nameLetters,
  type Person,
  type PersonId,
  type PostId,
  plainLetters,
  recordOn,
  reportsOf,
  reportsTo,
} from '@north-pebble/core/people';
import { type CivilDate, fromDay, toDay } from '@north-pebble/core/time';
import { mayPlan, mayPlanForSome } from '../access/index.ts';
import { type Caller, notFound } from '../http/index.ts';

export type Group = { readonly name: string; readonly people: readonly Person[] };

/** The days that are looked at, and the day by which rights are judged. */
export type Looked = { readonly from: CivilDate; readonly to: CivilDate; readonly today: CivilDate };

/** Whether somebody works here on some day of those. */
const isThere = ({ joined, left }: Person, { from, to }: Looked): boolean =>
  joined <= to && (left === null || left >= from);

/** The day on which it is looked at who is where: today where it is shown, or the day shown next to it. */
const dayIn = ({ from, to, today }: Looked): CivilDate => (today < from ? from : today > to ? to : today);

/** The record of somebody on a day, or the nearest in which they work here. */
const recordNear = (person: Person, day: CivilDate) =>
  recordOn(person, fromDay(Math.max(toDay(day), toDay(person.joined))));

const byName = (a: Person, b: Person): number => {
  const [left, right] = [nameLetters(a), nameLetters(b)];
  return left < right ? -1 : left > right ? 1 : a.id < b.id ? -1 : 1;
};

const whereName = (index: DirectoryIndex, place: string, department: string): string => {
  const names = [index.department(department)?.name, index.place(place)?.name];
  return names.filter(name => name !== undefined).join(', ') || 'Elsewhere';
};

/** Everybody of a place, a department or the house whom the reader looks after, by where they work. */
function wholeGroups(index: DirectoryIndex, caller: Caller, asked: WhoseDays, looked: Looked): Group[] {
  if (asked.place !== undefined && !index.place(asked.place)) throw notFound();
  if (asked.department !== undefined && !index.department(asked.department)) throw notFound();
  const day = dayIn(looked);
  const groups = new Map<string, { name: string; people: Person[] }>();
  for (const person of index.directory.people) {
    if (!isThere(person, looked) || !mayPlan(caller, person.id, index, looked.today)) continue;
    const { place, department } = recordNear(person, day);
    if (asked.place !== undefined && place !== asked.place) continue;
    if (asked.department !== undefined && department !== asked.department) continue;
    const key = JSON.stringify([place, department]);
    const known = groups.get(key);
    if (known) known.people.push(person);
    else groups.set(key, { name: whereName(index, place, department), people: [person] });
  }
  return [...groups.values()].sort((a, b) => (a.name < b.name ? -1 : 1));
}

/** The posts that somebody holds, and those under these, from the top down. */
function postsUnder(index: DirectoryIndex, id: PersonId, day: CivilDate): PostId[] {
  const found = new Set<PostId>();
  const stack = index.holdingsOfPerson(id).flatMap(holding => (holdsOn(holding, day) ? [holding.post] : []));
  for (let post = stack.pop(); post !== undefined; post = stack.pop()) {
    if (found.has(post)) continue;
    found.add(post);
    for (const below of index.postsUnder(post)) if (reportsTo(below, day) === post) stack.push(below.id);
  }
  return [...found];
}

/** Everybody under somebody, by the post that they report to. */
function lineGroups(index: DirectoryIndex, caller: Caller, line: PersonId, { today }: Looked): Group[] {
  if (!index.person(line)) throw notFound();
  const isOwn = line === caller.id;
  return postsUnder(index, line, today).flatMap(post => {
    const people = reportsOf(index, post, today).filter(
      ({ id }) => isOwn || mayPlan(caller, id, index, today) || isAbove(index, caller.id, id, today),
    );
    return people.length === 0 ? [] : [{ name: `Reports to ${index.post(post)?.title ?? 'nobody'}`, people }];
  });
}

/** The team that one is part of, then the teams of the posts that one holds. */
function ownGroups(index: DirectoryIndex, caller: Caller, { today }: Looked): Group[] {
  const leads = new Set<PostId>();
  const own = mainPost(index, caller.id, today);
  const above = own && reportsTo(own, today);
  if (above) leads.add(above);
  for (const holding of index.holdingsOfPerson(caller.id)) if (holdsOn(holding, today)) leads.add(holding.post);
  const groups = [...leads].flatMap((lead): Group[] => {
    const people = reportsOf(index, lead, today);
    const post = index.post(lead);
    return people.length > 0 && post ? [{ name: `Reports to ${post.title}`, people }] : [];
  });
  const self = index.person(caller.id);
  return groups.length === 0 && self ? [{ name: 'You', people: [self] }] : groups;
}

/** What was looked at last, for as long as the directory stands: rows are asked for again and again. */
const known = new WeakMap<DirectoryIndex, Map<string, Group[]>>();
const mostKnown = 200;

/**
 * The groups that are looked at, each with its people by name.
 * @throws ProblemError where somebody who looks after nobody asks for more than their own
 */
export function groupsFor(index: DirectoryIndex, caller: Caller, asked: WhoseDays, looked: Looked): Group[] {
  const { place, department, line, house, words } = asked;
  const key = JSON.stringify([caller.id, caller.rights, place, department, line, house, words, looked]);
  const ofIndex = known.get(index) ?? new Map<string, Group[]>();
  known.set(index, ofIndex);
  const before = ofIndex.get(key);
  if (before) return before;

  const isWhole = place !== undefined || department !== undefined || house !== undefined;
  const mayLook = mayPlanForSome(caller, index, looked.today);
  if ((isWhole || (line !== undefined && line !== caller.id)) && !mayLook) throw notFound();
  const groups = isWhole
    ? wholeGroups(index, caller, asked, looked)
    : line !== undefined
      ? lineGroups(index, caller, line, looked)
      : ownGroups(index, caller, looked);
  const letters = plainLetters(words?.trim() ?? '');
  const found = groups.flatMap(({ name, people }) => {
    const own = people.filter(person => nameLetters(person).includes(letters)).toSorted(byName);
    return own.length === 0 ? [] : [{ name, people: own }];
  });
  if (ofIndex.size >= mostKnown) ofIndex.clear();
  ofIndex.set(key, found);
  return found;
}

const mostLines = 150;
const choicesKnown = new WeakMap<DirectoryIndex, Map<string, PlannerView['groups']>>();

/** What the reader may look at besides their own teams. */
export function choicesFor(index: DirectoryIndex, caller: Caller, today: CivilDate): PlannerView['groups'] {
  const key = JSON.stringify([caller.id, caller.rights, today]);
  const ofIndex = choicesKnown.get(index) ?? new Map<string, PlannerView['groups']>();
  choicesKnown.set(index, ofIndex);
  const before = ofIndex.get(key);
  if (before) return before;
  const mayLook = mayPlanForSome(caller, index, today);
  const everything = may(caller, 'read every record');
  const { posts } = linesOn(index, today);
  // A line is more than a team: somebody under it leads others.
  const leads = [...posts.values()]
    .filter(({ holder, below }) => holder !== null && (everything || holder === caller.id) && below.length > 0)
    .filter(({ below }) => below.some(post => (posts.get(post)?.below.length ?? 0) > 0))
    .sort((a, b) => b.all - a.all);
  const holders = [...new Set(leads.map(({ holder }) => holder as PersonId))].slice(0, mostLines);
  const named = <K extends string>(kind: K, all: readonly { id: string; name: string }[]) =>
    all.map(({ id, name }) => ({ id, name, kind }));
  const found = [
    ...(everything ? [{ id: 'yes', name: 'Everybody', kind: 'house' as const }] : []),
    ...(mayLook ? named('place', index.directory.places) : []),
    ...(mayLook ? named('department', index.directory.departments) : []),
    ...holders.map(id => ({
      id,
      kind: 'line' as const,
      name: id === caller.id ? 'Everybody under you' : `Everybody under ${index.person(id)?.name ?? id}`,
    })),
  ];
  ofIndex.set(key, found);
  return found;
}
