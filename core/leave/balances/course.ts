/**
 * The plans of one person in turn. Where the next plan counts in the same unit and begins its leave years on the same day, the
 * leave year goes on; else it is a break, on which what is left is brought along. And the opening, with which a house begins
 * that kept its balances elsewhere before.
 */
import { z } from 'zod';
import { CivilDate, type DayNumber, toDay } from '../../time/index.ts';
import { decimal, type Fraction } from './fraction.ts';
import { type LeavePlan, leaveYearFrom, type NamedPlan } from './plan.ts';

/** What the house before said on the morning of a day: after a year end of that day, before what is granted on it. */
export const Opening = z.object({
  on: CivilDate,
  own: z.number().default(0),
  carried: z.number().nonnegative().default(0),
  /** The last day on which the carried part can be taken; with none, a year end ends it. */
  lapses: CivilDate.nullish(),
  /** Where it comes from, for the statement. */
  source: z.string().optional(),
});
export type Opening = z.infer<typeof Opening>;

/** A plan from a day on. */
export type PlanTurn = {
  readonly from: CivilDate;
  readonly plan: LeavePlan;
  readonly unit: NamedPlan['unit'];
  readonly name?: string;
  /** Units of this plan for one of the plan before; 1 where nothing is said. */
  readonly per?: number;
};

/** Plans whose leave years go on from one to the other, as one plan that says something else from a day on. */
export type PlanStretch = {
  readonly first: DayNumber;
  /** The day before the break that ends it; nothing for the last. */
  readonly last: DayNumber | null;
  readonly plan: LeavePlan;
  readonly unit: NamedPlan['unit'];
  readonly name?: string;
  /** Units of it for one of the stretch before. */
  readonly per: Fraction;
};

export type Course = { readonly stretches: readonly [PlanStretch, ...PlanStretch[]]; readonly opening: Opening | null };

/** A plan alone, for whoever never had another. */
export const alone = (plan: LeavePlan, joined: CivilDate, unit: NamedPlan['unit'] = 'days', name?: string): Course => ({
  stretches: [{ first: toDay(joined), last: null, plan, unit, per: one, ...(name ? { name } : {}) }],
  opening: null,
});
const one = decimal(1);

/**
 * @param turns at least one; the first holds from joining on, and of several from one day the last
 * @param person a plan that would begin after the last day never does
 */
export function courseOf(
  turns: readonly [PlanTurn, ...PlanTurn[]],
  { joined, left }: { readonly joined: CivilDate; readonly left?: CivilDate | null },
  opening: Opening | null = null,
): Course {
  const sorted = turns.toSorted((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0));
  const begun = sorted.findLastIndex(turn => turn.from <= joined);
  const [first, ...later] = sorted.slice(Math.max(0, begun)) as [PlanTurn, ...PlanTurn[]];
  const stretches: [PlanStretch, ...PlanStretch[]] = [...alone(first.plan, joined, first.unit, first.name).stretches];
  later.forEach((turn, n) => {
    // Of several from one day the last holds; of one after the last day nothing.
    if (turn.from === later[n + 1]?.from || (left && turn.from > left)) return;
    const open = stretches[stretches.length - 1] as PlanStretch;
    const day = toDay(turn.from);
    if (open.unit === turn.unit && open.plan.yearStart === turn.plan.yearStart) {
      stretches[stretches.length - 1] = { ...open, plan: goingOn(open.plan, turn) };
      return;
    }
    stretches[stretches.length - 1] = { ...open, last: day - 1 };
    const { plan, unit, name, per = 1 } = turn;
    stretches.push({ first: day, last: null, plan, unit, per: decimal(per), ...(name ? { name } : {}) });
  });
  return { stretches, opening };
}

/** A plan that says from a day on what another says, that one's own later words with it. */
function goingOn(plan: LeavePlan, { from, plan: next }: PlanTurn): LeavePlan {
  const { later = [], ...rules } = next;
  const before = (plan.later ?? []).filter(version => version.from < from);
  const already = later.filter(version => version.from <= from);
  const holds = already.reduce(
    (found, version) => (found === undefined || version.from >= found.from ? version : found),
    undefined as (typeof later)[number] | undefined,
  );
  return {
    ...plan,
    later: [...before, { from, rules: holds?.rules ?? rules }, ...later.filter(version => version.from > from)],
  };
}

/** The stretch in which a day lies: the first before it begins, the last for whoever has left. */
export const stretchOn = ({ stretches }: Course, day: DayNumber): PlanStretch =>
  stretches.findLast(stretch => stretch.first <= day) ?? stretches[0];

/** Whether nothing but one plan is known: nearly everybody, whose course is worked out for all of them at once. */
export const isPlain = ({ stretches, opening }: Course): boolean => stretches.length === 1 && opening === null;

/** The day from which on a balance is counted: joining, or the opening. */
export const countedFrom = ({ opening }: Course, joined: CivilDate): DayNumber =>
  Math.max(toDay(joined), opening ? toDay(opening.on) : Number.NEGATIVE_INFINITY);

/** The day on which what counts on a day began: joining, a break, or the opening. */
export const begunOn = (course: Course, joined: CivilDate, day: DayNumber): DayNumber =>
  Math.max(countedFrom(course, joined), stretchOn(course, day).first);

/**
 * The first day of the latest leave year that began by a year end on or before a day: not by joining, a break or an opening.
 * @returns nothing where no year has ended yet
 */
export function latestTurn(course: Course, joined: CivilDate, day: DayNumber): DayNumber | null {
  const counted = countedFrom(course, joined);
  for (const { first, last, plan } of course.stretches.toReversed()) {
    if (first > day) continue;
    const turn = leaveYearFrom(plan, joined, last === null ? day : Math.min(day, last));
    if (turn > Math.max(first, counted)) return turn;
  }
  return null;
}

/** Whether an opening lies within the employment that it opens. */
export const isWithin = ({ on }: Opening, { joined, left }: { joined: CivilDate; left?: CivilDate | null }): boolean =>
  joined <= on && (!left || on <= left);
