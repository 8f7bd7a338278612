/** Who is away in which days, held or booked, for teams and for routing. */
import { type DirectoryIndex, type Person, type PersonId, teamOf } from '../people/index.ts';
import { addDays, type CivilDate, type DayNumber, fromDay, toDay } from '../time/index.ts';
import { type LeaveBook, type LeaveEntry, timeOf } from './book.ts';
import { asKnownOn, type HalfSpan, halvesOf, isTimed, type LeaveSpan, sharedDays, whileEmployed } from './span.ts';

/** Absence as far as people are employed: it ends with their last day, where that is on file. */
export function withinWork<Entry extends Pick<LeaveEntry, 'span'> & { readonly person: string }>(
  index: DirectoryIndex,
  entries: readonly Entry[],
): Entry[] {
  return entries.flatMap(entry => {
    const span = whileEmployed(entry.span, index.person(entry.person as PersonId)?.left ?? null);
    return span === null ? [] : span === entry.span ? [entry] : [{ ...entry, span }];
  });
}

/** The days of a span on which a person is away from scheduled work, held or booked. */
export function awayDays(book: LeaveBook, id: PersonId, asked: LeaveSpan): Set<DayNumber> {
  const span = asKnownOn(asked, book.today);
  const days = new Set<DayNumber>();
  const person = book.index.person(id);
  if (!person) return days;
  for (const entry of withinWork(
    book.index,
    book.entries.filter(one => one.person === id),
  )) {
    if (entry.span.to.date < addDays(span.from.date, -1) || entry.span.from.date > span.to.date) continue;
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
