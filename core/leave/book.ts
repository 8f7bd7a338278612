/**
 * The leave book: everything known about the leave of some people, and the questions a request asks of it.
 * A pending request holds its amount: what is free is the balance less what is held.
 */
import { type DirectoryIndex, type Person, type PersonId, workingTimeOf } from '../people/index.ts';
import { type CivilDate, type DayNumber, halfIndex, toDay, type WorkingTime } from '../time/index.ts';
import { alone, type Course } from './balances/course.ts';
import { personCourse, planThrough } from './balances/personPlan.ts';
import type { Employment, NamedPlan } from './balances/plan.ts';
import { countHalves, countTimed, type DayReason, defaultPortion, explainLeave } from './counting.ts';
import { type LeastPresence, type LeaveType, typeOn } from './rules/type.ts';
import { asKnownOn, endsBeforeItStarts, isTimed, type LeaveSpan, whileEmployed } from './span.ts';

/** The longest span, in calendar days, where the type says nothing: two years. */
export const longestSpan = 731;

/** A stretch of leave held by an open request or booked by an approved one. */
export type LeaveEntry = {
  readonly request: string;
  readonly person: PersonId;
  readonly type: string;
  /** As far as it is known. */
  readonly span: LeaveSpan;
  /** Its last day is not known yet. */
  readonly open?: true;
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
  /** No amount, but a letter that told what lapses. */
  readonly warns?: boolean;
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

/** An entry as it was told: one without an end is open again. */
export const asTold = ({ span, open }: Pick<LeaveEntry, 'span' | 'open'>): LeaveSpan =>
  open && !isTimed(span) ? { ...span, open } : span;

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
type Times = { readonly of: Map<PersonId, WorkingTime>; readonly alike: Map<string, WorkingTime> };
const timeCache = new WeakMap<DirectoryIndex, Times>();

/** Working time of a person around the book's day; kept for as long as the directory is. */
export function timeOf(book: LeaveBook, person: Person): WorkingTime {
  let times = timeCache.get(book.index);
  if (!times) {
    times = { of: new Map(), alike: new Map() };
    timeCache.set(book.index, times);
  }
  let time = times.of.get(person.id);
  if (!time) {
    // Whoever has the same patterns at the same places has the same working time.
    const key = person.records.map(({ from, pattern, place }) => `${from} ${pattern} ${place}`).join('|');
    time = times.alike.get(key);
    if (!time) {
      const today = toDay(book.today);
      const window = book.once ? { first: today, last: today } : { first: today - reach, last: today + reach };
      time = workingTimeOf(book.index, person, window);
      times.alike.set(key, time);
    }
    times.of.set(person.id, time);
  }
  return time;
}

/** Whether nobody would have worked between a day and a later one: absences on both sides of it are one. */
export function noWorkBetween(time: WorkingTime, before: DayNumber, after: DayNumber): boolean {
  const [first, last] = [before + 1, after - 1];
  return last < first || time.scheduled(halfIndex(first, 'am'), halfIndex(last, 'pm')).minutes === 0;
}

export const sureOf = (book: LeaveBook, id: PersonId): Person => {
  const person = book.index.person(id);
  if (!person) throw new Error(`person ${id} is not in the directory`);
  return person;
};

export const leaveType = (book: LeaveBook, type: string): LeaveType | undefined =>
  book.types.find(t => t.id === type || t.name === type);

/** The plan of a person as it is called on a day, with what they earned and earn by other plans before and after it. */
export function planOf(book: LeaveBook, id: PersonId, day: CivilDate = book.today): NamedPlan | undefined {
  return planThrough(book.plans, sureOf(book, id), day);
}

/** Time earned: nothing accrues by itself and nothing lapses. */
export const earnedTime: NamedPlan = {
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
export function planFor(
  book: LeaveBook,
  id: PersonId,
  type: LeaveType,
  day: CivilDate = book.today,
): NamedPlan | undefined {
  const { takesFrom } = typeOn(type, day);
  if (takesFrom === 'nothing' || takesFrom === 'other') return undefined;
  return takesFrom === 'earned' ? earnedTime : planOf(book, id, day);
}

/** The plans in turn by which a leave type's own balance is counted, for a person; nothing when it has none. */
export function courseFor(book: LeaveBook, person: Person, type: LeaveType): Course | undefined {
  const { takesFrom } = typeOn(type, book.today);
  if (takesFrom === 'nothing' || takesFrom === 'other') return undefined;
  const opening = person.openings?.find(one => one.type === type.id) ?? null;
  if (takesFrom === 'earned')
    return { ...alone(earnedTime.rules, person.joined, earnedTime.unit, earnedTime.name), opening };
  return personCourse(book.plans, person, opening);
}

const nothingTaken = { amount: 0, days: 0, minutes: 0 } as const;

/** The unit in which leave of a type is counted for somebody on a day. */
function unitOfType(book: LeaveBook, id: PersonId, type: LeaveType, day: CivilDate): 'days' | 'hours' {
  const from = balanceTypeOf(book, type, day);
  return (from && planFor(book, id, from, day)?.unit) ?? 'days';
}

/** What a span takes; nothing when the span ends before it starts. */
export function amountOf(book: LeaveBook, id: PersonId, type: LeaveType, asked: LeaveSpan): Amount | undefined {
  const known = asKnownOn(asked, book.today);
  const person = sureOf(book, id);
  const time = timeOf(book, person);
  // After a last day nothing is taken, whatever was booked.
  const span = endsBeforeItStarts(known) ? known : whileEmployed(known, person.left);
  if (span === null) return { ...nothingTaken, unit: unitOfType(book, id, type, known.from.date) };
  const rules = typeOn(type, span.from.date);
  const unit = unitOfType(book, id, type, span.from.date);
  const counted = isTimed(span)
    ? countTimed(time, span, rules.portion ?? defaultPortion)
    : countHalves(time, rules, span);
  if ('error' in counted) return undefined;
  const { days, minutes } = counted;
  return { amount: unit === 'hours' ? minutes / 60 : days, unit, days, minutes };
}

/** Each day of a span with what it counts and why. */
export const explainAmount = (book: LeaveBook, id: PersonId, type: LeaveType, span: LeaveSpan): DayReason[] =>
  explainLeave(timeOf(book, sureOf(book, id)), typeOn(type, span.from.date), asKnownOn(span, book.today));

/** @param idle days of long leave on which nothing is earned */
export function employmentOf(person: Person, idle: Employment['idle'] = []): Employment {
  return {
    ...(idle.length > 0 ? { idle } : {}),
    joined: person.joined,
    left: person.left,
    // The first record holds from joining on; of a first day that was put later, those before it still come in their order.
    fte: person.records.map((r, i) => ({
      from: i === 0 && r.from > person.joined ? person.joined : r.from,
      value: r.fte,
    })),
  };
}
