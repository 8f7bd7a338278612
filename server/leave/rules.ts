/** What leave types and plans say, for everybody to read: a rule that is kept in a head is no rule. */
import { type LeaveRulesView, may } from '@north-pebble/contract';
import { groupOf, neverMet } from '@north-pebble/core/leave';
import { isEmployed, recordOn, todayFor } from '@north-pebble/core/people';
import { toDay } from '@north-pebble/core/time';
import { type House, rulesFor } from '../house/index.ts';
import type { Caller } from '../http/index.ts';

/** So far ahead it is looked whether the rota meets what is needed: eight weeks. */
const daysAhead = 56;

export async function rulesView(house: House, caller: Caller): Promise<LeaveRulesView> {
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, caller.id, now);
  const { types, plans, presence } = await rulesFor(house.db, index);
  const { directory } = index;
  const ofPlan = new Map<string, number>();
  for (const person of directory.people) {
    const plan = isEmployed(person, today) ? recordOn(person, today)?.plan : null;
    if (plan) ofPlan.set(plan, (ofPlan.get(plan) ?? 0) + 1);
  }
  const named = ({ id, name }: { id: string; name: string }) => ({ id, name });
  return {
    today,
    mayKeep: may(caller, 'keep records'),
    types,
    plans: plans.map(plan => ({ ...plan, people: ofPlan.get(plan.id) ?? 0 })),
    presence: presence.map(one => {
      const short = neverMet(index, one, { first: toDay(today), last: toDay(today) + daysAhead - 1 });
      return {
        ...one,
        there: groupOf(index, one, today).length,
        short: short[0] === undefined ? null : { days: short.length, first: short[0] },
      };
    }),
    places: directory.places.map(named),
    departments: directory.departments.map(named),
  };
}
