/** Balances and statements: worked out from facts, line by line, never patched. */
import { z } from 'zod';
import { CivilDate, type DayNumber, dateWords, fromDay, monthDayIn, toDay, yearMonthDay } from '../time/index.ts';
import { decimal, type Fraction, isNegative, isZero, least, minus, plus, roundTo, toNumber, zero } from './fraction.ts';
import { Employment, entitlement, LeavePlan, type LeaveYear, leaveYears, monthEntitlement, rate } from './plan.ts';

export const Movement = z.object({
  date: CivilDate,
  kind: z.enum(['taken', 'adjustment']),
  amount: z.number(),
  /** What a reader of the statement is told about it. */
  reason: z.string().optional(),
});
export type Movement = z.infer<typeof Movement>;

export const BalanceInput = z.object({
  person: Employment,
  plan: LeavePlan,
  movements: z.array(Movement),
  asOf: CivilDate,
});
export type BalanceInput = z.infer<typeof BalanceInput>;

export type LineKind = 'accrued' | 'carried' | 'lapsed' | 'adjustment' | 'taken';

/** One line of a statement: what moved the balance, by how much, why, and the balance after it. */
export type StatementLine = { date: CivilDate; kind: LineKind; amount: number; balance: number; reason: string };

export type Balance = { balance: number; expiring: { amount: number; on: CivilDate }[] };
export type Statement = Balance & { lines: StatementLine[] };

type Grant = { on: DayNumber; amount: Fraction; reason: string };

