/**
 * The leave book: everything known about the leave of some people, and the questions a request asks of it.
 * A pending request holds its amount: what is free is the balance less what is held.
 */
import { z } from 'zod';
import { type DirectoryIndex, type Person, type PersonId, recordOn, teamOf, workingTimeOf } from '../people/index.ts';
import {
  addDays,
  type CivilDate,
  type DayNumber,
  fromDay,
  type Half,
  halfIndex,
  toDay,
  type WorkingTime,
} from '../time/index.ts';
import { affordable, inUnit, lastDayOfWindow } from './afford.ts';
import { foldBookings, type Moved, planSchedule, type Statement, statement } from './balance.ts';
import {
  Counting,
  countDays,
  countHalves,
  countTimed,
  type DayReason,
  defaultPortion,
  explainLeave,
  Portion,
} from './counting.ts';
import { isBookedBefore } from './elsewhere.ts';
import { compare, decimal, toNumber } from './fraction.ts';
import { type Employment, type LeavePlan, LeavePlan as LeavePlanSchema } from './plan.ts';
import { type HalfSpan, halvesOf, isTimed, type LeaveSpan, sharedDays, takesPart } from './span.ts';

export const LeaveType = z.object({
  id: z.string().min(1),
  name: z.string().min(1),
  counting: Counting,
  dayMinutes: z.number().int().positive().multipleOf(2),
  /** From the person's plan, from time earned (adjustments alone, in hours), or from no balance at all. */
  takesFrom: z.enum(['plan', 'earned', 'nothing']),
  /** How far below zero a request may take the balance. */
  overdraft: z.number().nonnegative(),
  /** The smallest portion, in days, when it is asked for with times; half a day where nothing is said. */
  portion: Portion.optional(),
  /** Whether it may be asked for with times. */
  times: z.boolean().optional(),
  /** The longest span in calendar days; two years where nothing is said. */
  longest: z.number().int().min(1).max(3660).optional(),
  /** How many days back it may be asked for; not at all where nothing is said. */
  daysBack: z.number().int().min(0).max(3660).optional(),
  /** Whom to turn to for what lies further back; HR operations where nothing is said. */
  turnTo: z.string().min(1).max(200).optional(),
  /** Inside booked leave of another type: refused where nothing is said, or the days taken there are given back. */
  insideLeave: z.enum(['refused', 'gives back']).optional(),
});
export type LeaveType = z.infer<typeof LeaveType>;

/** The longest span, in calendar days, where the type says nothing: two years. */
export const longestSpan = 731;

export const NamedPlan = z.object({
  id: z.string().min(1),
  name: z.string().min(1),
  unit: z.enum(['days', 'hours']),
  rules: LeavePlanSchema,
});
export type NamedPlan = z.infer<typeof NamedPlan>;

/** A stretch of leave held by an open request or booked by an approved one. */
export type LeaveEntry = {
  readonly request: string;
  readonly person: PersonId;
  readonly type: string;
  readonly span: LeaveSpan;
  readonly state: 'held' | 'booked';
  /** Why HR booked or changed it, where HR did. */
  readonly reason?: string | null;
};

export type Adjustment = {
  readonly person: PersonId;
  readonly type: string;
  readonly date: CivilDate;
  readonly amount: number;
  readonly reason: string;
};

export type LeaveBook = {
  readonly index: DirectoryIndex;
  readonly types: readonly LeaveType[];
  readonly plans: readonly NamedPlan[];
  /** Entries of the people in question and of their teams. */
  readonly entries: readonly LeaveEntry[];
  readonly adjustments: readonly Adjustment[];
  readonly today: CivilDate;
  /** Each person is asked for a few spans only, as where very many are: days are walked, and no sums are kept. */
  readonly once?: true;
};

/** What a span takes: in the unit of the balance, and in days and minutes as they are counted. */
export type Amount = { amount: number; unit: 'days' | 'hours'; days: number; minutes: number };

const reach = 800;
const timeCache = new WeakMap<DirectoryIndex, Map<PersonId, WorkingTime>>();

/** Working time of a person around the book's day; kept for as long as the directory is. */
export function timeOf(book: LeaveBook, person: Person): WorkingTime {
  let ofIndex = timeCache.get(book.index);
  if (!ofIndex) {
    ofIndex = new Map();
    timeCache.set(book.index, ofIndex);
  }
  let time = ofIndex.get(person.id);
  if (!time) {
    const today = toDay(book.today);
    const window = book.once ? { first: today, last: today } : { first: today - reach, last: today + reach };
    time = workingTimeOf(book.index, person, window);
    ofIndex.set(person.id, time);
  }
  return time;
}

export const sureOf = (book: LeaveBook, id: PersonId): Person => {
  const person = book.index.person(id);
  if (!person) throw new Error(`person ${id} is not in the directory`);
  return person;
};

