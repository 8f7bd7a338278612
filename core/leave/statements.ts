/** Statements of people, and what a span does to a balance. */
import type { Person, PersonId } from '../people/index.ts';
import { type CivilDate, type DayNumber, fromDay, halfIndex, toDay } from '../time/index.ts';
import { affordable, lastDayOfWindow } from './balances/afford.ts';
import { foldBookings, type Holdings, type Statement, type StatementLine, statement } from './balances/balance.ts';
import { type Course, isPlain } from './balances/course.ts';
import { compare, decimal, toNumber } from './balances/fraction.ts';
import type { Employment, LeavePlan, NamedPlan, Worked } from './balances/plan.ts';
import { type Planned, planSchedule } from './balances/schedule.ts';
import {
  amountOf,
  balanceTypeOf,
  courseFor,
  employmentOf,
  type LeaveBook,
  type LeaveEntry,
  planFor,
  sureOf,
  timeOf,
} from './book.ts';
import { idleDays, missedBy, movedBy, movementsOf } from './movements.ts';
import { type LeaveType, typeOn } from './rules/type.ts';
import { asKnownOn, type LeaveSpan } from './span.ts';

type Kept = { until: number; schedule: readonly Planned[] };
/** Whoever joined on the same day and works the same share earns the same by a plan: it is worked out for all of them at once. */
const schedules = new WeakMap<LeavePlan, Map<string, Kept>>();
const mostSchedules = 20_000;
const keyOf = ({ joined, left, fte }: Employment): string =>
  `${joined} ${left ?? ''}${fte.map(({ from, value }) => ` ${from} ${value}`).join('')}`;
/** Days ahead of today for which what the plan does is worked out at once: most questions end there. */
const ahead = 1096;

const byHours = (plan: LeavePlan): boolean =>
  [plan, ...(plan.later ?? []).map(({ rules }) => rules)].some(({ accrual }) => accrual === 'hours-worked');

/** The types of leave because of which a plan keeps what could not be taken. */
const typesThatKeep = (plan: LeavePlan): string[] =>
  [plan, ...(plan.later ?? []).map(({ rules }) => rules)].flatMap(({ carryOver }) =>
    (carryOver?.kept ?? []).flatMap(({ types }) => types),
  );

/** Minutes that a person is to work, by their pattern less holidays. */
function workedBy(book: LeaveBook, person: Person): Worked {
  const time = timeOf(book, person);
  return (first, last) => time.scheduled(halfIndex(first, 'am'), halfIndex(last, 'pm')).minutes;
}

/** What the plans do to a person's balance, kept for as long as the plan is what it is. */
function scheduleFor(book: LeaveBook, person: Person, course: Course, asOf: number): Kept['schedule'] {
  const idle = idleDays(book, person.id);
  const hours = course.stretches.some(({ plan }) => byHours(plan));
  const keeping = new Set(course.stretches.flatMap(({ plan }) => typesThatKeep(plan)));
  const kept = keeping.size > 0 && book.entries.some(one => one.person === person.id && keeping.has(one.type));
  // What hangs on bookings or on patterns is worked out each time, and what is one person's alone.
  if (idle.length > 0 || hours || kept || !isPlain(course))
    return planSchedule(
      course,
      employmentOf(person, idle),
      asOf,
      hours ? workedBy(book, person) : undefined,
      kept ? missedBy(book, person, course) : undefined,
    );
  const [{ plan }] = course.stretches;
  let ofPlan = schedules.get(plan);
  if (!ofPlan) {
    ofPlan = new Map();
    schedules.set(plan, ofPlan);
  }
  const employment = employmentOf(person);
  const key = keyOf(employment);
  let known = ofPlan.get(key);
  if (!known || known.until < asOf) {
    const until = Math.max(asOf, toDay(book.today) + ahead);
    known = { until, schedule: planSchedule(course, employment, until) };
    if (ofPlan.size >= mostSchedules) ofPlan.clear();
    ofPlan.set(key, known);
  }
  return known.schedule;
}

/** What a balance is worked out from: whose, by which plans, and all that moves it; nothing for people without one. */
export function holdingsOf(
  book: LeaveBook,
  id: PersonId,
  type: LeaveType,
  until: DayNumber,
): (Required<Holdings> & { named: NamedPlan }) | undefined {
  const plan = planFor(book, id, type);
  const person = sureOf(book, id);
  const course = plan && courseFor(book, person, type);
  if (!course) return undefined;
  return {
    person: employmentOf(person, idleDays(book, id)),
    course,
    moved: movementsOf(book, person, type, course, book.entries),
    planned: scheduleFor(book, person, course, until),
    named: plan,
  };
}

export type StatementOf = Statement & { unit: 'days' | 'hours'; plan: string };

/** The statement of a leave type that takes from the plan; nothing for people without a plan. */
export function statementOf(
  book: LeaveBook,
  id: PersonId,
  type: LeaveType,
  asOf: CivilDate,
  entries: readonly LeaveEntry[] = book.entries.filter(e => e.state === 'booked'),
): StatementOf | undefined {
  const person = sureOf(book, id);
  // Whoever is on no plan by then keeps what the one of today has given.
  const plan = planFor(book, id, type, asOf) ?? planFor(book, id, type);
  const course = plan && courseFor(book, person, type);
  if (!course) return undefined;
  const worked = statement(
    {
      person: employmentOf(person),
      course,
      moved: movementsOf(book, person, type, course, entries),
      planned: scheduleFor(book, person, course, toDay(asOf)),
    },
    asOf,
  );
  return { ...worked, lines: foldBookings(worked.lines, book.today), unit: plan.unit, plan: plan.name };
}

