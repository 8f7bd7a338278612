/** What moves a balance: bookings day by day, less what is given back, and what is put on it or taken off. */
import type { Person, PersonId } from '../people/index.ts';
import {
  addDays,
  addMonths,
  type CivilDate,
  type DayNumber,
  fromDay,
  type Half,
  halfIndex,
  toDay,
} from '../time/index.ts';
import { laterPayCode } from './absence/spells.ts';
import { byStages, type Shared, stagesOf, workedOn } from './absence/stages.ts';
import type { Moved } from './balances/account.ts';
import { inUnit } from './balances/afford.ts';
import { type Course, stretchOn } from './balances/course.ts';
import { decimal, type Fraction, plus, toNumber, zero } from './balances/fraction.ts';
import type { Employment } from './balances/plan.ts';
import type { Missed } from './balances/schedule.ts';
import { balanceTypeOf, type LeaveBook, type LeaveEntry, noWorkBetween, sureOf, timeOf } from './book.ts';
import { countDays, type DayCount } from './counting.ts';
import { isBookedBefore, isShutdown, isWished } from './elsewhere.ts';
import { type LeaveType, type LeaveTypeRules, typeOn } from './rules/type.ts';
import { takesPart, whileEmployed } from './span.ts';

/** What the type of an entry says on its first day. */
function rulesOf(book: LeaveBook, { type, span }: Pick<LeaveEntry, 'type' | 'span'>): LeaveTypeRules | undefined {
  const found = book.types.find(one => one.id === type);
  return found && typeOn(found, span.from.date);
}

/** Days of booked leave, from the one after so many of it on, on which nothing is earned. */
export function idleDays(book: LeaveBook, id: PersonId): NonNullable<Employment['idle']> {
  const person = book.index.person(id);
  const long = book.entries.flatMap(entry => {
    if (entry.person !== id || entry.state !== 'booked') return [];
    const earnsUntil = rulesOf(book, entry)?.earnsUntil;
    const span = whileEmployed(entry.span, person?.left ?? null);
    if (!person || earnsUntil === undefined || span === null) return [];
    return [{ from: span.from.date, to: span.to.date, earnsUntil, stages: stagesOf(person, entry.request) }];
  });
  if (!person || long.length === 0) return [];
  const idle: Shared[] = [];
  let run: { began: CivilDate; until: CivilDate } | null = null;
  for (const { from, to, earnsUntil, stages } of long.toSorted((a, b) =>
    a.from < b.from ? -1 : a.from > b.from ? 1 : 0,
  )) {
    // Asked for in pieces with no work between them it is one leave, and the days between are of it.
    const goesOn: boolean = run !== null && noWorkBetween(timeOf(book, person), toDay(run.until), toDay(from));
    const open: { began: CivilDate; until: CivilDate } = run !== null && goesOn ? run : { began: from, until: to };
    let first = addDays(open.began, earnsUntil);
    const next: CivilDate = goesOn && open.until < from ? addDays(open.until, 1) : from;
    if (first < next) first = next;
    run = to > open.until ? { ...open, until: to } : open;
    if (first <= to) idle.push(...byStages(timeOf(book, person), stages, { from: first, to }));
  }
  return idle;
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
  const span = whileEmployed(entry.span, person.left);
  if (span === null) return { counted: [], given: new Set() };
  const time = timeOf(book, person);
  const back = givingBack(book, entries, entry);
  const given = new Set<string>();
  const isGivenBack = (day: DayNumber, half: Half): boolean => {
    const part = time.parts(day)[half];
    const by = part && back.find(other => takesPart(other.span, halfIndex(day, half), part));
    if (by) given.add(by.request);
    return by !== undefined && by !== null;
  };
  return { counted: countDays(time, rules, span, back.length > 0 ? isGivenBack : undefined), given };
}

/** What somebody took on a day of one kind of leave, as pay is told: days as they are counted, and the minutes of work lost. */
export type TakenDay = {
  readonly type: string;
  readonly date: CivilDate;
  readonly days: number;
  readonly minutes: number;
  /** What pay knows it by, where that is not the code of its type. */
  readonly code?: string;
};

/** The minutes of work that an entry takes, by day, where its kind counts by something else than the schedule. */
function lostOf(
  book: LeaveBook,
  person: Person,
  rules: LeaveTypeRules,
  entry: LeaveEntry,
): ReadonlyMap<DayNumber, number> | undefined {
  if (rules.counting === 'scheduled') return undefined;
  const { counted } = countedOf(book, person, { ...rules, counting: 'scheduled' }, book.entries, entry);
  return new Map(counted.map(({ day, minutes }) => [day, minutes]));
}

