/** What a type asks to be kept to, and what of it a span does not: a code and what it is about. Words are made where it is shown. */
import type { Person, PersonId } from '../../people/index.ts';
import {
  addDays,
  addMonths,
  amountWords,
  type CivilDate,
  type DayNumber,
  dateWords,
  fromDay,
  halfIndex,
  rangeWords,
  toDay,
  yearMonthDay,
  yearOf,
} from '../../time/index.ts';
import { amountOf, type LeaveBook, noWorkBetween, type Pass, sureOf, timeOf } from '../book.ts';
import { shareOfTimedDay } from '../counting.ts';
import { asKnownOn, daysOf, isOpen, isTimed, type LeaveSpan, takesHalfOf } from '../span.ts';
import { tooFewIn } from './presence.ts';
import { bridgeDaysIn, hadLastYear } from './turns.ts';
import { type LeaveType, type Limit, type Strength, typeOn } from './type.ts';

/** A limit that a span does not keep to. */
export type Met =
  | { readonly rule: 'notice'; readonly needed: number; readonly given: number; readonly over: number }
  | { readonly rule: 'most a year'; readonly most: number; readonly year: number; readonly days: number }
  | { readonly rule: 'most an event'; readonly most: number; readonly days: number }
  | { readonly rule: 'most ever'; readonly most: number; readonly days: number }
  | {
      readonly rule: 'most a year for each child';
      readonly most: number;
      readonly year: number;
      readonly days: number;
      readonly children: number;
      readonly under: number;
    }
  | { readonly rule: 'bridge days'; readonly most: number; readonly year: number; readonly days: number }
  | { readonly rule: 'turn'; readonly name: string; readonly from: CivilDate; readonly to: CivilDate }
  | { readonly rule: 'longest run'; readonly most: number; readonly days: number }
  | { readonly rule: 'waiting'; readonly months: number; readonly until: CivilDate }
  | { readonly rule: 'closed'; readonly name: string; readonly from: CivilDate; readonly to: CivilDate }
  | {
      readonly rule: 'presence';
      readonly name: string;
      readonly on: CivilDate;
      readonly here: number;
      readonly needed: number;
      /** How many more days there are of the kind. */
      readonly more: number;
    };
export type MetLimit = { readonly how: Strength; readonly met: Met; readonly pass: Pass | null };

/** The first day of a closed time that begins on a day of the year or once, in or after a year. */
const closedIn = (from: string, to: string, year: number): { from: DayNumber; to: DayNumber } => {
  if (from.length > 5 || to.length > 5) return { from: toDay(from as CivilDate), to: toDay(to as CivilDate) };
  const first = toDay(`${year}-${from === '02-29' ? '02-28' : from}` as CivilDate);
  const own = toDay(`${year}-${to === '02-29' ? '02-28' : to}` as CivilDate);
  // A time that goes over the turn of the year ends in the next one.
  return { from: first, to: own >= first ? own : toDay(`${year + 1}-${to}` as CivilDate) };
};

/** The days away without a scheduled day between, of which a span is part: own leave before and after it counts along. */
function runOf(book: LeaveBook, id: PersonId, span: LeaveSpan, request?: string): number {
  const person = sureOf(book, id);
  const time = timeOf(book, person);
  const own = book.entries.filter(entry => entry.person === id && entry.request !== request);
  const isFree = (day: DayNumber): boolean =>
    (['am', 'pm'] as const).every(
      half => !time.parts(day)[half] || own.some(entry => takesHalfOf(entry.span, halfIndex(day, half))),
    );
  const isAway = (day: DayNumber): boolean =>
    own.some(({ span: s }) => toDay(s.from.date) <= day && day <= toDay(s.to.date));
  let [first, last] = [toDay(span.from.date), toDay(span.to.date)];
  const furthest = 400;
  // Of a day on which somebody works for a part, that part counts, and the run ends there.
  const share = (day: DayNumber) => (isTimed(span) ? shareOfTimedDay(time, span, day) : 1);
  const [atFirst, atLast] = [share(first), share(last)];
  if (first === last && atFirst < 1) return atFirst;
  if (atFirst === 1)
    for (let day = first - 1, n = 0; isFree(day) && n < furthest; day--, n++) if (isAway(day)) first = day;
  if (atLast === 1)
    for (let day = last + 1, n = 0; isFree(day) && n < furthest; day++, n++) if (isAway(day)) last = day;
  return last - first - 1 + atFirst + atLast;
}

