/** What plans do by themselves: year ends, grants, lapses, what is brought along at a break, and the opening. */
import {
  addMonths,
  type CivilDate,
  type DayNumber,
  fromDay,
  monthDayIn,
  toDay,
  yearMonthDay,
} from '../../time/index.ts';
import { type Course, type PlanStretch, stretchOn } from './course.ts';
import { decimal, type Fraction, isZero, minus, plus, roundTo, zero } from './fraction.ts';
import {
  type Employment,
  entitlement,
  type LeavePlan,
  type LeaveYear,
  leaveYearFrom,
  leaveYears,
  monthEntitlement,
  type PlanRules,
  rate,
  rulesOn,
  type Worked,
} from './plan.ts';

export type Grant = { on: DayNumber; amount: Fraction; reason: string };

/** What may be kept of what would lapse, because other leave was in the way: at most so much, until a day. */
export type Kept = { readonly amount: Fraction; readonly until: DayNumber; readonly because: string };

/** How much of a person’s work, in the unit of the plan, leave of some types took between two days, both included. */
export type Missed = (
  types: readonly string[],
  first: DayNumber,
  last: DayNumber,
) => { readonly amount: Fraction; readonly because: string };
const nothingMissed: Missed = () => ({ amount: zero, because: '' });

/** What the plan does by itself on a day. */
export type Planned =
  /**
   * `most` is what is carried over at most; nothing where the plan carries nothing. Where `warned` is set, nothing lapses of
   * which no letter told.
   */
  | {
      on: DayNumber;
      kind: 'year end';
      expires: DayNumber | null;
      most: number | null;
      kept?: readonly Kept[];
      warned?: true;
    }
  | { on: DayNumber; kind: 'accrual'; grant: Grant }
  | { on: DayNumber; kind: 'lapse'; kept?: readonly Kept[]; warned?: true }
  /** Another unit, or other leave years: what is left goes along, `per` units of the new for one of the old. */
  | { on: DayNumber; kind: 'break'; per: Fraction; from: PlanStretch; to: PlanStretch }
  | { on: DayNumber; kind: 'opening'; own: Fraction; carried: Fraction; lapses: DayNumber | null; source: string };

const rounded = (rules: PlanRules, amount: Fraction): Fraction =>
  roundTo(amount, decimal(rules.rounding.step), rules.rounding.mode);

/** How a leave year is earned and rounded is settled on its first day, so that it adds up in one way from its begin to its end. */
const rulesOfYear = (plan: LeavePlan, person: Employment, year: LeaveYear): PlanRules =>
  rulesOn(plan, Math.max(year.first, begunOn(person)));

/** The day on which the plan begins for somebody: joining, or a break. */
const begunOn = ({ joined, begins }: Employment): DayNumber => toDay(begins ?? joined);

/** Whole accruals of a leave year with the day on which each is given; those after `last` are left out. */
function grantsOf(
  plan: LeavePlan,
  person: Employment,
  year: LeaveYear,
  rates: ReturnType<typeof rate>,
  last: DayNumber,
  worked: Worked,
): Grant[] {
  const begun = begunOn(person);
  const left = person.left ? toDay(person.left) : Number.POSITIVE_INFINITY;
  if (year.first > left || year.next <= begun) return [];
  const rules = rulesOfYear(plan, person, year);
  if (rules.accrual === 'yearly') {
    const on = Math.max(year.first, begun);
    const reason = 'for the leave year';
    return on > last ? [] : [{ on, amount: rounded(rules, entitlement(rules, year, rates, 11)), reason }];
  }
  const grants: Grant[] = [];
  let given = zero;
  let total = zero;
  for (let month = 0; month < 12; month++) {
    const first = year.months[month];
    const end = (month === 11 ? year.next : year.months[month + 1]) - 1;
    const on = rules.accrual === 'monthly-in-advance' ? Math.max(first, begun) : Math.min(end, left);
    if (first > left || on > last) break;
    if (rules.accrual === 'hours-worked') total = plus(total, rates.earnedByHours(first, end, worked));
    else
      total =
        rules.proration === 'monthly'
          ? plus(total, monthEntitlement(year, rates, month))
          : entitlement(rules, year, rates, month);
    if (end < begun) continue;
    const due = rounded(rules, total);
    grants.push({ on, amount: minus(due, given), reason: `for leave month ${month + 1} of 12` });
    given = due;
  }
  return grants;
}

/** The first day `MM-DD` on or after a leave year's start. */
function expiryIn(year: LeaveYear, monthDay: string): DayNumber {
  const { year: calendarYear } = yearMonthDay(year.first);
  const inSameYear = monthDayIn(calendarYear, monthDay);
  return inSameYear >= year.first ? inSameYear : monthDayIn(calendarYear + 1, monthDay);
}

const lastDay = (left: CivilDate | null | undefined): DayNumber => (left ? toDay(left) : Number.POSITIVE_INFINITY);

/** A person as one stretch of their course has them: a break ends it as if they had left the day before. */
function during(person: Employment, { first, last }: PlanStretch): Employment {
  const begins = first > toDay(person.joined) ? { begins: fromDay(first) } : {};
  return last === null || last >= lastDay(person.left)
    ? { ...person, ...begins }
    : { ...person, ...begins, left: fromDay(last) };
}