export const leaveType = (book: LeaveBook, type: string): LeaveType | undefined =>
  book.types.find(t => t.id === type || t.name === type);

export function planOf(book: LeaveBook, id: PersonId, day: CivilDate = book.today): NamedPlan | undefined {
  const { plan } = recordOn(sureOf(book, id), day);
  return book.plans.find(p => p.id === plan);
}

/** Time earned: nothing accrues by itself and nothing lapses. */
const earnedTime: NamedPlan = {
  id: 'earned',
  name: 'Time earned',
  unit: 'hours',
  rules: {
    yearStart: '01-01',
    perYear: [],
    accrual: 'yearly',
    proration: 'daily',
    rounding: { step: 0.25, mode: 'nearest' },
    carryOver: { max: 1_000_000, expires: null },
  },
};

/** The plan that a leave type takes from, for a person; nothing when it takes from no balance. */
function planFor(book: LeaveBook, id: PersonId, type: LeaveType): NamedPlan | undefined {
  if (type.takesFrom === 'nothing') return undefined;
  return type.takesFrom === 'earned' ? earnedTime : planOf(book, id);
}

/** What a span takes; nothing when the span ends before it starts. */
export function amountOf(book: LeaveBook, id: PersonId, type: LeaveType, span: LeaveSpan): Amount | undefined {
  const time = timeOf(book, sureOf(book, id));
  const unit = planFor(book, id, type)?.unit ?? 'days';
  const counted = isTimed(span)
    ? countTimed(time, span, type.portion ?? defaultPortion)
    : countHalves(time, type, span);
  if ('error' in counted) return undefined;
  const { days, minutes } = counted;
  return { amount: unit === 'hours' ? minutes / 60 : days, unit, days, minutes };
}

/** Each day of a span with what it counts and why. */
export const explainAmount = (book: LeaveBook, id: PersonId, type: LeaveType, span: LeaveSpan): DayReason[] =>
  explainLeave(timeOf(book, sureOf(book, id)), type, span);

export function employmentOf(person: Person): Employment {
  return {
    joined: person.joined,
    left: person.left,
    fte: person.records.map((r, i) => ({ from: i === 0 ? person.joined : r.from, value: r.fte })),
  };
}

/** Booked sickness of a person, or what else gives back the leave that it falls into. */
function givingBack(book: LeaveBook, entries: readonly LeaveEntry[], entry: LeaveEntry): LeaveEntry[] {
  return entries.filter(
    other =>
      other.person === entry.person &&
      other.state === 'booked' &&
      other.type !== entry.type &&
      book.types.find(t => t.id === other.type)?.insideLeave === 'gives back',
  );
}

/** What an entry takes of its balance, day by day: each day of it is a movement on that day. */
function movedBy(
  book: LeaveBook,
  person: Person,
  type: LeaveType,
  unit: 'days' | 'hours',
  entries: readonly LeaveEntry[],
  entry: LeaveEntry,
): Moved[] {
  const time = timeOf(book, person);
  const back = givingBack(book, entries, entry);
  const given = new Set<string>();
  const isGivenBack = (day: DayNumber, half: Half): boolean => {
    const part = time.parts(day)[half];
    const by = part && back.find(other => takesPart(other.span, halfIndex(day, half), part));
    if (by) given.add(by.request);
    return by !== undefined && by !== null;
  };
  const counted = countDays(time, type, entry.span, isGivenBack);
  const { request, state } = entry;
  const how = state === 'held' ? 'asked for' : 'taken';
  const where =
    request === 'new' ? 'here' : isBookedBefore(request) ? 'as decided elsewhere' : `with request ${request}`;
  const less = given.size > 0 ? `, less the days given back by ${[...given].join(', ')}` : '';
  const reason = `${how} ${where}${less}${entry.reason ? `: ${entry.reason}` : ''}`;
  return inUnit(counted, unit)
    .filter(({ amount }) => amount.top > 0n)
    .map(({ on, amount }) => ({ on, kind: 'taken', amount, reason, booking: { request, state } }));
}

function movementsOf(
  book: LeaveBook,
  person: Person,
  type: LeaveType,
  plan: NamedPlan,
  entries: readonly LeaveEntry[],
): Moved[] {
  const moved: Moved[] = book.adjustments
    .filter(a => a.person === person.id && a.type === type.id)
    .map(a => ({ on: toDay(a.date), kind: 'adjustment', amount: decimal(a.amount), reason: a.reason }));
  for (const entry of entries) {
    if (entry.person === person.id && entry.type === type.id)
      moved.push(...movedBy(book, person, type, plan.unit, entries, entry));
  }
  return moved;
}

type Kept = { until: number; schedule: ReturnType<typeof planSchedule> };
const schedules = new WeakMap<Person, WeakMap<LeavePlan, Kept>>();
/** Days ahead of today for which what the plan does is worked out at once: most questions end there. */
const ahead = 1096;