/**
 * A statement up to today and what is ahead, as one. Each line names its unit where not all of them are in one: amounts of days
 * and of hours never stand beside one another as if they were alike.
 */
export function linesThrough(statement: StatementOf, ahead: StatementOf, today: CivilDate): StatementLine[] {
  const own = (of: StatementOf) => (line: StatementLine) => ({ ...line, unit: line.unit ?? of.unit });
  const lines = [
    ...statement.lines.map(own(statement)),
    ...ahead.lines.filter(line => line.date > today).map(own(ahead)),
  ];
  const isMixed = lines.some(line => line.unit !== lines[0]?.unit);
  return isMixed ? lines : lines.map(({ unit: _, ...line }) => line);
}

/** What open requests hold of a leave type from today on. */
export function heldOf(book: LeaveBook, id: PersonId, type: LeaveType, except?: string): number {
  return book.entries
    .filter(e => e.person === id && e.state === 'held' && e.request !== except)
    .reduce((sum, e) => {
      const own = book.types.find(one => one.id === e.type);
      const isOfIt = own && balanceTypeOf(book, own, e.span.from.date)?.id === type.id;
      return isOfIt ? sum + (amountOf(book, id, own, e.span)?.amount ?? 0) : sum;
    }, 0);
}

/** What a span does to the balance that it takes from. */
export type SpanEffect = {
  /** What the span takes, whether it fits, and what its longest run from the first day on takes that would fit. */
  amount: number;
  fits: boolean;
  free: number;
  /**
   * The lowest balance on a day of leave from the span's first day on, or at the end of its last, with everything booked,
   * held and the span taken.
   */
  after: number;
  /** The lowest balance on any day from its first to the end of the next leave year. */
  lowest: { balance: number; on: CivilDate };
  unit: 'days' | 'hours';
};

/**
 * What a span does to its balance; nothing where it takes from none. Later bookings count too: a span that fits today but
 * would leave too little for leave already booked does not fit.
 */
export function spanEffect(
  book: LeaveBook,
  id: PersonId,
  type: LeaveType,
  given: LeaveSpan,
  request?: string,
): SpanEffect | undefined {
  const span = asKnownOn(given, book.today);
  const rules = typeOn(type, span.from.date);
  const from = balanceTypeOf(book, type, span.from.date);
  const plan = from && planFor(book, id, from, span.from.date);
  const person = sureOf(book, id);
  const course = plan && courseFor(book, person, from);
  if (!course) return undefined;
  const others = book.entries.filter(e => e.request !== request);
  const asked: LeaveEntry = { request: request ?? 'new', person: id, type: type.id, span, state: 'held' };
  const [first, last] = [toDay(span.from.date), toDay(span.to.date)];
  const end = lastDayOfWindow(course, person.joined, last);
  const moved = movementsOf(book, person, from, course, others);
  const days = movedBy(book, person, rules, course, others, asked);
  const worked = affordable(
    { person: employmentOf(person), course, planned: scheduleFor(book, person, course, end), moved },
    { first, last, days, overdraft: decimal(rules.overdraft) },
  );
  let after = worked.after;
  for (const { on, kind } of [...moved, ...days]) {
    const balance = kind === 'taken' ? worked.balances.get(on) : undefined;
    if (balance && compare(balance, after) < 0) after = balance;
  }
  const { amount, fits, free, lowest } = worked;
  return {
    amount: toNumber(amount),
    fits,
    free: toNumber(free),
    after: toNumber(after),
    lowest: { balance: toNumber(lowest.balance), on: fromDay(lowest.on) },
    unit: plan.unit,
  };
}

export type BalanceAhead = SpanEffect & {
  /** Balance today, as booked, and what open requests hold of it. */
  now: number;
  held: number;
  expiring: Statement['expiring'];
  /** Every movement up to the end of the span, with what is held and the span itself. */
  lines: Statement['lines'];
};

/** The balance before and after a span, with all that makes it up. */
export function balanceAhead(
  book: LeaveBook,
  id: PersonId,
  type: LeaveType,
  given: LeaveSpan,
  request?: string,
): BalanceAhead | undefined {
  const span = asKnownOn(given, book.today);
  const effect = spanEffect(book, id, type, span, request);
  const from = balanceTypeOf(book, type, span.from.date);
  const now = effect && from && statementOf(book, id, from, book.today);
  if (!effect || !now) return undefined;
  const asked: LeaveEntry = { request: request ?? 'new', person: id, type: type.id, span, state: 'held' };
  const until = fromDay(Math.max(toDay(span.to.date), toDay(book.today)));
  const ahead = statementOf(book, id, from, until, [...book.entries.filter(e => e.request !== request), asked]);
  return {
    ...effect,
    now: now.balance,
    held: heldOf(book, id, from, request),
    expiring: now.expiring,
    lines: ahead?.lines ?? [],
  };
}
