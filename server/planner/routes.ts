/** Who of one's teams is away when. */
import { type LookAtPlanner, type PlannerView, plannerDays } from '@north-pebble/contract';
import { spanWords } from '@north-pebble/core/form';
import { concerns, groupOf, type HalfMark, halfState, hereOn, typeOn } from '@north-pebble/core/leave';
import { type DirectoryIndex, personName, workingTimeOf } from '@north-pebble/core/people';
import { type CivilDate, fromDay, halfIndex, rangeWords, toDay, yearOf } from '@north-pebble/core/time';
import { Router } from 'express';
import { mayPlan, mayPlanForSome } from '../access/index.ts';
import { type House, loadEntries, loadLines, loadTypes, rulesFor, todayFor } from '../house/index.ts';
import { type Caller, ProblemError, serving } from '../http/index.ts';
import { dropFeed, feedsView, makeFeed, readsKind, renewFeed } from './feeds.ts';
import { type Group, groupsFor } from './groups.ts';

/** Where a least number is needed of those who are shown, and how many would be here on each day. */
async function neededHere(
  house: House,
  index: DirectoryIndex,
  caller: Caller,
  groups: readonly Group[],
  { first, last, today }: { first: number; last: number; today: CivilDate },
): Promise<PlannerView['presence']> {
  const { presence } = await rulesFor(house.db, index);
  const shown = groups.flatMap(group => group.people);
  const own = presence.filter(one => shown.some(person => concerns(one, person, today)));
  if (own.length === 0) return [];
  const ids = [...new Set(own.flatMap(one => groupOf(index, one, today).map(person => person.id)))];
  const entries = await loadEntries(house.db, ids, fromDay(first), fromDay(last));
  const book = { index, types: [], plans: [], adjustments: [], entries, today };
  return own.map(one => {
    const here = hereOn(book, one, first, last);
    const short = here.flatMap((n, i) => (n !== null && n < one.people ? [fromDay(first + i)] : []));
    const group = new Set<string>(groupOf(index, one, today).map(person => person.id));
    const asked = entries.flatMap(({ request, person, span, state }) => {
      const isCause =
        state === 'held' && group.has(person) && short.some(day => span.from.date <= day && day <= span.to.date);
      return isCause && mayPlan(caller, person, index, today)
        ? [{ request, name: personName(index, person), from: span.from.date, to: span.to.date }]
        : [];
    });
    return { id: one.id, name: one.name, needed: one.people, here, asked };
  });
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

  const looks = mayPlanForSome(caller, index, today);
  const groups = groupsFor(index, caller, asked, today);
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
            // Why a colleague is away is theirs to tell; one's own leave is named.
            const type = types.find(one => one.id === e.type);
            const reads = type && readsKind(index, caller, person, typeOn(type, e.span.from.date).kindReadBy, today);
            const what = reads ? type.name : 'Away';
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
    presence: await neededHere(house, index, caller, groups, { first, last, today }),
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
  const at = serving(router);
  at('GET /planner', ({ caller, query }) => planner(house, caller, query));
  at('GET /feeds', ({ caller }) => feedsView(house, caller));
  at('POST /feeds', ({ caller, body }) => makeFeed(house, caller, body));
  at('POST /feeds/:id/renew', ({ caller, params }) => renewFeed(house, caller, params.id));
  at('DELETE /feeds/:id', ({ caller, params }) => dropFeed(house, caller, params.id));
  return router;
}
