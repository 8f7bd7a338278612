/**
 * The leave book: everything known about the leave of some people, and the questions a request asks of it.
 * A pending request holds its amount: what is free is the balance less what is held.
 */
import { z } from 'zod';
import { type DirectoryIndex, type Person, type PersonId, recordOn, teamOf, workingTimeOf } from '../people/index.ts';
import {
  amountOfUnit,
  amountWords,
  type CivilDate,
  dateWords,
  fromDay,
  rangeWords,
  toDay,
  type WorkingTime,
} from '../time/index.ts';
import { type Movement, planSchedule, type Statement, statement, yearBreaks } from './balance.ts';
import { Counting, countHalves, countTimed, type DayReason, explainLeave } from './counting.ts';
import { type Employment, type LeavePlan, LeavePlan as LeavePlanSchema } from './plan.ts';
import { endsBeforeItStarts, type HalfSpan, halvesOf, isTimed, type LeaveSpan, overlap } from './span.ts';

export const LeaveType = z.object({
  id: z.string().min(1),
  name: z.string().min(1),
  counting: Counting,
  dayMinutes: z.number().int().positive().multipleOf(2),
  /** From the person's plan, from time earned (adjustments alone, in hours), or from no balance at all. */
  takesFrom: z.enum(['plan', 'earned', 'nothing']),
  /** How far below zero a request may take the balance. */
  overdraft: z.number().nonnegative(),
});
export type LeaveType = z.infer<typeof LeaveType>;

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
};

export type Amount = { amount: number; unit: 'days' | 'hours'; minutes: number };

export type Obstacle = {
  code: 'ends before it starts' | 'no working time' | 'overlaps' | 'over balance' | 'not employed' | 'unknown type';
  message: string;
};

const reach = 800;
const timeCache = new WeakMap<DirectoryIndex, Map<PersonId, WorkingTime>>();

/** Working time of a person around the book's day; kept for as long as the directory is. */
function timeOf(book: LeaveBook, person: Person): WorkingTime {
  let ofIndex = timeCache.get(book.index);
  if (!ofIndex) {
    ofIndex = new Map();
    timeCache.set(book.index, ofIndex);
  }
  let time = ofIndex.get(person.id);
  if (!time) {
    const today = toDay(book.today);
    time = workingTimeOf(book.index, person, { first: today - reach, last: today + reach });
    ofIndex.set(person.id, time);
  }
  return time;
}

const sureOf = (book: LeaveBook, id: PersonId): Person => {
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

/** What a span takes, in the unit of the person's plan; nothing when the span ends before it starts. */
export function amountOf(book: LeaveBook, id: PersonId, type: LeaveType, span: LeaveSpan): Amount | undefined {
  const time = timeOf(book, sureOf(book, id));
  const unit = planFor(book, id, type)?.unit ?? 'days';
  if (isTimed(span)) {
    const counted = countTimed(time, span);
    if ('error' in counted) return undefined;
    const { minutes } = counted;
    return { amount: unit === 'hours' ? minutes / 60 : minutes / type.dayMinutes, unit, minutes };
  }
  const counted = countHalves(time, type, span);
  if ('error' in counted) return undefined;
  return { amount: unit === 'hours' ? counted.minutes / 60 : counted.days, unit, minutes: counted.minutes };
}

/** Each day of a span with what it counts and why. */
export function explainAmount(book: LeaveBook, id: PersonId, type: LeaveType, span: LeaveSpan): DayReason[] {
  return isTimed(span) ? [] : explainLeave(timeOf(book, sureOf(book, id)), type, span);
}

export function employmentOf(person: Person): Employment {
  return {
    joined: person.joined,
    left: person.left,
    fte: person.records.map((r, i) => ({ from: i === 0 ? person.joined : r.from, value: r.fte })),
  };
}

/** A span by halves cut where a leave year begins or carry-over lapses, so that each piece is dated where it counts. */
function pieces(person: Person, plan: LeavePlan, span: LeaveSpan): LeaveSpan[] {
  if (isTimed(span)) return [span];
  const breaks = yearBreaks(plan, person.joined, toDay(span.from.date), toDay(span.to.date));
  const cut: HalfSpan[] = [];
  let from = span.from;
  for (const day of breaks) {
    cut.push({ from, to: { date: fromDay(day - 1), half: 'pm' } });
    from = { date: fromDay(day), half: 'am' };
  }
  return [...cut, { from, to: span.to }];
}

function movementsOf(
  book: LeaveBook,
  person: Person,
  type: LeaveType,
  plan: LeavePlan,
  entries: readonly LeaveEntry[],
) {
  const movements: Movement[] = book.adjustments
    .filter(a => a.person === person.id && a.type === type.id)
    .map(a => ({ date: a.date, kind: 'adjustment', amount: a.amount, reason: a.reason }));
  for (const entry of entries) {
    if (entry.person !== person.id || entry.type !== type.id) continue;
    for (const piece of pieces(person, plan, entry.span)) {
      const amount = amountOf(book, person.id, type, piece)?.amount ?? 0;
      if (amount > 0) {
        const reason = `${entry.state === 'held' ? 'held by' : 'taken with'} request ${entry.request}`;
        movements.push({ date: piece.from.date, kind: 'taken', amount, reason });
      }
    }
  }
  return movements;
}

type Kept = { until: number; schedule: ReturnType<typeof planSchedule> };
const schedules = new WeakMap<Person, WeakMap<LeavePlan, Kept>>();
const ahead = 731;

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
  const movements = movementsOf(book, person, type, plan.rules, entries);
  const worked = statement(
    { person: employmentOf(person), plan: plan.rules, movements, asOf },
    scheduleFor(book, person, plan, toDay(asOf)),
  );
  return { ...worked, unit: plan.unit, plan: plan.name };
}

