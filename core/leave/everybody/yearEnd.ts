/**
 * The end of a leave year: what is carried and what lapses when it turns, and a statement that stays as it was when the year
 * was closed. What is corrected afterwards stands in the open year, so that closing changes no balance.
 */
import type { PersonId } from '../../people/index.ts';
import { type CivilDate, fromDay, toDay } from '../../time/index.ts';
import type { StatementLine } from '../balances/balance.ts';
import { latestTurn, stretchOn } from '../balances/course.ts';
import { decimal, isNegative, least, minus, toNumber } from '../balances/fraction.ts';
import { rulesOn } from '../balances/plan.ts';
import { courseFor, type LeaveBook, sureOf } from '../book.ts';
import type { TakenDay } from '../movements.ts';
import { type LeaveType, typeOn } from '../rules/type.ts';
import { statementOf } from '../statements.ts';

export type YearEnd = {
  /** The last day of the leave year. */
  readonly on: CivilDate;
  readonly unit: 'days' | 'hours';
  readonly plan: string;
  /** The balance at the end of that day, and what of it is carried and lapses when the year turns. */
  readonly balance: number;
  readonly carried: number;
  readonly lapses: number;
  readonly lines: readonly StatementLine[];
};

/** The latest leave year of a person that ended on or before a day; nothing where none did, or where nothing is earned. */
export function yearEndOf(book: LeaveBook, id: PersonId, type: LeaveType, until: CivilDate): YearEnd | undefined {
  const person = sureOf(book, id);
  const course = typeOn(type, until).takesFrom === 'plan' ? courseFor(book, person, type) : undefined;
  const next = course && latestTurn(course, person.joined, toDay(until) + 1);
  if (!course || !next) return undefined;
  const on = fromDay(next - 1);
  const found = statementOf(book, id, type, on);
  if (!found) return undefined;
  const { carryOver } = rulesOn(stretchOn(course, next).plan, next);
  const rest = decimal(found.balance);
  // Whoever has left keeps what there was: no year turns after it.
  const turns = person.left === null || fromDay(next) <= person.left;
  const carried = !turns || isNegative(rest) ? rest : least(rest, decimal(carryOver?.max ?? 0));
  return {
    on,
    unit: found.unit,
    plan: found.plan,
    balance: found.balance,
    carried: toNumber(carried),
    lapses: toNumber(minus(rest, carried)),
    lines: found.lines,
  };
}

/** A leave year as it stood when it was closed. */
export type ClosedYear = {
  readonly on: CivilDate;
  readonly balance: number;
  readonly lines: readonly StatementLine[];
};

const exact = (amount: number): number => Math.round(amount * 1e6) / 1e6;

/**
 * @param lines of a statement, as counted now
 * @param closed the last year that was closed
 * @returns the lines of the closed year as they were, what was corrected since on the first day after it, and the lines after
 */
export function withClosed(lines: readonly StatementLine[], closed: ClosedYear | null): StatementLine[] {
  if (!closed) return [...lines];
  // A booking over the turn of the year is one line; each of its days stands on its own side.
  const apart = lines.flatMap((line): StatementLine[] => {
    const inside = line.days?.filter(day => day.date <= closed.on) ?? [];
    if (!line.days || inside.length === 0 || inside.length === line.days.length) return [line];
    const after = line.days.filter(day => day.date > closed.on);
    const part = (days: typeof after, balance: number): StatementLine => ({
      ...line,
      days,
      date: days[0]?.date ?? line.date,
      until: days.at(-1)?.date ?? line.date,
      amount: exact(days.reduce((sum, day) => sum + day.amount, 0)),
      balance,
    });
    const own = part(after, line.balance);
    return [part(inside, exact(line.balance - own.amount)), own];
  });
  const now = apart.filter(line => line.date <= closed.on).at(-1)?.balance ?? 0;
  const after = apart.filter(line => line.date > closed.on);
  const difference = exact(now - closed.balance);
  const first = fromDay(toDay(closed.on) + 1);
  const restated: StatementLine = {
    date: first,
    kind: 'restated',
    amount: difference,
    balance: now,
    reason: 'corrected after the leave year was closed',
  };
  return [...closed.lines, ...(difference === 0 ? [] : [restated]), ...after];
}

/** A day of leave as pay is told of it; `before` is what was told of the same day earlier, where that was something else. */
export type PayLine = TakenDay & {
  readonly person: PersonId;
  readonly before: { readonly days: number; readonly minutes: number } | null;
};

/**
 * What pay is told of a period, and what has become of days that it was told of before.
 * @param now every day taken from the first day that was ever told, by person
 * @param told what pay was told of each day, oldest first
 * @param toldUntil the last day that pay was told of; nothing the first time
 */
export function payLines(
  now: readonly (TakenDay & { readonly person: PersonId })[],
  told: readonly Omit<PayLine, 'before'>[],
  period: { readonly from: CivilDate; readonly to: CivilDate },
  toldUntil: CivilDate | null,
): PayLine[] {
  const keyOf = ({ person, type, date }: Pick<PayLine, 'person' | 'type' | 'date'>) => `${date} ${person} ${type}`;
  const last = new Map(told.map(line => [keyOf(line), line]));
  const current = new Set(now.map(keyOf));
  const found: PayLine[] = [];
  for (const line of now) {
    const before = last.get(keyOf(line));
    const isIn = period.from <= line.date && line.date <= period.to;
    const wasTold = toldUntil !== null && line.date <= toldUntil;
    const same =
      before !== undefined && before.days === line.days && before.minutes === line.minutes && before.code === line.code;
    // What was told as it is now is told once.
    if (same || (!isIn && !wasTold)) continue;
    const isLate = before !== undefined || (wasTold && !isIn);
    found.push({ ...line, before: isLate ? { days: before?.days ?? 0, minutes: before?.minutes ?? 0 } : null });
  }
  // What was told and is no more.
  for (const [key, { person, type, date, days, minutes }] of last) {
    if (current.has(key) || (days === 0 && minutes === 0)) continue;
    found.push({ person, type, date, days: 0, minutes: 0, before: { days, minutes } });
  }
  return found.sort((a, b) => (keyOf(a) < keyOf(b) ? -1 : 1));
}
