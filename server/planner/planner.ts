/** The planner as a whole: teams, how many of them are here on each day, and where fewer would be than are needed. */
import type { LookAtPlanner, PlannerView } from '@north-pebble/contract';
import { plannerDays } from '@north-pebble/contract';
import {
  byPerson,
  countedIn,
  countHere,
  type Days,
  hereOn,
  type LeastPresence,
  type LeaveEntry,
  openAhead,
  shadesOf,
  withinWork,
} from '@north-pebble/core/leave';
import { type DirectoryIndex, type Person, type PersonId, personName, todayFor } from '@north-pebble/core/people';
import { addDays, type CivilDate, fromDay, toDay } from '@north-pebble/core/time';
import { mayPlan } from '../access/index.ts';
import { type House, loadEntries, rulesFor } from '../house/index.ts';
import { type Caller, ProblemError } from '../http/index.ts';
import { choicesFor, type Group, groupsFor, type Looked } from './groups.ts';

/** Everything that a look at the planner begins with. */
export type Look = {
  readonly index: DirectoryIndex;
  readonly looked: Looked;
  readonly days: Days;
  readonly groups: readonly Group[];
  /** Everybody once, in the order of the rows. */
  readonly people: readonly Person[];
};

/** @throws ProblemError for spans that are none, too short or too long, and for what the reader may not look at */
export async function lookAt(house: House, caller: Caller, asked: LookAtPlanner): Promise<Look> {
  const { from, to } = asked;
  const [first, last] = [toDay(from), toDay(to)];
  const length = last - first + 1;
  if (length < plannerDays.least || length > plannerDays.most) {
    throw new ProblemError('bad input', `Ask for ${plannerDays.least} to ${plannerDays.most} days.`);
  }
  const { index, now } = await house.moment(house.db);
  const looked = { from, to, today: todayFor(index, caller.id, now) };
  const groups = groupsFor(index, caller, asked, looked);
  return { index, looked, days: { first, last }, groups, people: groups.flatMap(group => group.people) };
}

/** Of more than so many, everybody’s are read: to name them all takes longer. */
const many = 500;

async function entriesAmong(
  house: House,
  ids: readonly PersonId[],
  { from, to, today }: Looked,
): Promise<LeaveEntry[]> {
  const looked = { from, to, known: addDays(today, openAhead) };
  return loadEntries(house.db, ids.length <= many ? ids : 'everybody', looked);
}

/** The days on which fewer are here than are needed. */
const daysWithTooFew = (here: readonly (number | null)[], needed: number, first: number): CivilDate[] =>
  here.flatMap((n, i) => (n !== null && n < needed ? [fromDay(first + i)] : []));

export async function plannerView(house: House, caller: Caller, asked: LookAtPlanner): Promise<PlannerView> {
  const { index, looked, days, groups, people } = await lookAt(house, caller, asked);
  const { presence } = await rulesFor(house.db, index);
  const shown = new Set(people.map(person => person.id));
  const rules = presence
    .map(one => ({ one, of: countedIn(index, one, days) }))
    .filter(({ of }) => of.some(({ id }) => shown.has(id)));
  const counted = new Set([...shown, ...rules.flatMap(({ of }) => of.map(({ id }) => id))]);
  const entries = withinWork(index, await entriesAmong(house, [...counted], looked));
  const of = byPerson(entries);
  const shades = shadesOf(index, people, days);
  const entriesOf = (id: PersonId) => of.get(id) ?? [];
  const around = { index, caller, looked, days, entriesOf };
  return {
    ...looked,
    groups: choicesFor(index, caller, looked.today),
    presence: rules.map(({ one, of: group }) => neededHere(around, one, group)),
    teams: groups.map(({ name, people: team }) => ({
      name,
      people: team.length,
      here: [...countHere(shades, team, entriesOf, days).days],
      presence: rules.find(({ of: group }) => isJust(group, team))?.one.id ?? null,
    })),
  };
}

/** Whether those who are counted are just the people of a team. */
function isJust(group: readonly { id: PersonId }[], team: readonly Person[]): boolean {
  const ids = new Set(group.map(({ id }) => id));
  return ids.size === team.length && team.every(({ id }) => ids.has(id));
}

type Around = {
  index: DirectoryIndex;
  caller: Caller;
  looked: Looked;
  days: Days;
  entriesOf: (id: PersonId) => readonly LeaveEntry[];
};

function neededHere(
  { index, caller, looked: { today }, days, entriesOf }: Around,
  one: LeastPresence,
  counted: ReturnType<typeof countedIn>,
): PlannerView['presence'][number] {
  const here = hereOn(index, one, days, counted, entriesOf);
  const short = daysWithTooFew(here, one.people, days.first);
  const ids = new Set(counted.map(({ id }) => id));
  const asked = [...ids].flatMap(entriesOf).flatMap(({ request, person, span, state }) => {
    const isCause = state === 'held' && short.some(day => span.from.date <= day && day <= span.to.date);
    return isCause && mayPlan(caller, person, index, today)
      ? [{ request, name: personName(index, person), from: span.from.date, to: span.to.date }]
      : [];
  });
  return { id: one.id, name: one.name, needed: one.people, here, asked };
}
