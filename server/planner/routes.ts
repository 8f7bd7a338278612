/** Who of one's teams is away when. */
import { type LookAtPlanner, type PlannerView, plannerDays } from '@north-pebble/contract';
import { spanWords } from '@north-pebble/core/form';
import { type HalfMark, halfState } from '@north-pebble/core/leave';
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
  workingTimeOf,
} from '@north-pebble/core/people';
import { type CivilDate, fromDay, halfIndex, rangeWords, toDay, yearOf } from '@north-pebble/core/time';
import { Router } from 'express';
import { mayPlan, mayPlanForSome } from '../access/index.ts';
import { type House, loadEntries, loadLines, loadTypes, todayFor } from '../house/index.ts';
import { type Caller, notFound, ProblemError, serving } from '../http/index.ts';

/** Everybody of a place or a department whom the reader looks after. */
function wholeGroup(
  index: DirectoryIndex,
  caller: Caller,
  asked: Pick<LookAtPlanner, 'place' | 'department'>,
  today: CivilDate,
): { name: string; people: Person[] } {
  const where = asked.place !== undefined ? index.place(asked.place) : index.department(asked.department ?? '');
  if (!where) throw notFound();
  const people = index.directory.people.filter(person => {
    if (!isEmployed(person, today) || !mayPlan(caller, person.id, index, today)) return false;
    const record = recordOn(person, today);
    return asked.place !== undefined ? record?.place === asked.place : record?.department === asked.department;
  });
  return { name: where.name, people };
}

async function planner(house: House, caller: Caller, asked: LookAtPlanner): Promise<PlannerView> {
  const { from, to } = asked;
  const { db } = house;
  const first = toDay(from);
  const last = toDay(to);
  const length = last - first + 1;
  if (length < plannerDays.least || length > plannerDays.most) {
    throw new ProblemError('bad input', `Ask for ${plannerDays.least} to ${plannerDays.most} days.`);
  }
  const index = await house.directory(db);
  const today = todayFor(index, caller.id, await house.now(db));
  const types = await loadTypes(db);

  // The team that one is part of, then the teams of the posts that one holds.
  const leads = new Set<PostId>();
  const own = mainPost(index, caller.id, today);
  const above = own && reportsTo(own, today);
  if (above) leads.add(above);
  for (const holding of index.holdingsOfPerson(caller.id)) if (holdsOn(holding, today)) leads.add(holding.post);

  const groups: { name: string; people: Person[] }[] = [];
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

  const ids = [...new Set(groups.flatMap(g => g.people.map(p => p.id)))];
  const entries = await loadEntries(db, ids, from, to);
  const lines = await loadLines(db, ids, from, to);
  const teams = groups.map(({ name, people }) => {
    const here = Array.from({ length }, () => 0);
    const rows = people.map(person => {
      const time = workingTimeOf(index, person, { first, last });
      const mine = entries.filter(e => e.person === person.id);
      const own = lines.filter(line => line.person === person.id);
      let marks = '';
      for (let day = first; day <= last; day++) {
        const am = halfState(time, mine, halfIndex(day, 'am'));
        const pm = halfState(time, mine, halfIndex(day, 'pm'));
        if (am === 'w' || pm === 'w') here[day - first]++;
        const isElsewhere = own.some(line => toDay(line.from) <= day && day <= toDay(line.to));
        const shown = (mark: HalfMark) => (isElsewhere && mark === 'w' ? 'l' : mark);
        marks += shown(am) + shown(pm);
      }
      // Why a colleague is away is theirs to tell; one's own leave is named.
      const named = person.id === caller.id || mayPlan(caller, person.id, index, today);
      return {
        id: person.id,
        name: person.name,
        marks,
        entries: [
          ...own.map(line => ({
            from: line.from,
            to: line.to,
            label: `${line.label}: ${rangeWords(line.from, line.to, yearOf(today))}`,
          })),
          ...mine.map(e => {
            const what = named ? (types.find(type => type.id === e.type)?.name ?? 'Leave') : 'Away';
            const state = e.state === 'held' ? ', asked for' : '';
            return {
              from: e.span.from.date,
              to: e.span.to.date,
              label: `${what}${state}: ${spanWords(e.span, yearOf(today))}`,
            };
          }),
        ],
      };
    });
    return { name, people: rows, here };
  });
  return {
    from: fromDay(first),
    to: fromDay(last),
    today,
    teams,
    groups: looks
      ? [
          ...index.directory.places.map(({ id, name }) => ({ id, name, kind: 'place' as const })),
          ...index.directory.departments.map(({ id, name }) => ({ id, name, kind: 'department' as const })),
        ]
      : [],
  };
}

export function plannerRoutes(house: House): Router {
  const router = Router();
  serving(router)('GET /planner', ({ caller, query }) => planner(house, caller, query));
  return router;
}
