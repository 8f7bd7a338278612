/**
 * What somebody has of a kind of leave when they leave on a day, and what a joiner would have, before any date is set: what is
 * worked out is the same as it will be once the date is on file.
 */
import type { Person, PersonId } from '../../people/index.ts';
import { type CivilDate, type DayNumber, fromDay, toDay } from '../../time/index.ts';
import { balancesIn } from '../balances/balance.ts';
import { alone } from '../balances/course.ts';
import { plus, toNumber, zero } from '../balances/fraction.ts';
import { type Employment, leaveYearFrom, type NamedPlan } from '../balances/plan.ts';
import { type Planned, planSchedule } from '../balances/schedule.ts';
import type { LeaveBook, LeaveEntry } from '../book.ts';
import type { LeaveType } from '../rules/type.ts';
import { holdingsOf } from '../statements.ts';

export type AtLeaving = {
  readonly unit: 'days' | 'hours';
  readonly plan: string;
  /** What the plan gives in the leave year of the last day, up to it. */
  readonly entitled: number;
  /** The balance at the end of the last day, with what is booked until then: what is paid, or owed where it is below zero. */
  readonly balance: number;
};

/** What a plan gives from one day to another, both included, added up exactly. */
const givenIn = (planned: readonly Planned[], first: DayNumber, last: DayNumber): number =>
  toNumber(
    planned.reduce(
      (sum, entry) =>
        entry.kind === 'accrual' && entry.on >= first && entry.on <= last ? plus(sum, entry.grant.amount) : sum,
      zero,
    ),
  );

/**
 * @param on the last day
 * @returns nothing for whoever has no balance of the type
 */
export function atLeaving(book: LeaveBook, id: PersonId, type: LeaveType, on: CivilDate): AtLeaving | undefined {
  const known = book.index.person(id);
  if (!known) return undefined;
  // The directory with the last day in it: the plan, and what is counted, follow from that as they will.
  const leaver: Person = { ...known, left: on };
  const index = { ...book.index, person: (asked: PersonId) => (asked === id ? leaver : book.index.person(asked)) };
  const own = { ...book, index };
  const holdings = holdingsOf(own, id, type, toDay(on));
  if (!holdings) return undefined;
  const { named, planned, moved } = holdings;
  const day = toDay(on);
  const booked = moved.filter(({ booking }) => booking?.state !== 'held');
  const balance = balancesIn({ ...holdings, moved: booked }, { first: day, last: day }).get(day);
  const first = leaveYearFrom(named.rules, leaver.joined, day);
  return {
    unit: named.unit,
    plan: named.name,
    entitled: givenIn(planned, first, day),
    balance: balance ? toNumber(balance) : 0,
  };
}

/** Leave that goes on after a last day, booked or asked for: it is not taken any more. */
export const leaveAfter = (book: LeaveBook, id: PersonId, on: CivilDate): LeaveEntry[] =>
  book.entries.filter(entry => entry.person === id && (entry.open || entry.span.to.date > on));

/** What a plan gives somebody who joins on a day, in the leave year of it and in the one after. */
export type AtJoining = { readonly until: CivilDate; readonly amount: number };

export function atJoining(plan: NamedPlan, joined: CivilDate, share: number): readonly AtJoining[] {
  const employment: Employment = { joined, left: null, fte: [{ from: joined, value: share }] };
  const turns = [1, 2].map(n => leaveYearFrom(plan.rules, joined, toDay(joined), n) - 1);
  const planned = planSchedule(alone(plan.rules, joined, plan.unit), employment, turns[1] ?? 0);
  let from = toDay(joined);
  return turns.map(last => {
    const amount = givenIn(planned, from, last);
    from = last + 1;
    return { until: fromDay(last), amount };
  });
}
