/**
 * The leave book: everything known about the leave of some people, and the questions a request asks of it.
 * A pending request holds its amount: what is free is the balance less what is held.
 */
import { z } from 'zod';
import { type DirectoryIndex, type Person, type PersonId, recordOn, workingTimeOf } from '../people/index.ts';
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
import { foldBookings, type Holdings, type Moved, planSchedule, type Statement, statement } from './balance.ts';
import {
  countDays,
  countHalves,
  countTimed,
  type DayCount,
  type DayReason,
  defaultPortion,
  explainLeave,
} from './counting.ts';
import { isBookedBefore } from './elsewhere.ts';
import { compare, decimal, type Fraction, plus, toNumber, zero } from './fraction.ts';
import { type Employment, type LeavePlan, LeavePlan as LeavePlanSchema, type Worked } from './plan.ts';
import { type LeastPresence, type LeaveType, type LeaveTypeRules, typeOn } from './rules/type.ts';
import { isTimed, type LeaveSpan, takesPart } from './span.ts';

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

/** HR lets leave of somebody pass that a limit would stop, with a reason. */
export type Pass = {
  readonly id: number;
  readonly person: PersonId;
  readonly type: string;
  /** The days that it is for, both included. */
  readonly from: CivilDate;
  readonly to: CivilDate;
  readonly by: PersonId;
  readonly reason: string;
};

export type LeaveBook = {
  readonly index: DirectoryIndex;
  readonly types: readonly LeaveType[];
  readonly plans: readonly NamedPlan[];
  /** Entries of the people in question and of their teams. */
  readonly entries: readonly LeaveEntry[];
  readonly adjustments: readonly Adjustment[];
  /** How many are needed where; nowhere any where nothing is said. */
  readonly presence?: readonly LeastPresence[];
  readonly passes?: readonly Pass[];
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

/** The type whose balance leave takes from that begins on a day: its own, another's, or none. */
export function balanceTypeOf(book: LeaveBook, type: LeaveType, day: CivilDate): LeaveType | undefined {
  const { takesFrom, balanceOf } = typeOn(type, day);
  if (takesFrom === 'nothing') return undefined;
  if (takesFrom !== 'other') return type;
  const other = book.types.find(one => one.id === balanceOf);
  // One step and no further: a type that takes from a third has no balance to give from.
  return other && ['plan', 'earned'].includes(typeOn(other, day).takesFrom) ? other : undefined;
}

/** The plan of a leave type's own balance, for a person; nothing when it has none. */
function planFor(book: LeaveBook, id: PersonId, type: LeaveType, day: CivilDate = book.today): NamedPlan | undefined {
  const { takesFrom } = typeOn(type, day);
  if (takesFrom === 'nothing' || takesFrom === 'other') return undefined;
  return takesFrom === 'earned' ? earnedTime : planOf(book, id);
}

/** What a span takes; nothing when the span ends before it starts. */
export function amountOf(book: LeaveBook, id: PersonId, type: LeaveType, span: LeaveSpan): Amount | undefined {
  const time = timeOf(book, sureOf(book, id));
  const rules = typeOn(type, span.from.date);
  const from = balanceTypeOf(book, type, span.from.date);
  const unit = (from && planFor(book, id, from, span.from.date)?.unit) ?? 'days';
  const counted = isTimed(span)
    ? countTimed(time, span, rules.portion ?? defaultPortion)
    : countHalves(time, rules, span);
  if ('error' in counted) return undefined;
  const { days, minutes } = counted;
  return { amount: unit === 'hours' ? minutes / 60 : days, unit, days, minutes };
}

/** Each day of a span with what it counts and why. */
export const explainAmount = (book: LeaveBook, id: PersonId, type: LeaveType, span: LeaveSpan): DayReason[] =>
  explainLeave(timeOf(book, sureOf(book, id)), typeOn(type, span.from.date), span);

/** @param idle days of long leave on which nothing is earned */
export function employmentOf(person: Person, idle: Employment['idle'] = []): Employment {
  return {
    ...(idle.length > 0 ? { idle } : {}),
    joined: person.joined,
    left: person.left,
    fte: person.records.map((r, i) => ({ from: i === 0 ? person.joined : r.from, value: r.fte })),
  };
}

/** What the type of an entry says on its first day. */
function rulesOf(book: LeaveBook, { type, span }: Pick<LeaveEntry, 'type' | 'span'>): LeaveTypeRules | undefined {
  const found = book.types.find(one => one.id === type);
  return found && typeOn(found, span.from.date);
}

/** Days of booked leave, from the one after so many of it on, on which nothing is earned. */
function idleDays(book: LeaveBook, person: PersonId): NonNullable<Employment['idle']> {
  return book.entries.flatMap(entry => {
    if (entry.person !== person || entry.state !== 'booked') return [];
    const earnsUntil = rulesOf(book, entry)?.earnsUntil;
    const from = earnsUntil === undefined ? null : addDays(entry.span.from.date, earnsUntil);
    return from !== null && from <= entry.span.to.date ? [{ from, to: entry.span.to.date }] : [];
  });
}

/** Booked sickness of a person, or what else gives back the leave that it falls into. */
function givingBack(book: LeaveBook, entries: readonly LeaveEntry[], entry: LeaveEntry): LeaveEntry[] {
  const first = addDays(entry.span.from.date, -1);
  return entries.filter(
    other =>
      other.person === entry.person &&
      other.state === 'booked' &&
      other.type !== entry.type &&
      // A night that began the day before is part of the span too.
      first <= other.span.to.date &&
      other.span.from.date <= entry.span.to.date &&
      rulesOf(book, other)?.insideLeave === 'gives back',
  );
}

/** What each day of an entry counts, less what sickness and the like give back, and by which requests. */
function countedOf(
  book: LeaveBook,
  person: Person,
  rules: LeaveTypeRules,
  entries: readonly LeaveEntry[],
  entry: LeaveEntry,
): { counted: DayCount[]; given: ReadonlySet<string> } {
  const time = timeOf(book, person);
  const back = givingBack(book, entries, entry);
  const given = new Set<string>();
  const isGivenBack = (day: DayNumber, half: Half): boolean => {
    const part = time.parts(day)[half];
    const by = part && back.find(other => takesPart(other.span, halfIndex(day, half), part));
    if (by) given.add(by.request);
    return by !== undefined && by !== null;
  };
  return { counted: countDays(time, rules, entry.span, back.length > 0 ? isGivenBack : undefined), given };
}

/** What somebody took on a day of one kind of leave, as pay is told: days as they are counted, and minutes. */
export type TakenDay = {
  readonly type: string;
  readonly date: CivilDate;
  readonly days: number;
  readonly minutes: number;
};

/** Every day of booked leave of a person between two days, both included, by day and kind. */
export function takenDays(book: LeaveBook, id: PersonId, from: CivilDate, to: CivilDate): TakenDay[] {
  const person = sureOf(book, id);
  const sums = new Map<string, { type: string; date: CivilDate; days: Fraction; minutes: number }>();
  for (const entry of book.entries) {
    if (entry.person !== id || entry.state !== 'booked' || entry.span.to.date < from || entry.span.from.date > to)
      continue;
    const rules = rulesOf(book, entry);
    if (!rules) continue;
    for (const { day, days, minutes } of countedOf(book, person, rules, book.entries, entry).counted) {
      const date = fromDay(day);
      if (date < from || date > to) continue;
      const key = `${date} ${entry.type}`;
      const known = sums.get(key) ?? { type: entry.type, date, days: zero, minutes: 0 };
      sums.set(key, { ...known, days: plus(known.days, days), minutes: known.minutes + minutes });
    }
  }
  return [...sums.values()]
    .map(({ days, ...one }) => ({ ...one, days: toNumber(days) }))
    .sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : a.type < b.type ? -1 : 1));
}