/** The plan's part of a person's statements, kept for as long as the person's record is. */
function scheduleFor(book: LeaveBook, person: Person, plan: NamedPlan, asOf: number): Kept['schedule'] {
  let ofPerson = schedules.get(person);
  if (!ofPerson) {
    ofPerson = new WeakMap();
    schedules.set(person, ofPerson);
  }
  let kept = ofPerson.get(plan.rules);
  if (!kept || kept.until < asOf) {
    const until = Math.max(asOf, toDay(book.today) + ahead);
    kept = { until, schedule: planSchedule(plan.rules, employmentOf(person), until) };
    ofPerson.set(plan.rules, kept);
  }
  return kept.schedule;
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
  const plan = planFor(book, id, type);
  if (!plan) return undefined;
  const person = sureOf(book, id);
  const worked = statement(
    {
      person: employmentOf(person),
      plan: plan.rules,
      moved: movementsOf(book, person, type, plan, entries),
      planned: scheduleFor(book, person, plan, toDay(asOf)),
    },
    asOf,
  );
  return { ...worked, lines: foldBookings(worked.lines, book.today), unit: plan.unit, plan: plan.name };
}

/** What open requests hold of a leave type from today on. */
export function heldOf(book: LeaveBook, id: PersonId, type: LeaveType, except?: string): number {
  return book.entries
    .filter(e => e.person === id && e.type === type.id && e.state === 'held' && e.request !== except)
    .reduce((sum, e) => sum + (amountOf(book, id, type, e.span)?.amount ?? 0), 0);
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
  span: LeaveSpan,
  request?: string,
): SpanEffect | undefined {
  const plan = planFor(book, id, type);
  if (!plan) return undefined;
  const person = sureOf(book, id);
  const others = book.entries.filter(e => e.request !== request);
  const asked: LeaveEntry = { request: request ?? 'new', person: id, type: type.id, span, state: 'held' };
  const [first, last] = [toDay(span.from.date), toDay(span.to.date)];
  const end = lastDayOfWindow(plan.rules, person.joined, last);
  const moved = movementsOf(book, person, type, plan, others);
  const days = movedBy(book, person, type, plan.unit, others, asked);
  const worked = affordable(
    { person: employmentOf(person), plan: plan.rules, planned: scheduleFor(book, person, plan, end), moved },
    { first, last, days, overdraft: decimal(type.overdraft) },
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
  span: LeaveSpan,
  request?: string,
): BalanceAhead | undefined {
  const effect = spanEffect(book, id, type, span, request);
  const now = effect && statementOf(book, id, type, book.today);
  if (!effect || !now) return undefined;
  const asked: LeaveEntry = { request: request ?? 'new', person: id, type: type.id, span, state: 'held' };
  const until = fromDay(Math.max(toDay(span.to.date), toDay(book.today)));
  const ahead = statementOf(book, id, type, until, [...book.entries.filter(e => e.request !== request), asked]);
  return {
    ...effect,
    now: now.balance,
    held: heldOf(book, id, type, request),
    expiring: now.expiring,
    lines: ahead?.lines ?? [],
  };
}

/** The days of a span on which a person is away from scheduled work, held or booked. */
export function awayDays(book: LeaveBook, id: PersonId, span: LeaveSpan): Set<DayNumber> {
  const days = new Set<DayNumber>();
  const person = book.index.person(id);
  if (!person) return days;
  for (const entry of book.entries) {
    if (entry.person !== id || entry.span.to.date < addDays(span.from.date, -1) || entry.span.from.date > span.to.date)
      continue;
    for (const day of sharedDays(timeOf(book, person), entry.span, span)) days.add(day);
  }
  return days;
}

/** People of the team away, held or booked, from scheduled work in the span; the person not counted. */
export function othersAway(book: LeaveBook, id: PersonId, span: LeaveSpan): Person[] {
  const team = teamOf(book.index, id, span.from.date);
  return team.filter(p => p.id !== id && awayDays(book, p.id, span).size > 0);
}

/** Whole days on which a person is away from `from` on, for routing: spans that cover the day's both halves. */
export function awayOf(entries: readonly LeaveEntry[]): { person: PersonId; from: CivilDate; to: CivilDate }[] {
  return entries
    .filter(e => e.state === 'booked' && !isTimed(e.span))
    .flatMap(e => {
      const { first, last } = halvesOf(e.span as HalfSpan);
      const from = Math.ceil(first / 2);
      const to = Math.floor((last - 1) / 2);
      return to >= from ? [{ person: e.person, from: fromDay(from), to: fromDay(to) }] : [];
    });
}

export const daysOfNotice = (book: LeaveBook, span: LeaveSpan): number => toDay(span.from.date) - toDay(book.today);
