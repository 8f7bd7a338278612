/** Back from long absence: on which day, to which post, and who has that post then. */
import { holdsOn, isEmployed, mainPost, type PersonId, type PostId } from '../../people/index.ts';
import { addDays, type CivilDate, fromDay, halfIndex, toDay } from '../../time/index.ts';
import { type LeaveBook, type LeaveEntry, noWorkBetween, sureOf, timeOf } from '../book.ts';
import { typeOn } from '../rules/type.ts';
import { isOpen, lastDayOf } from '../span.ts';

export type ComingBack = {
  /** The first day of work. */
  readonly on: CivilDate;
  /** The day from which it is told. */
  readonly tellOn: CivilDate;
  /** The main post on the day before the absence began, and on the day of coming back. */
  readonly before: PostId | null;
  readonly now: PostId | null;
  /** Who else has the post of before on the day of coming back. */
  readonly others: readonly PersonId[];
};

/** So far ahead a day of work is looked for: some patterns have weeks without. */
const longestPause = 60;

/** What is booked in one go with an absence, whatever its type: nothing of it has work between. */
function atOnce(book: LeaveBook, id: PersonId, entry: LeaveEntry): readonly LeaveEntry[] {
  const time = timeOf(book, sureOf(book, id));
  const touches = (a: LeaveEntry, b: LeaveEntry): boolean => {
    const [before, after] = a.span.from.date <= b.span.from.date ? [a, b] : [b, a];
    const [end, begin] = [lastDayOf(before.span), after.span.from.date];
    return end >= begin || noWorkBetween(time, toDay(end), toDay(begin));
  };
  const found = new Set([entry]);
  const own = book.entries.filter(one => one.person === id && one.state === 'booked');
  // What is found is looked at too, as it is put in.
  for (const one of found) for (const other of own) if (touches(one, other)) found.add(other);
  return [...found];
}

/**
 * When somebody is back, and what they come back to: after all leave that goes on from it, too. Nothing where its type does
 * not tell of it, where the end is not known, where they leave before, or where it is told of a later one of these.
 */
export function comingBack(book: LeaveBook, id: PersonId, entry: LeaveEntry): ComingBack | null {
  const tells = (one: LeaveEntry): number | undefined => {
    const type = book.types.find(({ id }) => id === one.type);
    return type && typeOn(type, one.span.from.date).tellsReturn;
  };
  const ahead = tells(entry);
  if (ahead === undefined || entry.state !== 'booked') return null;
  const person = sureOf(book, id);
  const all = atOnce(book, id, entry);
  if (all.some(one => isOpen(one.span))) return null;
  if (all.some(one => tells(one) !== undefined && one.span.from.date > entry.span.from.date)) return null;
  const days = all.flatMap(one => [one.span.from.date, one.span.to.date]).sort();
  const first = days[0] ?? entry.span.from.date;
  const last = days.at(-1) ?? entry.span.to.date;
  const time = timeOf(book, person);
  const next = toDay(last) + 1;
  const works = (day: number) => time.scheduled(halfIndex(day, 'am'), halfIndex(day, 'pm')).minutes > 0;
  let day = next;
  while (day < next + longestPause && !works(day)) day++;
  const on = fromDay(works(day) ? day : next);
  if (!isEmployed(person, on)) return null;
  const before = mainPost(book.index, id, addDays(first, -1));
  return {
    on,
    tellOn: addDays(on, -ahead),
    before: before?.id ?? null,
    now: mainPost(book.index, id, on)?.id ?? null,
    others: before
      ? book.index
          .holdingsOfPost(before.id)
          .filter(one => one.person !== id && holdsOn(one, on))
          .map(one => one.person)
          .filter(other => isEmployed(sureOf(book, other), on))
      : [],
  };
}
