/**
 * Long absence: pieces with no work between them, and those that HR has put down to one cause, count as one. What pay knows them
 * by, and whom they are told to, goes by how many days of it there have been.
 */
import type { Circumstance, Person, PersonId } from '../../people/index.ts';
import { addMonths, type CivilDate, type DayNumber, fromDay, toDay } from '../../time/index.ts';
import { type LeaveBook, type LeaveEntry, noWorkBetween, sureOf, timeOf } from '../book.ts';
import { typeOn } from '../rules/type.ts';
import { asKnownOn, whileEmployed } from '../span.ts';

type Spell = { readonly request: string; readonly first: DayNumber; readonly last: DayNumber };

/** Booked absence of one type, as far as it is known, in its order. */
function spellsOf(book: LeaveBook, person: Person, type: string): Spell[] {
  return book.entries
    .flatMap((entry): Spell[] => {
      if (entry.person !== person.id || entry.type !== type || entry.state !== 'booked') return [];
      const span = whileEmployed(asKnownOn(entry.span, book.today), person.left);
      return span ? [{ request: entry.request, first: toDay(span.from.date), last: toDay(span.to.date) }] : [];
    })
    .sort((a, b) => a.first - b.first);
}

const causesOf = ({ circumstances = [] }: Person): readonly Extract<Circumstance['holds'], { is: 'same cause' }>[] =>
  circumstances.flatMap(({ holds }) => (holds.is === 'same cause' ? [holds] : []));

/**
 * The spells before one that count with it, the latest first.
 * @param months within which one cause counts on; none where the type does not say
 */
function countedWith(book: LeaveBook, person: Person, spells: readonly Spell[], own: Spell, months: number): Spell[] {
  const causes = causesOf(person);
  const time = timeOf(book, person);
  const found = new Set<Spell>([own]);
  const isOneCause = (a: Spell, b: Spell): boolean =>
    causes.some(
      ({ request, follows }) =>
        (request === a.request && follows === b.request) || (request === b.request && follows === a.request),
    );
  for (const before of spells.toReversed()) {
    if (before.first >= own.first || found.has(before)) continue;
    const isCounted = [...found].some(
      after =>
        noWorkBetween(time, before.last, after.first) ||
        (months > 0 && isOneCause(before, after) && addMonths(before.last, months) >= after.first),
    );
    if (isCounted) found.add(before);
  }
  found.delete(own);
  return [...found];
}

/** How many days of an absence there have been before its own first day, by what counts with it. */
function daysBefore(book: LeaveBook, person: Person, entry: LeaveEntry): { spell: Spell; days: number } | undefined {
  const type = book.types.find(one => one.id === entry.type);
  const spells = spellsOf(book, person, entry.type);
  const spell = spells.find(one => one.request === entry.request);
  if (!type || !spell) return undefined;
  const months = typeOn(type, fromDay(spell.first)).spellMonths ?? 0;
  const days = countedWith(book, person, spells, spell, months).reduce(
    (sum, { first, last }) => sum + Math.max(0, Math.min(last, spell.first - 1) - first + 1),
    0,
  );
  return { spell, days };
}

/** Which day of an absence a day is, counted by the calendar from the first day of all that counts with it; nothing outside of it. */
export function dayOfSpell(book: LeaveBook, id: PersonId, entry: LeaveEntry, on: CivilDate): number | undefined {
  const before = daysBefore(book, sureOf(book, id), entry);
  const day = toDay(on);
  return before && before.spell.first <= day && day <= before.spell.last
    ? before.days + day - before.spell.first + 1
    : undefined;
}

/** What pay knows a day of leave by where it is not the code of the type: from the day after so many of an absence on. */
export function laterPayCode(book: LeaveBook, id: PersonId, entry: LeaveEntry, on: CivilDate): string | undefined {
  const type = book.types.find(one => one.id === entry.type);
  const later = type && typeOn(type, entry.span.from.date).payLater;
  const day = later && later.length > 0 ? dayOfSpell(book, id, entry, on) : undefined;
  return day === undefined
    ? undefined
    : later?.toSorted((a, b) => b.after - a.after).find(({ after }) => day > after)?.code;
}

/** The days of an absence on which HR hears of it, on which dates they fall as far as it is known, and how many of the days are of earlier absence. */
export function heardOn(
  book: LeaveBook,
  id: PersonId,
  entry: LeaveEntry,
): { readonly after: number; readonly on: CivilDate; readonly earlier: number }[] {
  const type = book.types.find(one => one.id === entry.type);
  const days = (type && typeOn(type, entry.span.from.date).tellsHr) ?? [];
  const before = days.length > 0 ? daysBefore(book, sureOf(book, id), entry) : undefined;
  if (!before) return [];
  return days.flatMap(after => {
    const on = before.spell.first + (after - before.days) - 1;
    return before.spell.first <= on && on <= before.spell.last
      ? [{ after, on: fromDay(on), earlier: before.days }]
      : [];
  });
}