/** Whole accruals of a leave year with the day on which each is given; those after `last` are left out. */
function grantsOf(
  plan: LeavePlan,
  person: Employment,
  year: LeaveYear,
  rates: ReturnType<typeof rate>,
  last: DayNumber,
): Grant[] {
  const joined = toDay(person.joined);
  const left = person.left ? toDay(person.left) : Number.POSITIVE_INFINITY;
  const round = (amount: Fraction) => roundTo(amount, decimal(plan.rounding.step), plan.rounding.mode);
  if (year.first > left || year.next <= joined) return [];
  if (plan.accrual === 'yearly') {
    const on = Math.max(year.first, joined);
    return on > last ? [] : [{ on, amount: round(entitlement(plan, year, rates, 11)), reason: 'for the leave year' }];
  }
  const grants: Grant[] = [];
  let given = zero;
  let total = zero;
  for (let month = 0; month < 12; month++) {
    const first = year.months[month];
    const end = (month === 11 ? year.next : year.months[month + 1]) - 1;
    const on = plan.accrual === 'monthly-in-advance' ? Math.max(first, joined) : Math.min(end, left);
    if (first > left || on > last) break;
    total =
      plan.proration === 'monthly'
        ? plus(total, monthEntitlement(year, rates, month))
        : entitlement(plan, year, rates, month);
    if (end < joined) continue;
    const due = round(total);
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

/** Days inside (first, last] on which a leave year begins, or the day after carry-over lapsed. */
export function yearBreaks(plan: LeavePlan, joined: CivilDate, first: DayNumber, last: DayNumber): DayNumber[] {
  const breaks = new Set<DayNumber>();
  for (const year of leaveYears(plan, joined, last, first)) {
    breaks.add(year.first);
    if (plan.carryOver?.expires) breaks.add(expiryIn(year, plan.carryOver.expires) + 1);
  }
  return [...breaks].filter(day => day > first && day <= last).sort((a, b) => a - b);
}

// On one day: year end, accrual, adjustments, taken, lapse.
const orderOnDay = { 'year end': 0, accrual: 1, adjustment: 2, taken: 3, lapse: 4 } as const;
type Happening =
  | { on: DayNumber; kind: 'year end'; expires: DayNumber | null }
  | { on: DayNumber; kind: 'accrual'; grant: Grant }
  | { on: DayNumber; kind: 'adjustment' | 'taken'; movement: Movement }
  | { on: DayNumber; kind: 'lapse' };

type Scheduled = Extract<Happening, { kind: 'year end' | 'accrual' | 'lapse' }>;

/**
 * What happens to a balance by the plan alone: year ends, accruals and lapses up to and with day `until`.
 * It depends on employment and plan only, so whoever asks often for one person keeps it.
 */
export function planSchedule(plan: LeavePlan, person: Employment, until: DayNumber): readonly Scheduled[] {
  const joined = toDay(person.joined);
  const left = person.left ? toDay(person.left) : Number.POSITIVE_INFINITY;
  const rates = rate(plan, person);
  const all: Scheduled[] = [];
  for (const year of leaveYears(plan, person.joined, until)) {
    const expires = plan.carryOver?.expires ? expiryIn(year, plan.carryOver.expires) : null;
    if (year.first > joined && year.first <= left) {
      all.push({ on: year.first, kind: 'year end', expires });
      if (expires !== null && expires < left) all.push({ on: expires, kind: 'lapse' });
    }
    for (const grant of grantsOf(plan, person, year, rates, until)) all.push({ on: grant.on, kind: 'accrual', grant });
  }
  return all;
}

function happenings(input: BalanceInput, schedule: readonly Scheduled[]): Happening[] {
  const asOf = toDay(input.asOf);
  const joined = toDay(input.person.joined);
  // The lapse of `asOf` itself comes at the end of that day, and is not yet applied.
  const all: Happening[] = schedule.filter(h => (h.kind === 'lapse' ? h.on < asOf : h.on <= asOf));
  if (asOf >= joined) {
    for (const movement of input.movements) {
      const on = Math.max(toDay(movement.date), joined);
      if (on <= asOf) all.push({ on, kind: movement.kind, movement });
    }
  }
  return all.sort((a, b) => a.on - b.on || orderOnDay[a.kind] - orderOnDay[b.kind]);
}

/**
 * Every movement of a balance up to the end of `asOf` (the lapse of that same day not yet applied).
 * What is taken uses carry-over first while it lives, then the year's own, which may go below zero.
 */
export function statement(
  input: BalanceInput,
  schedule: readonly Scheduled[] = planSchedule(input.plan, input.person, toDay(input.asOf)),
): Statement {
  const lines: StatementLine[] = [];
  const left = input.person.left ? toDay(input.person.left) : Number.POSITIVE_INFINITY;
  const max = decimal(input.plan.carryOver?.max ?? 0);
  let own = zero;
  let carry = zero;
  let expires: DayNumber | null = null;
  const say = (on: DayNumber, kind: LineKind, amount: Fraction, reason: string) =>
    lines.push({ date: fromDay(on), kind, amount: toNumber(amount), balance: toNumber(plus(own, carry)), reason });
  const negative = (amount: Fraction): Fraction => ({ top: -amount.top, bottom: amount.bottom });

  for (const happening of happenings(input, schedule)) {
    switch (happening.kind) {
      case 'year end': {
        const rest = plus(own, carry);
        expires = happening.expires;
        if (isNegative(rest)) {
          own = rest;
          carry = zero;
          say(happening.on, 'carried', zero, `${toNumber(rest)} goes on into the new leave year`);
          break;
        }
        const lapsed = minus(rest, least(rest, max));
        carry = least(rest, max);
        own = zero;
        if (!isZero(lapsed)) {
          const reason = input.plan.carryOver
            ? `more than the ${input.plan.carryOver.max} that may be carried over`
            : 'nothing is carried over';
          say(happening.on, 'lapsed', negative(lapsed), reason);
        }
        if (!isZero(carry)) {
          const until = expires !== null ? `, to use by ${dateWords(fromDay(expires))}` : '';
          say(happening.on, 'carried', zero, `${toNumber(carry)} carried over from last leave year${until}`);
        }
        break;
      }
      case 'accrual':
        own = plus(own, happening.grant.amount);
        if (!isZero(happening.grant.amount))
          say(happening.on, 'accrued', happening.grant.amount, happening.grant.reason);
        break;
      case 'adjustment': {
        const amount = decimal(happening.movement.amount);
        own = plus(own, amount);
        say(happening.on, 'adjustment', amount, happening.movement.reason ?? 'adjusted');
        break;
      }
      case 'taken': {
        const amount = decimal(happening.movement.amount);
        const fromCarry = isNegative(amount) ? zero : least(amount, carry);
        carry = minus(carry, fromCarry);
        own = minus(own, minus(amount, fromCarry));
        say(happening.on, 'taken', negative(amount), happening.movement.reason ?? 'taken');
        break;
      }
      case 'lapse': {
        const lapsed = carry;
        carry = zero;
        if (!isZero(lapsed)) say(happening.on, 'lapsed', negative(lapsed), 'carry-over not used in time');
        break;
      }
    }
  }
  const asOf = toDay(input.asOf);
  const open = expires !== null && expires >= asOf && expires < left && !isZero(carry);
  return {
    balance: toNumber(plus(own, carry)),
    expiring: open ? [{ amount: toNumber(carry), on: fromDay(expires as DayNumber) }] : [],
    lines,
  };
}

export function balance(input: BalanceInput): Balance {
  const { balance, expiring } = statement(input);
  return { balance, expiring };
}
