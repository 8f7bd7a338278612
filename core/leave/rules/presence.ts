/** Least presence: how many of a group are needed here at once, and how many would be. */
import { type DirectoryIndex, isEmployed, type Person, recordOn } from '../../people/index.ts';
import { type CivilDate, type DayNumber, fromDay, type Half, halfIndex, toDay, weekday } from '../../time/index.ts';
import { type LeaveBook, type LeaveEntry, timeOf } from '../book.ts';
import { byPerson } from '../everybody/books.ts';
import { halfState } from '../planner/halves.ts';
import { countHere, type InGroup } from '../planner/here.ts';
import { type Days, shadesOf } from '../planner/shades.ts';
import { isTimed, type LeaveSpan, minutesSpan, takesPart } from '../span.ts';
import type { LeastPresence } from './type.ts';

/** Whether it is about somebody on a day. */
export function concerns(presence: LeastPresence, person: Person, day: CivilDate): boolean {
  if (!isEmployed(person, day)) return false;
  const record = recordOn(person, day);
  if (!record) return false;
  const { place, department } = presence;
  return (place === null || record.place === place) && (department === null || record.department === department);
}

/** Whether it is asked for on a day. */
export const holdsOnDay = ({ weekdays, from, to }: LeastPresence, day: DayNumber): boolean => {
  const date = fromDay(day);
  const isThen = (from === null || from <= date) && (to === null || date <= to);
  return isThen && (weekdays.length === 0 || weekdays.includes(weekday(day)));
};

/** Everybody whom it is about on a day. */
export const groupOf = (index: DirectoryIndex, presence: LeastPresence, day: CivilDate): Person[] =>
  index.directory.people.filter(person => concerns(presence, person, day));

/** Somebody is here in a half day when they are to work then, and are not away, held or booked. */
export const isHere = (book: LeaveBook, person: Person, entries: readonly LeaveEntry[], day: DayNumber, half: Half) =>
  halfState(timeOf(book, person), entries, halfIndex(day, half)) === 'w';

/** A day on which fewer would be here than are needed. */
export type TooFew = {
  readonly presence: string;
  readonly name: string;
  readonly on: CivilDate;
  readonly here: number;
  readonly needed: number;
};

/** Whether a span takes a half day, or a part of it, of somebody's work. */
function takes(book: LeaveBook, person: Person, span: LeaveSpan, day: DayNumber, half: Half): boolean {
  const part = timeOf(book, person).parts(day)[half];
  if (!part) return false;
  if (!isTimed(span)) return takesPart(span, halfIndex(day, half), part);
  const { start, end } = minutesSpan(span);
  return start < day * 1440 + part.end && end > day * 1440 + part.start;
}

/**
 * The days of a span on which fewer would be here than are needed, were somebody away in it. A day on which too few are here
 * anyway counts too: one more away leaves still fewer.
 * @param most so many days at most, the first ones
 */
export function tooFewIn(book: LeaveBook, person: Person, span: LeaveSpan, request?: string, most = 31): TooFew[] {
  const found: TooFew[] = [];
  const others = book.entries.filter(entry => entry.request !== request);
  const of = byPerson(others);
  for (const presence of book.presence ?? []) {
    // Who belongs to it is looked at on each day: people come, go and move while somebody is away.
    const window = { first: toDay(span.from.date), last: toDay(span.to.date) };
    let counted: ReturnType<typeof countedIn> | undefined;
    for (let day = toDay(span.from.date); day <= toDay(span.to.date) && found.length < most; day++) {
      const date = fromDay(day);
      if (!holdsOnDay(presence, day) || !concerns(presence, person, date)) continue;
      counted ??= countedIn(book.index, presence, window).filter(one => one.id !== person.id);
      const half = (day - window.first) * 2;
      const group = counted.filter(
        ({ person: one, within }) =>
          isEmployed(one, date) && (!within || (within.first <= half && half <= within.last)),
      );
      const counts = (['am', 'pm'] as const)
        .filter(half => takes(book, person, span, day, half))
        .map(half => group.filter(({ person: one }) => isHere(book, one, of.get(one.id) ?? [], day, half)).length);
      const here = Math.min(...counts);
      if (counts.length > 0 && here < presence.people)
        found.push({ presence: presence.id, name: presence.name, on: date, here, needed: presence.people });
    }
  }
  return found;
}

/** Those of whom it is said so, and on which days of those looked at; whoever moves away in between counts until then. */
export function countedIn(
  index: DirectoryIndex,
  presence: LeastPresence,
  days: Days,
): (InGroup & { person: Person })[] {
  const { place, department } = presence;
  const end = (days.last - days.first) * 2 + 1;
  return index.directory.people.flatMap(person => {
    if (toDay(person.joined) > days.last || (person.left !== null && toDay(person.left) < days.first)) return [];
    return person.records.flatMap((record, n) => {
      if ((place !== null && record.place !== place) || (department !== null && record.department !== department))
        return [];
      const next = person.records[n + 1];
      const from = n === 0 ? days.first : Math.max(toDay(record.from), days.first);
      const to = next ? Math.min(toDay(next.from) - 1, days.last) : days.last;
      if (from > to) return [];
      const within = { first: (from - days.first) * 2, last: Math.min((to - days.first) * 2 + 1, end) };
      return [{ id: person.id, person, within }];
    });
  });
}

/**
 * How many of a group are here on each day, in the half with the fewest of those who are to work; nothing on days on which
 * none are needed or nobody is to work.
 * @param counted as `countedIn` has them
 */
export function hereOn(
  index: DirectoryIndex,
  presence: LeastPresence,
  days: Days,
  counted: readonly (InGroup & { readonly person: Person })[],
  entriesOf: (id: Person['id']) => readonly LeaveEntry[],
): (number | null)[] {
  const shades = shadesOf(
    index,
    counted.map(one => one.person),
    days,
  );
  const { toWork, working } = countHere(shades, counted, entriesOf, days);
  return Array.from({ length: days.last - days.first + 1 }, (_, n) => {
    if (!holdsOnDay(presence, days.first + n)) return null;
    const counts = [2 * n, 2 * n + 1].flatMap(half => (toWork[half] === 0 ? [] : [working[half]]));
    return counts.length === 0 ? null : Math.min(...counts);
  });
}

/**
 * The days on which fewer are rostered than are needed, though nobody is away: what is needed then is met by nobody's leave
 * being refused.
 */
export function neverMet(index: DirectoryIndex, presence: LeastPresence, days: Days): CivilDate[] {
  const counted = countedIn(index, presence, days);
  const shades = shadesOf(
    index,
    counted.map(one => one.person),
    days,
  );
  const { toWork } = countHere(shades, counted, () => [], days);
  const found: CivilDate[] = [];
  for (let day = days.first; day <= days.last; day++) {
    if (!holdsOnDay(presence, day)) continue;
    const half = (day - days.first) * 2;
    const working = [toWork[half] ?? 0, toWork[half + 1] ?? 0].filter(n => n > 0);
    if (Math.min(...working, working.length === 0 ? 0 : Number.POSITIVE_INFINITY) < presence.people)
      found.push(fromDay(day));
  }
  return found;
}
