/** Who is away in which days, held or booked, for teams and for routing. */
import { type DirectoryIndex, type Person, type PersonId, teamOf } from '../people/index.ts';
import { addDays, type CivilDate, type DayNumber, fromDay, toDay } from '../time/index.ts';
import { type LeaveBook, type LeaveEntry, timeOf } from './book.ts';
import { asKnownOn, type HalfSpan, halvesOf, isTimed, type LeaveSpan, sharedDays } from './span.ts';

/** Absence whose last day is not known ends with the last day of work, where that is known. */
export function withinWork(index: DirectoryIndex, entries: readonly LeaveEntry[]): LeaveEntry[] {
  return entries.flatMap(entry => {
    const left = entry.open ? index.person(entry.person)?.left : null;
    if (!left || isTimed(entry.span) || entry.span.to.date <= left) return [entry];
    return left < entry.span.from.date ? [] : [{ ...entry, span: { ...entry.span, to: { date: left, half: 'pm' } } }];
  });
}

/** The days of a span on which a person is away from scheduled work, held or booked. */
export function awayDays(book: LeaveBook, id: PersonId, asked: LeaveSpan): Set<DayNumber> {
  const span = asKnownOn(asked, book.today);
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