/** Every day of booked leave of a person between two days, both included, by day and kind. */
export function takenDays(book: LeaveBook, id: PersonId, from: CivilDate, to: CivilDate): TakenDay[] {
  const person = sureOf(book, id);
  const sums = new Map<string, Omit<TakenDay, 'days'> & { days: Fraction }>();
  for (const entry of book.entries) {
    if (entry.person !== id || entry.state !== 'booked' || entry.span.to.date < from || entry.span.from.date > to)
      continue;
    const rules = rulesOf(book, entry);
    if (!rules) continue;
    // However its days are counted, what is lost is what was to be worked.
    const lost = lostOf(book, person, rules, entry);
    const stages = stagesOf(person, entry.request);
    for (const { day, days, minutes: counted } of countedOf(book, person, rules, book.entries, entry).counted) {
      const date = fromDay(day);
      if (date < from || date > to) continue;
      // Whoever is back by stages works a part of the day.
      const minutes = Math.max(0, (lost ? (lost.get(day) ?? 0) : counted) - workedOn(stages, date));
      const key = `${date} ${entry.type}`;
      const code = laterPayCode(book, id, entry, date);
      const known = sums.get(key) ?? { type: entry.type, date, days: zero, minutes: 0, ...(code ? { code } : {}) };
      sums.set(key, { ...known, days: plus(known.days, days), minutes: known.minutes + minutes });
    }
  }
  return [...sums.values()]
    .map(({ days, ...one }) => ({ ...one, days: toNumber(days) }))
    .sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : a.type < b.type ? -1 : 1));
}

/** What an entry takes of its balance, day by day: each day of it is a movement on that day, in the unit of the plan of the day. */
export function movedBy(
  book: LeaveBook,
  person: Person,
  rules: LeaveTypeRules,
  course: Course,
  entries: readonly LeaveEntry[],
  entry: LeaveEntry,
): Moved[] {
  const { counted, given } = countedOf(book, person, rules, entries, entry);
  const { request, state } = entry;
  const how = state === 'held' ? 'asked for' : 'taken';
  const where =
    request === 'new'
      ? 'here'
      : isBookedBefore(request)
        ? 'as decided elsewhere'
        : isShutdown(request)
          ? 'in a shutdown'
          : isWished(request)
            ? 'as wished'
            : `with request ${request}`;
  const less = given.size > 0 ? `, less the days given back by ${[...given].join(', ')}` : '';
  const reason = `${how} ${where}${less}${entry.reason ? `: ${entry.reason}` : ''}`;
  return inUnit(counted, day => stretchOn(course, day).unit)
    .filter(({ amount }) => amount.top > 0n)
    .map(({ on, amount }) => ({ on, kind: 'taken', amount, reason, booking: { request, state } }));
}

/** The last day on which time that is earned on a day can be taken. */
function lapsesOf(type: LeaveType, day: CivilDate): { lapses: DayNumber } | Record<string, never> {
  const { takesFrom, earnedMonths } = typeOn(type, day);
  return takesFrom === 'earned' && earnedMonths !== undefined ? { lapses: addMonths(toDay(day), earnedMonths) } : {};
}

/** The work that booked leave of some types takes between two days, in the unit of the plan of the last of them. */
export const missedBy =
  (book: LeaveBook, person: Person, course: Course): Missed =>
  (types, first, last) => {
    let amount = zero;
    const because = new Set<string>();
    for (const entry of book.entries) {
      if (entry.person !== person.id || entry.state !== 'booked' || !types.includes(entry.type)) continue;
      const rules = rulesOf(book, entry);
      if (!rules) continue;
      const { counted } = countedOf(book, person, { ...rules, counting: 'scheduled' }, [], entry);
      const within = counted.filter(({ day }) => first <= day && day <= last);
      for (const one of inUnit(within, () => stretchOn(course, last).unit)) amount = plus(amount, one.amount);
      if (within.length > 0) because.add(rules.name.toLowerCase());
    }
    return { amount, because: [...because].join(' and ') };
  };

export function movementsOf(
  book: LeaveBook,
  person: Person,
  type: LeaveType,
  course: Course,
  entries: readonly LeaveEntry[],
): Moved[] {
  const moved: Moved[] = book.adjustments
    .filter(a => a.person === person.id && a.type === type.id)
    .map(a => ({
      ...{ on: toDay(a.date), kind: 'adjustment', amount: decimal(a.amount), reason: a.reason },
      ...lapsesOf(type, a.date),
      ...(a.warns ? { warns: true as const } : {}),
    }));
  for (const entry of entries) {
    if (entry.person !== person.id) continue;
    const own = book.types.find(one => one.id === entry.type);
    if (own && balanceTypeOf(book, own, entry.span.from.date)?.id === type.id)
      moved.push(...movedBy(book, person, typeOn(own, entry.span.from.date), course, entries, entry));
  }
  return moved;
}