/** What may be kept of what would lapse on a day, by what was in the way from another day on. */
function keptBy(rules: PlanRules, year: LeaveYear, first: DayNumber, last: DayNumber, missed: Missed): Kept[] {
  return (rules.carryOver?.kept ?? []).flatMap(({ types, months }) => {
    const { amount, because } = missed(types, first, last);
    return isZero(amount) ? [] : [{ amount, because, until: addMonths(year.first, months) - 1 }];
  });
}

function ofStretch(
  stretch: PlanStretch,
  person: Employment,
  until: DayNumber,
  worked: Worked,
  missed: Missed,
): Planned[] {
  const { plan } = stretch;
  const own = during(person, stretch);
  const begun = begunOn(own);
  const rates = rate(plan, own);
  const all: Planned[] = [];
  for (const year of leaveYears(plan, own.joined, Math.min(until, lastDay(fromBreak(stretch))), begun)) {
    const rules = rulesOn(plan, year.first);
    const { carryOver } = rules;
    const expires = carryOver?.expires ? expiryIn(year, carryOver.expires) : null;
    if (year.first > begun && year.first <= lastDay(own.left)) {
      const warned = carryOver?.warned ? ({ warned: true } as const) : {};
      const before = Math.max(begun, leaveYearFrom(plan, own.joined, year.first, -1));
      const ofYear = keptBy(rules, year, before, year.first - 1, missed);
      all.push({
        ...{ on: year.first, kind: 'year end', expires, most: carryOver?.max ?? null, ...warned },
        ...(ofYear.length > 0 ? { kept: ofYear } : {}),
      });
      // What was carried over lapses on its day also where another plan holds by then; whoever has left keeps it.
      const ofCarry = expires === null ? [] : keptBy(rules, year, year.first, expires, missed);
      if (expires !== null && expires < lastDay(person.left))
        all.push({ on: expires, kind: 'lapse', ...warned, ...(ofCarry.length > 0 ? { kept: ofCarry } : {}) });
      for (const { until: last } of [...ofYear, ...ofCarry])
        if (last < lastDay(person.left)) all.push({ on: last, kind: 'lapse' });
    }
    for (const grant of grantsOf(plan, own, year, rates, until, worked))
      all.push({ on: grant.on, kind: 'accrual', grant });
  }
  return all;
}
const fromBreak = ({ last }: PlanStretch): CivilDate | null => (last === null ? null : fromDay(last));

/**
 * An opening says what was there, and what the year's grant gave was right for the facts of that day going on: what is known to
 * change after it changes that grant. @returns nothing where the grant comes later, or is the same
 */
function madeUp(stretch: PlanStretch, person: Employment, on: DayNumber): Grant | null {
  const own = during(person, stretch);
  const [year] = leaveYears(stretch.plan, own.joined, on, Math.max(on, begunOn(own)));
  if (!year) return null;
  const rules = rulesOfYear(stretch.plan, own, year);
  if (rules.accrual !== 'yearly' || Math.max(year.first, begunOn(own)) >= on) return null;
  const day = fromDay(on);
  const asThen: Employment = {
    ...own,
    left: null,
    fte: own.fte.filter(({ from }) => from <= day),
    ...(own.idle ? { idle: own.idle.filter(({ from }) => from <= day) } : {}),
  };
  const planThen = { ...stretch.plan, later: (stretch.plan.later ?? []).filter(({ from }) => from <= day) };
  const given = (plan: LeavePlan, of: Employment) => rounded(rules, entitlement(rules, year, rate(plan, of), 11));
  const amount = minus(given(stretch.plan, own), given(planThen, asThen));
  return isZero(amount) ? null : { on, amount, reason: 'for the leave year, by what has changed since the opening' };
}

/**
 * What happens to a balance by the plans alone, up to and with day `until`.
 * It depends on employment and plans only, so whoever asks often for one person keeps it.
 * @param worked for plans that are earned by hours worked
 * @param missed for plans that keep what could not be taken
 */
export function planSchedule(
  course: Course,
  person: Employment,
  until: DayNumber,
  worked: Worked = () => 0,
  missed: Missed = nothingMissed,
): readonly Planned[] {
  const { stretches, opening } = course;
  const all: Planned[] = [];
  stretches.forEach((stretch, n) => {
    if (stretch.first > until) return;
    const before = stretches[n - 1];
    if (before) all.push({ on: stretch.first, kind: 'break', per: stretch.per, from: before, to: stretch });
    all.push(...ofStretch(stretch, person, until, worked, missed));
  });
  if (!opening) return all;
  const on = toDay(opening.on);
  if (on > until) return [];
  // What comes before an opening is what it says; so is a year end or a break of its own day.
  const after = all.filter(one => one.on > on || (one.on === on && one.kind !== 'year end' && one.kind !== 'break'));
  const lapses = opening.lapses ? toDay(opening.lapses) : null;
  after.push({
    on,
    kind: 'opening',
    own: decimal(opening.own),
    carried: decimal(opening.carried),
    lapses,
    source: opening.source ?? '',
  });
  if (lapses !== null && lapses >= on && lapses < lastDay(person.left)) after.push({ on: lapses, kind: 'lapse' });
  const more = madeUp(stretchOn(course, on), person, on);
  if (more) after.push({ on, kind: 'accrual', grant: more });
  return after;
}
