/** Leave plans and employment: what a person earns, by leave years and leave months. */
import { z } from 'zod';
import { addMonths, CivilDate, type DayNumber, MonthDay, monthDayIn, toDay, yearMonthDay } from '../time/index.ts';
import { decimal, type Fraction, over, plus, times, zero } from './fraction.ts';

export const LeavePlan = z.object({
  yearStart: z.union([z.literal('anniversary'), MonthDay]),
  perYear: z.array(z.object({ fromServiceYears: z.number().nonnegative(), amount: z.number().nonnegative() })),
  accrual: z.enum(['yearly', 'monthly-in-advance', 'monthly-in-arrears']),
  proration: z.enum(['daily', 'monthly']),
  rounding: z.object({ step: z.number().positive(), mode: z.enum(['up', 'down', 'nearest']) }),
  carryOver: z.object({ max: z.number().nonnegative(), expires: MonthDay.nullish() }).nullish(),
});
export type LeavePlan = z.infer<typeof LeavePlan>;

export const Employment = z.object({
  joined: CivilDate,
  left: CivilDate.nullish(),
  fte: z.array(z.object({ from: CivilDate, value: z.number().nonnegative() })),
});
export type Employment = z.infer<typeof Employment>;

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
  /** The exact share earned over [first, last], both included, when each day earns its rate over `divisor`. */
  readonly earned: (first: DayNumber, last: DayNumber, divisor: number) => Fraction;
};

export function rate(plan: LeavePlan, employment: Employment): Rate {
  const joined = toDay(employment.joined);
  const left = employment.left ? toDay(employment.left) : Number.POSITIVE_INFINITY;
  const fte = employment.fte
    .map(f => ({ from: toDay(f.from), value: decimal(f.value) }))
    .sort((a, b) => a.from - b.from);
  const tiers = plan.perYear
    .map(t => ({ from: t.fromServiceYears, amount: decimal(t.amount) }))
    .sort((a, b) => a.from - b.from);
  const joinYear = Number(employment.joined.slice(0, 4));
  // The day on which a tier begins: the first on which that many full years have been served.
  const tierDays = tiers.map(t => monthDayIn(joinYear + Math.ceil(t.from), employment.joined.slice(5)));

  function rateOn(day: DayNumber): Fraction {
    const served = servedOn(employment.joined, day);
    let amount = zero;
    for (const tier of tiers) if (tier.from <= served) amount = tier.amount;
    let share = zero;
    for (const entry of fte) if (entry.from <= day) share = entry.value;
    return times(amount, share);
  }

  return {
    earned(first, last, divisor) {
      const from = Math.max(first, joined);
      const to = Math.min(last, left);
      let sum = zero;
      for (let at = from; at <= to; ) {
        let next = to + 1;
        for (const day of tierDays) if (day > at && day < next) next = day;
        for (const entry of fte) if (entry.from > at && entry.from < next) next = entry.from;
        const value = rateOn(at);
        sum = plus(sum, over(times(value, { top: BigInt(next - at), bottom: 1n }), BigInt(divisor)));
        at = next;
      }
      return sum;
    },
  };
}

/** What a leave year entitles to up to and with leave month `month` (0 to 11), exact and unrounded. */
export function entitlement(plan: LeavePlan, year: LeaveYear, rates: Rate, month: number): Fraction {
  if (plan.proration === 'daily') {
    const end = month === 11 ? year.next : year.months[month + 1];
    return rates.earned(year.first, end - 1, year.next - year.first);
  }
  let sum = zero;
  for (let i = 0; i <= month; i++) sum = plus(sum, monthEntitlement(year, rates, i));
  return sum;
}

/** What one leave month earns under monthly proration. */
export function monthEntitlement(year: LeaveYear, rates: Rate, month: number): Fraction {
  const first = year.months[month];
  const next = month === 11 ? year.next : year.months[month + 1];
  return rates.earned(first, next - 1, 12 * (next - first));
}