/** What open requests hold of a leave type from today on. */
export function heldOf(book: LeaveBook, id: PersonId, type: LeaveType, except?: string): number {
  return book.entries
    .filter(e => e.person === id && e.type === type.id && e.state === 'held' && e.request !== except)
    .reduce((sum, e) => sum + (amountOf(book, id, type, e.span)?.amount ?? 0), 0);
}

export type BalanceAhead = {
  /** Balance today, as booked. */
  now: number;
  held: number;
  /** The lowest balance from the span's first day on, with everything booked, held and the span taken. */
  after: number;
  unit: 'days' | 'hours';
  expiring: Statement['expiring'];
  lines: Statement['lines'];
};

/**
 * The balance before and after a span. Later bookings count too: a span that fits today but would leave
 * too little for leave already booked does not fit.
 */
export function balanceAhead(
  book: LeaveBook,
  id: PersonId,
  type: LeaveType,
  span: LeaveSpan,
  request?: string,
): BalanceAhead | undefined {
  const now = statementOf(book, id, type, book.today);
  if (!now) return undefined;
  const others = book.entries.filter(e => e.request !== request);
  const asked: LeaveEntry = { request: request ?? 'new', person: id, type: type.id, span, state: 'held' };
  const ends = [...others.filter(e => e.person === id), asked].map(e => toDay(e.span.to.date));
  const last = fromDay(Math.max(toDay(book.today), ...ends));
  const ahead = statementOf(book, id, type, last, [...others, asked]);
  if (!ahead) return undefined;
  const from = span.from.date;
  const taken = ahead.lines.filter(line => line.kind === 'taken' && line.date >= from);
  const after = taken.length > 0 ? Math.min(...taken.map(line => line.balance)) : ahead.balance;
  return {
    now: now.balance,
    held: heldOf(book, id, type, request),
    after,
    unit: now.unit,
    expiring: now.expiring,
    lines: ahead.lines,
  };
}

/** People of the team away, held or booked, on any half day of the span; the person not counted. */
export function othersAway(book: LeaveBook, id: PersonId, span: LeaveSpan): Person[] {
  const team = teamOf(book.index, id, span.from.date);
  return team.filter(p => p.id !== id && book.entries.some(e => e.person === p.id && overlap(e.span, span)));
}

/** Why a span may not be asked for, worst first; empty when it may. `request` is left out of what is held. */
export function obstacles(
  book: LeaveBook,
  id: PersonId,
  typeName: string,
  span: LeaveSpan,
  request?: string,
): Obstacle[] {
  const person = sureOf(book, id);
  const type = leaveType(book, typeName);
  if (!type) return [{ code: 'unknown type', message: `There is no leave type “${typeName}”.` }];
  if (endsBeforeItStarts(span)) {
    return [{ code: 'ends before it starts', message: 'The last day is before the first. Choose a later last day.' }];
  }
  if (span.from.date < person.joined || (person.left !== null && span.to.date > person.left)) {
    return [{ code: 'not employed', message: 'These dates are outside the time of employment.' }];
  }
  const found: Obstacle[] = [];
  const clash = book.entries.find(e => e.person === id && e.request !== request && overlap(e.span, span));
  if (clash) {
    const other = leaveType(book, clash.type)?.name.toLowerCase() ?? 'leave';
    const dates =
      clash.span.from.date === clash.span.to.date
        ? `on ${dateWords(clash.span.from.date)}`
        : `from ${rangeWords(clash.span.from.date, clash.span.to.date)}`;
    found.push({
      code: 'overlaps',
      message: `These dates overlap your ${other} ${dates} (request ${clash.request}). Choose other dates or change that one.`,
    });
  }
  const taken = amountOf(book, id, type, span);
  if (taken && taken.minutes === 0 && taken.amount === 0) {
    found.push({
      code: 'no working time',
      message: 'Nothing is scheduled in these dates, so there is no leave to take.',
    });
  }
  const ahead = clash || !taken ? undefined : balanceAhead(book, id, type, span, request);
  if (ahead && taken && ahead.after < -type.overdraft) {
    const free = ahead.after + taken.amount;
    found.push({
      code: 'over balance',
      message: `This takes ${amountOfUnit(taken.amount, ahead.unit)}; ${amountWords(free)} are free then. Choose fewer days.`,
    });
  }
  return found;
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
