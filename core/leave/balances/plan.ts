/** Leave plans and employment: what a person earns, by leave years and leave months. */
import { z } from 'zod';
import { addMonths, CivilDate, type DayNumber, MonthDay, monthDayIn, toDay, yearMonthDay } from '../../time/index.ts';
import { decimal, type Fraction, fraction, over, plus, times, zero } from './fraction.ts';

export const PlanRules = z.object({
  yearStart: z.union([z.literal('anniversary'), MonthDay]),
  perYear: z.array(z.object({ fromServiceYears: z.number().nonnegative(), amount: z.number().nonnegative() })),
  /** By hours worked, the amounts are for each hundred hours, given at the end of each leave month. */
  accrual: z.enum(['yearly', 'monthly-in-advance', 'monthly-in-arrears', 'hours-worked']),
  proration: z.enum(['daily', 'monthly']),
  rounding: z.object({ step: z.number().positive(), mode: z.enum(['up', 'down', 'nearest']) }),
  carryOver: z
    .object({
      max: z.number().nonnegative(),
      expires: MonthDay.nullish(),
      /** What leave of these types kept from being taken, up to the work that it took, lives for so many months of the new year. */
      kept: z
        .array(
          z.object({
            types: z.array(z.string().min(1).max(40)).min(1).max(10),
            months: z.number().int().min(1).max(60),
          }),
        )
        .max(5)
        .optional(),
      /** Nothing lapses of which no letter told the person in time. */
      warned: z.literal(true).optional(),
    })
    .nullish(),
});
/** What a plan says at one time. */
export type PlanRules = z.infer<typeof PlanRules>;

/** A plan through time: what it says from the first, and from which day on it says something else. */
export const LeavePlan = PlanRules.extend({
  later: z
    .array(z.object({ from: CivilDate, rules: PlanRules }))
    .max(60)
    .optional(),
});
export type LeavePlan = z.infer<typeof LeavePlan>;

export const NamedPlan = z.object({
  id: z.string().min(1),
  name: z.string().min(1),
  unit: z.enum(['days', 'hours']),
  rules: LeavePlan,
});
export type NamedPlan = z.infer<typeof NamedPlan>;

/** What a plan says on a day. Leave years begin as they did from the first: balances are closed by them. */
export function rulesOn(plan: LeavePlan, day: DayNumber): PlanRules {
  let found: PlanRules = plan;
  let since = Number.NEGATIVE_INFINITY;
  for (const { from, rules } of plan.later ?? []) {
    const first = toDay(from);
    if (first <= day && first >= since) {
      found = rules;
      since = first;
    }
  }
  return found;
}

export const Employment = z.object({
  joined: CivilDate,
  left: CivilDate.nullish(),
  fte: z.array(z.object({ from: CivilDate, value: z.number().nonnegative() })),
  /** Days on which nothing is earned, both included: long leave of a type that says so. */
  idle: z
    .array(
      z.object({
        from: CivilDate,
        to: CivilDate,
        /** The share of a usual day that is worked all the same, and earns. */
        share: z.object({ top: z.number().int().positive(), bottom: z.number().int().positive() }).optional(),
      }),
    )
    .optional(),
});
export type Employment = z.infer<typeof Employment> & {
  /** The day on which the plan begins for them, where that is not joining: service counts from joining all the same. */
  readonly begins?: CivilDate;
};

/** First day of the leave year that begins in a calendar year. */
function yearStartIn(plan: LeavePlan, joined: CivilDate, year: number): DayNumber {
  return monthDayIn(year, plan.yearStart === 'anniversary' ? joined.slice(5) : plan.yearStart);
}

/** A leave year: its first day, the first day of the next one, and the first days of its twelve leave months. */
export type LeaveYear = { readonly first: DayNumber; readonly next: DayNumber; readonly months: readonly DayNumber[] };

function leaveYear(plan: LeavePlan, joined: CivilDate, year: number): LeaveYear {
  const first = yearStartIn(plan, joined, year);
  let months: DayNumber[] | undefined;
  return {
    first,
    next: yearStartIn(plan, joined, year + 1),
    // Plans that count by days never ask for the months.
    get months() {
      months ??= Array.from({ length: 12 }, (_, month) => addMonths(first, month));
      return months;
    },
  };
}

/** The leave years from the one that holds `from` (or joining, when that is later) to the one that holds `last`. */
export function* leaveYears(
  plan: LeavePlan,
  joined: CivilDate,
  last: DayNumber,
  from: DayNumber = toDay(joined),
): Generator<LeaveYear> {
  const start = Math.max(from, toDay(joined));
  let year = yearMonthDay(start).year;
  if (yearStartIn(plan, joined, year) > start) year--;
  for (; yearStartIn(plan, joined, year) <= last; year++) yield leaveYear(plan, joined, year);
}

/** First day of the leave year in which a day lies, and of the one `further` leave years on. */
export function leaveYearFrom(plan: LeavePlan, joined: CivilDate, day: DayNumber, further = 0): DayNumber {
  const { year } = yearMonthDay(day);
  const own = yearStartIn(plan, joined, year) > day ? year - 1 : year;
  return yearStartIn(plan, joined, own + further);
}

/** Full years served on a day. */
function servedOn(joined: CivilDate, day: DayNumber): number {
  const { year } = yearMonthDay(day);
  const years = year - Number(joined.slice(0, 4));
  return monthDayIn(year, joined.slice(5)) <= day ? years : years - 1;
}

/**
 * The yearly rate of a person: constant between the days on which service, FTE or employment change.
 * Prepared once a person, asked for stretches of days.
 */
