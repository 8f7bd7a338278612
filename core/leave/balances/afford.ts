/** May it be taken? What a stretch of leave does to a balance on every day from its first to the end of the next leave year. */
import { z } from 'zod';
import { type CivilDate, type DayNumber, fromDay, Holiday, toDay, WorkPattern, workingTime } from '../../time/index.ts';
import { CountingRule, countDays, type DayCount } from '../counting.ts';
import { endsBeforeItStarts, HalfSpan } from '../span.ts';
import type { Moved } from './account.ts';
import { balancesIn, type Holdings, Movement, movedOf } from './balance.ts';
import { alone, type Course, stretchOn } from './course.ts';
import { compare, decimal, type Fraction, fraction, plus, roundTo, toNumber, zero } from './fraction.ts';
import { Employment, LeavePlan, leaveYearFrom } from './plan.ts';
import { planSchedule } from './schedule.ts';

/** What a request would take on its days, and whether the balance bears it. Amounts are exact. */
export type Affordable = {
  readonly amount: Fraction;
  /** On every day of the window the balance stays at or above what may be overdrawn, or is what it is without. */
  readonly fits: boolean;
  /** What the longest run of its days from the first on takes that would fit. */
  readonly free: Fraction;
  /** The balance at the end of its last day, with the whole of it. */
  readonly after: Fraction;
  /** The lowest balance of the window with the whole of it, and the first day that has it. */
  readonly lowest: { readonly balance: Fraction; readonly on: DayNumber };
  /** The balance at the end of each day of the window on which it may have changed, with the whole of it. */
  readonly balances: ReadonlyMap<DayNumber, Fraction>;
};

export type Asked = {
  readonly first: DayNumber;
  readonly last: DayNumber;
  /** What each day takes, in the plan's unit, in order. */
  readonly days: readonly { readonly on: DayNumber; readonly amount: Fraction }[];
  /** How far below zero the balance may go. */
  readonly overdraft: Fraction;
};

/** The last day that matters to a request: the end of the leave year after the one in which it ends. */
export const lastDayOfWindow = (course: Course, joined: CivilDate, last: DayNumber): DayNumber =>
  leaveYearFrom(stretchOn(course, last).plan, joined, last, 2) - 1;

export function affordable(holdings: Holdings, asked: Asked): Affordable {
  const { person, course } = holdings;
  const window = { first: asked.first, last: lastDayOfWindow(course, person.joined, asked.last) };
  const planned = holdings.planned ?? planSchedule(course, person, window.last);
  const alsoOn = [...asked.days.map(day => day.on), asked.last, ...holdings.moved.map(moved => moved.on)];
  const least = { top: -asked.overdraft.top, bottom: asked.overdraft.bottom };
  const balancesWith = (days: Asked['days']) => {
    const taken: Moved[] = days.map(({ on, amount }) => ({ on, kind: 'taken', amount }));
    return balancesIn({ person, course, planned, moved: [...holdings.moved, ...taken] }, window, alsoOn);
  };
  let without: Map<DayNumber, Fraction> | undefined;
  const isAsWithout = (day: DayNumber, balance: Fraction) => {
    without ??= balancesWith([]);
    return compare(balance, without.get(day) ?? balance) === 0;
  };
  const fitsWith = (balances: Map<DayNumber, Fraction>) =>
    [...balances].every(([day, balance]) => compare(balance, least) >= 0 || isAsWithout(day, balance));
  const whole = balancesWith(asked.days);
  const fits = fitsWith(whole);
  // More days never leave more on any day, so whatever is longer than a run that does not fit does not fit either.
  let run = fits ? asked.days.length : 0;
  for (let tooMany = asked.days.length; !fits && tooMany - run > 1; ) {
    const middle = Math.floor((run + tooMany) / 2);
    if (fitsWith(balancesWith(asked.days.slice(0, middle)))) run = middle;
    else tooMany = middle;
  }
  const sum = (days: Asked['days']) => days.reduce((all, day) => plus(all, day.amount), zero);
  let lowest: Affordable['lowest'] | undefined;
  for (const [on, balance] of whole) if (!lowest || compare(balance, lowest.balance) < 0) lowest = { balance, on };
  return {
    amount: sum(asked.days),
    fits,
    free: sum(asked.days.slice(0, run)),
    after: whole.get(asked.last) ?? zero,
    lowest: lowest ?? { balance: zero, on: asked.first },
    balances: whole,
  };
}

/** What each day takes in the unit of a plan: hours are minutes by 60, days are what the parts count. */
export const inUnit = (counted: readonly DayCount[], unitOf: (day: DayNumber) => 'days' | 'hours'): Asked['days'] =>
  counted.map(({ day, days, minutes }) => ({
    on: day,
    amount: unitOf(day) === 'hours' ? fraction(BigInt(minutes), 60n) : days,
  }));

export const AffordInput = z
  .object({
    person: Employment,
    plan: LeavePlan,
    movements: z.array(Movement),
    patterns: z.array(WorkPattern),
    holidays: z.array(Holiday),
    unit: z.enum(['days', 'hours']),
    overdraft: z.number().nonnegative().default(0),
  })
  .extend(CountingRule.shape)
  .extend(HalfSpan.shape);
export type AffordInput = z.infer<typeof AffordInput>;

export type Afford =
  | { amount: number; fits: boolean; free: number; after: number; lowest: { balance: number; on: CivilDate } }
  | { error: 'ends before it starts' };

const places = decimal(0.0001);
const shown = (amount: Fraction): number => toNumber(roundTo(amount, places, 'nearest'));

/** The question as `calc` asks it: plain facts in, numbers of at most four decimals out. */
export function afford(input: AffordInput): Afford {
  if (endsBeforeItStarts(input)) return { error: 'ends before it starts' };
  const [first, last] = [toDay(input.from.date), toDay(input.to.date)];
  const time = workingTime(input.patterns, input.holidays, { first, last: first - 1 });
  const days = inUnit(countDays(time, input, input), () => input.unit);
  const { person, plan, movements } = input;
  const worked = affordable(
    { person, course: alone(plan, person.joined, input.unit), moved: movements.map(movedOf) },
    { first, last, days, overdraft: decimal(input.overdraft) },
  );
  const { amount, fits, free, after, lowest } = worked;
  return {
    amount: shown(amount),
    fits,
    free: shown(free),
    after: shown(after),
    lowest: { balance: shown(lowest.balance), on: fromDay(lowest.on) },
  };
}