/** What somebody takes of a type from one day to another, as its days are counted, this span included. */
function takenBetween(
  book: LeaveBook,
  id: PersonId,
  type: LeaveType,
  span: LeaveSpan,
  first: CivilDate,
  last: CivilDate,
  request?: string,
): number {
  const spans = [
    ...book.entries
      .filter(entry => entry.person === id && entry.type === type.id && entry.request !== request)
      .map(entry => entry.span),
    span,
  ];
  return spans.reduce((sum, one) => {
    if (one.to.date < first || one.from.date > last) return sum;
    return sum + (amountOf(book, id, type, cutTo(one, first, last))?.days ?? 0);
  }, 0);
}

/** What is taken of a type for one event: asked for in pieces with no work between them, it is of one. */
function takenAtOnce(book: LeaveBook, id: PersonId, type: LeaveType, span: LeaveSpan, request?: string): number {
  const time = timeOf(book, sureOf(book, id));
  const isFreeBetween = (before: CivilDate, after: CivilDate) => noWorkBetween(time, toDay(before), toDay(after));
  let left = book.entries.filter(one => one.person === id && one.type === type.id && one.request !== request);
  let [first, last] = [span.from.date, span.to.date];
  let days = amountOf(book, id, type, span)?.days ?? 0;
  for (let grows = true; grows; ) {
    const next = left.find(
      ({ span: { from, to } }) =>
        (from.date >= first ? isFreeBetween(last, from.date) : isFreeBetween(to.date, first)) || to.date === first,
    );
    grows = next !== undefined;
    if (!next) break;
    left = left.filter(one => one !== next);
    days += amountOf(book, id, type, next.span)?.days ?? 0;
    if (next.span.from.date < first) first = next.span.from.date;
    if (next.span.to.date > last) last = next.span.to.date;
  }
  return days;
}

/** The part of a span that lies in some days. */
function cutTo(span: LeaveSpan, first: CivilDate, last: CivilDate): LeaveSpan {
  if ('time' in span.from) {
    const from = span.from.date < first ? { date: first, time: '00:00' } : span.from;
    return { from, to: span.to.date > last ? { date: last, time: '23:59' } : span.to } as LeaveSpan;
  }
  const from = span.from.date < first ? { date: first, half: 'am' } : span.from;
  return { from, to: span.to.date > last ? { date: last, half: 'pm' } : span.to } as LeaveSpan;
}

/** The calendar years that a span is in. */
const yearsOf = (span: LeaveSpan): number[] => [...new Set([yearOf(span.from.date), yearOf(span.to.date)])];

/** Children of somebody who are born and have not reached an age on a day. */
const childrenUnder = ({ circumstances = [] }: Person, age: number, day: CivilDate): number =>
  circumstances.filter(
    ({ holds }) => holds.is === 'child' && holds.born <= day && fromDay(addMonths(toDay(holds.born), age * 12)) > day,
  ).length;