/** What an entry takes of its balance, day by day: each day of it is a movement on that day. */
function movedBy(
  book: LeaveBook,
  person: Person,
  rules: LeaveTypeRules,
  unit: 'days' | 'hours',
  entries: readonly LeaveEntry[],
  entry: LeaveEntry,
): Moved[] {
  const { counted, given } = countedOf(book, person, rules, entries, entry);
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
    if (entry.person !== person.id) continue;
    const own = book.types.find(one => one.id === entry.type);
    if (own && balanceTypeOf(book, own, entry.span.from.date)?.id === type.id)
      moved.push(...movedBy(book, person, typeOn(own, entry.span.from.date), plan.unit, entries, entry));
  }
  return moved;
}

type Kept = { until: number; schedule: ReturnType<typeof planSchedule> };
const schedules = new WeakMap<Person, WeakMap<LeavePlan, Kept>>();
/** Days ahead of today for which what the plan does is worked out at once: most questions end there. */
const ahead = 1096;

const byHours = (plan: LeavePlan): boolean =>
  [plan, ...(plan.later ?? []).map(({ rules }) => rules)].some(({ accrual }) => accrual === 'hours-worked');

/** Minutes that a person is to work, by their pattern less holidays. */
function workedBy(book: LeaveBook, person: Person): Worked {
  const time = timeOf(book, person);
  return (first, last) => time.scheduled(halfIndex(first, 'am'), halfIndex(last, 'pm')).minutes;
}

/** The plan's part of a person's statements, kept for as long as the person's record is. */
function scheduleFor(book: LeaveBook, person: Person, plan: NamedPlan, asOf: number): Kept['schedule'] {
  const idle = idleDays(book, person.id);
  const hours = byHours(plan.rules);
  // What hangs on bookings or on patterns is worked out each time: neither is part of the person's record.
  if (idle.length > 0 || hours)
    return planSchedule(plan.rules, employmentOf(person, idle), asOf, hours ? workedBy(book, person) : undefined);
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

/** What a balance is worked out from: whose, by which plan, and all that moves it; nothing for people without one. */
export function holdingsOf(
  book: LeaveBook,
  id: PersonId,
  type: LeaveType,
  until: DayNumber,
): (Required<Holdings> & { named: NamedPlan }) | undefined {
  const plan = planFor(book, id, type);
  if (!plan) return undefined;
  const person = sureOf(book, id);
  return {
    person: employmentOf(person, idleDays(book, id)),
    plan: plan.rules,
    moved: movementsOf(book, person, type, plan, book.entries),
    planned: scheduleFor(book, person, plan, until),
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
  span: LeaveSpan,
  request?: string,
): SpanEffect | undefined {
  const rules = typeOn(type, span.from.date);
  const from = balanceTypeOf(book, type, span.from.date);
  const plan = from && planFor(book, id, from, span.from.date);
  if (!from || !plan) return undefined;
  const person = sureOf(book, id);
  const others = book.entries.filter(e => e.request !== request);
  const asked: LeaveEntry = { request: request ?? 'new', person: id, type: type.id, span, state: 'held' };
  const [first, last] = [toDay(span.from.date), toDay(span.to.date)];
  const end = lastDayOfWindow(plan.rules, person.joined, last);
  const moved = movementsOf(book, person, from, plan, others);
  const days = movedBy(book, person, rules, plan.unit, others, asked);
  const worked = affordable(
    { person: employmentOf(person), plan: plan.rules, planned: scheduleFor(book, person, plan, end), moved },
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
  span: LeaveSpan,
  request?: string,
): BalanceAhead | undefined {
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