export type Rate = {
  /** The rate of each day of [first, last], both included, where it is the same throughout; nothing where it changes. */
  readonly steady: (first: DayNumber, last: DayNumber) => Fraction | undefined;
  /** The exact share earned over [first, last], both included, when each day earns its rate over `divisor`. */
  readonly earned: (first: DayNumber, last: DayNumber, divisor: number) => Fraction;
  /** The exact share earned over [first, last] when each hundred hours worked earn the amount of the tier. */
  readonly earnedByHours: (first: DayNumber, last: DayNumber, worked: Worked) => Fraction;
};

/** Minutes worked on the days from `first` to `last`, both included. */
export type Worked = (first: DayNumber, last: DayNumber) => number;

export function rate(plan: LeavePlan, employment: Employment): Rate {
  const begun = toDay(employment.begins ?? employment.joined);
  const left = employment.left ? toDay(employment.left) : Number.POSITIVE_INFINITY;
  const fte = employment.fte
    .map(f => ({ from: toDay(f.from), value: decimal(f.value) }))
    .sort((a, b) => a.from - b.from);
  const tiersOf = new Map<PlanRules, { from: number; amount: Fraction }[]>();
  for (const rules of [plan, ...(plan.later ?? []).map(version => version.rules)])
    tiersOf.set(
      rules,
      rules.perYear.map(t => ({ from: t.fromServiceYears, amount: decimal(t.amount) })).sort((a, b) => a.from - b.from),
    );
  const joinYear = Number(employment.joined.slice(0, 4));
  // Days on which the rate may change: a tier begins on the first on which that many full years have been served.
  const tierDays = [...tiersOf.values()]
    .flat()
    .map(t => monthDayIn(joinYear + Math.ceil(t.from), employment.joined.slice(5)))
    .concat((plan.later ?? []).map(version => toDay(version.from)));

  const idle = (employment.idle ?? []).map(({ from, to, share }) => ({
    from: toDay(from),
    to: toDay(to),
    share: share ? fraction(BigInt(share.top), BigInt(share.bottom)) : zero,
  }));

  function tierOn(day: DayNumber): Fraction {
    const part = idle.find(({ from, to }) => from <= day && day <= to)?.share;
    if (part === zero) return zero;
    const served = servedOn(employment.joined, day);
    let amount = zero;
    for (const tier of tiersOf.get(rulesOn(plan, day)) ?? []) if (tier.from <= served) amount = tier.amount;
    return part ? times(amount, part) : amount;
  }

  /** Days on which the rate may be another than on the day before, in their order. */
  const changes = [
    ...tierDays,
    ...fte.map(entry => entry.from),
    ...idle.flatMap(({ from, to }) => [from, to + 1]),
  ].sort((a, b) => a - b);
  /** Between two of them it is worked out once. */
  const known: Fraction[] = [];
  const stretchOf = (day: DayNumber): number => {
    let n = 0;
    while (n < changes.length && (changes[n] ?? 0) <= day) n++;
    return n;
  };

  function rateOn(day: DayNumber): Fraction {
    const stretch = stretchOf(day);
    const before = known[stretch];
    if (before) return before;
    const amount = tierOn(day);
    let share = zero;
    for (const entry of fte) if (entry.from <= day) share = entry.value;
    const found = times(amount, share);
    known[stretch] = found;
    return found;
  }

  /** Sums over the stretches of [first, last] in which neither tier nor share changes. */
  function sumOver(
    first: DayNumber,
    last: DayNumber,
    ofStretch: (from: DayNumber, next: DayNumber) => Fraction,
  ): Fraction {
    const to = Math.min(last, left);
    let sum = zero;
    for (let at = Math.max(first, begun); at <= to; ) {
      let next = to + 1;
      for (const day of tierDays) if (day > at && day < next) next = day;
      for (const entry of fte) if (entry.from > at && entry.from < next) next = entry.from;
      for (const { from, to: until } of idle) {
        if (from > at && from < next) next = from;
        if (until + 1 > at && until + 1 < next) next = until + 1;
      }
      sum = plus(sum, ofStretch(at, next));
      at = next;
    }
    return sum;
  }

  return {
    steady: (first, last) =>
      first >= begun && last <= left && stretchOf(first) === stretchOf(last) ? rateOn(first) : undefined,
    earned: (first, last, divisor) =>
      sumOver(first, last, (at, next) =>
        over(times(rateOn(at), { top: BigInt(next - at), bottom: 1n }), BigInt(divisor)),
      ),
    earnedByHours: (first, last, worked) =>
      sumOver(first, last, (at, next) =>
        over(times(tierOn(at), { top: BigInt(worked(at, next - 1)), bottom: 1n }), BigInt(hundredHours)),
      ),
  };
}
const hundredHours = 100 * 60;

/** What a leave year entitles to up to and with leave month `month` (0 to 11), exact and unrounded. */
export function entitlement(plan: PlanRules, year: LeaveYear, rates: Rate, month: number): Fraction {
  const end = month === 11 ? year.next : year.months[month + 1];
  // Nearly every year: nothing changes in it, so that its days and months need not be looked at one by one.
  const steady = rates.steady(year.first, end - 1);
  if (plan.proration === 'daily') {
    if (steady && month === 11) return steady;
    return rates.earned(year.first, end - 1, year.next - year.first);
  }
  if (steady) return over(times(steady, { top: BigInt(month + 1), bottom: 1n }), 12n);
  let sum = zero;
  for (let i = 0; i <= month; i++) sum = plus(sum, monthEntitlement(year, rates, i));
  return sum;
}

/** What one leave month earns under monthly proration. */
export function monthEntitlement(year: LeaveYear, rates: Rate, month: number): Fraction {
  const first = year.months[month];
  const next = month === 11 ? year.next : year.months[month + 1];
  const steady = rates.steady(first, next - 1);
  return steady ? over(steady, 12n) : rates.earned(first, next - 1, 12 * (next - first));
}