function metBy(book: LeaveBook, id: PersonId, type: LeaveType, span: LeaveSpan, limit: Limit, request?: string): Met[] {
  const person = sureOf(book, id);
  switch (limit.rule) {
    case 'notice': {
      const given = toDay(span.from.date) - toDay(book.today);
      const isOver = daysOf(span) > limit.over;
      // Days that have passed are of another rule: how far back it may be asked for.
      return isOver && given >= 0 && given < limit.days
        ? [{ rule: 'notice', needed: limit.days, given, over: limit.over }]
        : [];
    }
    case 'most a year':
      return yearsOf(span).flatMap(year => {
        const [first, last] = [`${year}-01-01`, `${year}-12-31`] as [CivilDate, CivilDate];
        const days = takenBetween(book, id, type, span, first, last, request);
        return days > limit.days ? [{ rule: 'most a year' as const, most: limit.days, year, days }] : [];
      });
    case 'most an event': {
      const days = takenAtOnce(book, id, type, span, request);
      return days > limit.days ? [{ rule: 'most an event', most: limit.days, days }] : [];
    }
    case 'most a year for each child':
      return yearsOf(span).flatMap(year => {
        const [first, last] = [`${year}-01-01`, `${year}-12-31`] as [CivilDate, CivilDate];
        const children = childrenUnder(person, limit.under, [first, span.from.date].toSorted()[1] as CivilDate);
        const most = limit.days * children;
        const days = takenBetween(book, id, type, span, first, last, request);
        return days > most ? [{ rule: limit.rule, most, year, days, children, under: limit.under }] : [];
      });
    case 'bridge days': {
      const own = book.entries.filter(one => one.person === id && one.type === type.id && one.request !== request);
      const time = timeOf(book, person);
      return yearsOf(span).flatMap(year => {
        const [first, last] = [`${year}-01-01`, `${year}-12-31`] as [CivilDate, CivilDate];
        const asked = bridgeDaysIn(time, span, first, last);
        const days = new Set([...own.flatMap(one => bridgeDaysIn(time, one.span, first, last)), ...asked]).size;
        return asked.length > 0 && days > limit.days ? [{ rule: limit.rule, most: limit.days, year, days }] : [];
      });
    }
    case 'turn': {
      const own = book.entries.filter(one => one.person === id && one.type === type.id && one.request !== request);
      const had = hadLastYear(limit, span, own);
      return had ? [{ rule: 'turn', name: limit.name, ...had }] : [];
    }
    case 'most ever': {
      const days = takenBetween(book, id, type, span, person.joined, '9999-12-31' as CivilDate, request);
      return days > limit.days ? [{ rule: 'most ever', most: limit.days, days }] : [];
    }
    case 'longest run': {
      const days = runOf(book, id, span, request);
      return days > limit.days ? [{ rule: 'longest run', most: limit.days, days }] : [];
    }
    case 'waiting': {
      const until = fromDay(addMonths(toDay(person.joined), limit.months));
      return span.from.date < until ? [{ rule: 'waiting', months: limit.months, until }] : [];
    }
    case 'closed': {
      const [first, last] = [toDay(span.from.date), toDay(span.to.date)];
      for (let year = yearMonthDay(first).year - 1; year <= yearMonthDay(last).year; year++) {
        const closed = closedIn(limit.from, limit.to, year);
        if (closed.from <= last && first <= closed.to)
          return [{ rule: 'closed', name: limit.name, from: fromDay(closed.from), to: fromDay(closed.to) }];
      }
      return [];
    }
    case 'presence': {
      const [first, ...more] = tooFewIn(book, person, span, request);
      if (!first) return [];
      const { name, on, here, needed } = first;
      return [{ rule: 'presence', name, on, here, needed, more: more.length }];
    }
    case 'evidence':
      return [];
  }
}

const strengths: readonly Strength[] = ['warns', 'asks why', 'stops'];

/**
 * By length, the limits that apply: of notices the one of the longest leave, so that one sentence is said and not three; a
 * shorter one besides only where it is stronger, since a word of warning must not take the place of what stops.
 */
function applicable(limits: readonly Limit[], span: LeaveSpan): Limit[] {
  const days = daysOf(span);
  const notices = limits.flatMap(limit => (limit.rule === 'notice' && days > limit.over ? [limit] : []));
  const isCovered = (one: (typeof notices)[number]) =>
    notices.some(
      other =>
        other !== one &&
        strengths.indexOf(other.how) >= strengths.indexOf(one.how) &&
        (other.over > one.over || (other.over === one.over && notices.indexOf(other) < notices.indexOf(one))),
    );
  return limits.filter(limit => limit.rule !== 'notice' || (notices.includes(limit) && !isCovered(limit)));
}

/** Every limit that a span does not keep to, in the order in which the type says them. */
export function limitsMet(
  book: LeaveBook,
  id: PersonId,
  type: LeaveType,
  given: LeaveSpan,
  request?: string,
): MetLimit[] {
  const span = asKnownOn(given, book.today);
  const pass =
    (book.passes ?? []).find(
      one => one.person === id && one.type === type.id && one.from <= span.from.date && span.to.date <= one.to,
    ) ?? null;
  return applicable(typeOn(type, span.from.date).limits ?? [], span).flatMap(limit =>
    limit.rule === 'evidence'
      ? []
      : metBy(book, id, type, span, limit, request).map(met => ({ how: limit.how, met, pass })),
  );
}

/** The day from which a paper is due for leave as long as this; nothing where none is. */
export function evidenceDue(
  type: LeaveType,
  span: LeaveSpan,
  { circumstances = [] }: Pick<Person, 'circumstances'> = {},
): { after: number; on: CivilDate } | null {
  const day = span.from.date;
  const isAtOnce = circumstances.some(
    ({ holds }) =>
      holds.is === 'paper at once' &&
      holds.type === type.id &&
      holds.from <= day &&
      (holds.to === null || day <= holds.to),
  );
  if (isAtOnce) return { after: 0, on: day };
  const limit = (typeOn(type, span.from.date).limits ?? []).find(one => one.rule === 'evidence');
  return limit?.rule === 'evidence' && (isOpen(span) || daysOf(span) > limit.after)
    ? { after: limit.after, on: addDays(span.from.date, limit.after) }
    : null;
}

const dayCount = (n: number): string => `${amountWords(n)} ${n === 1 ? 'day' : 'days'}`;

/** What is not kept to, in one sentence with its figures. */
export function metWords(met: Met, today: CivilDate): string {
  const year = yearOf(today);
  switch (met.rule) {
    case 'notice': {
      const what = met.over > 0 ? `More than ${dayCount(met.over)} are asked for` : 'It is asked for';
      return `${what} ${dayCount(met.needed)} before; this is ${met.given === 0 ? 'for today' : `${dayCount(met.given)} before`}.`;
    }
    case 'most a year':
      return `At most ${dayCount(met.most)} may be taken in a year; with this it would be ${amountWords(met.days)} in ${met.year}.`;
    case 'most an event':
      return `At most ${dayCount(met.most)} may be taken for one event; this is ${amountWords(met.days)}.`;
    case 'most ever':
      return `At most ${dayCount(met.most)} may be taken in the whole employment; with this it would be ${amountWords(met.days)}.`;
    case 'most a year for each child': {
      const children = met.children === 1 ? 'one child' : `${met.children} children`;
      return met.children === 0
        ? `No child under ${met.under} is on file.`
        : `At most ${dayCount(met.most)} may be taken in a year for ${children} under ${met.under}; with this it would be ${amountWords(met.days)} in ${met.year}.`;
    }
    case 'bridge days':
      return met.most === 0
        ? 'It may not be taken on bridge days.'
        : `At most ${met.most} bridge ${met.most === 1 ? 'day' : 'days'} may be taken in a year; with this it would be ${met.days} in ${met.year}.`;
    case 'turn':
      return `${met.name} was taken last year too (${rangeWords(met.from, met.to, year)}); others go first.`;
    case 'longest run':
      return `At most ${dayCount(met.most)} may be taken in one run; this would be ${amountWords(met.days)}, with the leave before and after it.`;
    case 'waiting':
      return `It may be taken from ${dateWords(met.until, year)} on, ${met.months} ${met.months === 1 ? 'month' : 'months'} after joining.`;
    case 'closed':
      return `${met.name} is closed to leave, ${met.from === met.to ? dateWords(met.from, year) : `from ${rangeWords(met.from, met.to, year)}`}.`;
    case 'presence': {
      const more = met.more > 0 ? `, and on ${met.more} more ${met.more === 1 ? 'day' : 'days'} too few` : '';
      return `This leaves ${met.here} of ${met.name}, and ${met.needed} ${met.needed === 1 ? 'is' : 'are'} needed on ${dateWords(met.on, year)}${more}.`;
    }
  }
}
