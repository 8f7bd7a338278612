/**
 * Wishes for the same days, compared fairly: whoever had fewer days in these days of the year before comes first, and a drawn
 * lot decides where it is the same. Each gets the first of their wishes that can be had with those that were given before.
 */
import { type DirectoryIndex, type Person, type PersonId, recordOn } from '../../people/index.ts';
import { addDays, type CivilDate, fromDay, halfIndex, monthDayIn, toDay } from '../../time/index.ts';
import { obstacles } from '../asking.ts';
import { amountOf, type LeaveBook, type LeaveEntry, timeOf } from '../book.ts';
import { byPerson } from '../everybody/books.ts';
import type { Obstacle } from '../obstacle.ts';
import { limitsMet, type Met } from '../rules/limits.ts';
import type { LeaveType } from '../rules/type.ts';
import { type HalfSpan, takesHalfOf } from '../span.ts';

/** What wishes are collected for: leave of a type in some days, for those of a place or a department. */
export type WishRound = {
  readonly name: string;
  readonly type: string;
  readonly place: string | null;
  readonly department: string | null;
  readonly from: CivilDate;
  readonly to: CivilDate;
  /** At most so many of them are away at once; any number where nothing is said. */
  readonly mostAway: number | null;
};

/** Somebody of the round, with their wishes in the order in which they would have them. */
export type Wisher = {
  readonly person: PersonId;
  readonly wishes: readonly HalfSpan[];
  /** What they had in these days of the year before, in days as they are counted. */
  readonly had: number;
  /** Drawn for them; the lower one comes first. */
  readonly lot: string;
};

/** Whether a round is for somebody: they are there on its first day, or come in it. */
export function isForPerson(person: Person, { place, department, from, to }: WishRound): boolean {
  const begins = person.joined > from ? person.joined : from;
  if (begins > to || (person.left !== null && person.left < begins)) return false;
  const record = recordOn(person, begins);
  return (place === null || record.place === place) && (department === null || record.department === department);
}

/** Whom a round is for. */
export const inRound = ({ directory }: DirectoryIndex, round: WishRound): Person[] =>
  directory.people.filter(person => isForPerson(person, round));

/** The same days of the year before. */
export function yearBefore({ from, to }: Pick<WishRound, 'from' | 'to'>): { from: CivilDate; to: CivilDate } {
  const back = (day: CivilDate): CivilDate => fromDay(monthDayIn(Number(day.slice(0, 4)) - 1, day.slice(5)));
  return { from: back(from), to: back(to) };
}

/** What somebody had of a type in some days, booked. */
export function hadIn(
  book: LeaveBook,
  id: PersonId,
  type: LeaveType,
  days: { from: CivilDate; to: CivilDate },
): number {
  return book.entries.reduce((sum, entry) => {
    if (entry.person !== id || entry.type !== type.id || entry.state !== 'booked' || 'time' in entry.span.from)
      return sum;
    const { from, to } = entry.span as HalfSpan;
    if (to.date < days.from || from.date > days.to) return sum;
    const within: HalfSpan = {
      from: from.date < days.from ? { date: days.from, half: 'am' } : from,
      to: to.date > days.to ? { date: days.to, half: 'pm' } : to,
    };
    return sum + (amountOf(book, id, type, within)?.days ?? 0);
  }, 0);
}

/** In whose turn it is; those of one turn by their lots. */
export const inTurn = <One extends Pick<Wisher, 'had' | 'lot' | 'person'>>(wishers: readonly One[]): One[] =>
  wishers.toSorted((a, b) => a.had - b.had || (a.lot < b.lot ? -1 : a.lot > b.lot ? 1 : a.person < b.person ? -1 : 1));

/** Why a wish cannot be had with those that were given before it. */
export type InTheWay =
  | { readonly code: 'obstacle'; readonly obstacle: Obstacle }
  | { readonly code: 'limit'; readonly met: Met }
  | { readonly code: 'too many away'; readonly on: CivilDate; readonly away: number; readonly most: number };

export type Given = {
  readonly person: PersonId;
  /** Which of their wishes; nothing where none can be had. */
  readonly wish: number | null;
  /** Of each wish that was looked at and cannot be had, why. */
  readonly ways: readonly { readonly wish: number; readonly why: InTheWay }[];
};

/** The first day of a span on which with it more than so many of a group would be away from work. */
function tooManyAway(
  book: LeaveBook,
  group: readonly Person[],
  { person, span }: { readonly person: PersonId; readonly span: HalfSpan },
  most: number,
): InTheWay | undefined {
  const of = new Map<PersonId, LeaveEntry[]>();
  for (const entry of book.entries)
    if (entry.span.from.date <= span.to.date && span.from.date <= entry.span.to.date)
      of.set(entry.person, [...(of.get(entry.person) ?? []), entry]);
  for (let day = toDay(span.from.date); day <= toDay(span.to.date); day++)
    for (const half of ['am', 'pm'] as const) {
      const index = halfIndex(day, half);
      const isOwn = book.index.person(person);
      if (!isOwn || !takesHalfOf(span, index) || !timeOf(book, isOwn).parts(day)[half]) continue;
      const away = group.filter(
        one =>
          one.id !== person &&
          (of.get(one.id) ?? []).some(entry => takesHalfOf(entry.span, index)) &&
          timeOf(book, one).parts(day)[half] !== undefined,
      ).length;
      if (away + 1 > most) return { code: 'too many away', on: fromDay(day), away: away + 1, most };
    }
  return undefined;
}

/** A wish as it stands in a book beside what is booked. */
export const wishedEntry = (person: PersonId, type: string, span: HalfSpan): LeaveEntry => ({
  request: `wish ${person} ${span.from.date} ${span.from.half}`,
  ...{ person, type, span, state: 'booked' },
});

/** What stands in the way of a wish; nothing where it can be had. */
export function inTheWayOf(
  book: LeaveBook,
  group: readonly Person[],
  round: WishRound,
  type: LeaveType,
  wish: { readonly person: PersonId; readonly span: HalfSpan },
): InTheWay | undefined {
  const [obstacle] = obstacles(book, wish.person, type.id, wish.span, { how: 'by HR' });
  if (obstacle) return { code: 'obstacle', obstacle };
  // How long before it is asked for is no matter of a round; whose turn it is, the round itself says.
  const limit = limitsMet(book, wish.person, type, wish.span).find(
    ({ how, met, pass }) => how === 'stops' && !pass && met.rule !== 'notice' && met.rule !== 'turn',
  );
  if (limit) return { code: 'limit', met: limit.met };
  return round.mostAway === null ? undefined : tooManyAway(book, group, wish, round.mostAway);
}

/**
 * One after another in turn, each with the first wish that can be had.
 * @param wishers in turn
 * @yields what each is given, so that whoever works it out for many may let others in between
 */
export function* givenInTurn(
  book: LeaveBook,
  round: WishRound,
  type: LeaveType,
  wishers: readonly Wisher[],
): Generator<Given> {
  const group = inRound(book.index, round);
  const own = byPerson(book.entries);
  const adjusted = byPerson(book.adjustments);
  // Of others it matters what they have in these days alone, and a night before them.
  const first = addDays(round.from, -1);
  const near = book.entries.filter(({ span }) => first <= span.to.date && span.from.date <= round.to);
  const given: LeaveEntry[] = [];
  for (const { person, wishes } of wishers) {
    const others = near.filter(entry => entry.person !== person);
    const now: LeaveBook = {
      ...book,
      entries: [...(own.get(person) ?? []), ...others, ...given],
      adjustments: adjusted.get(person) ?? [],
    };
    const ways: { wish: number; why: InTheWay }[] = [];
    let wish: number | null = null;
    for (const [n, span] of wishes.entries()) {
      const why = inTheWayOf(now, group, round, type, { person, span });
      if (!why) {
        wish = n;
        given.push(wishedEntry(person, type.id, span));
        break;
      }
      ways.push({ wish: n, why });
    }
    yield { person, wish, ways };
  }
}

/** The days that a wish may be in: those of the round. */
export const isInRound = ({ from, to }: Pick<WishRound, 'from' | 'to'>, span: HalfSpan): boolean =>
  from <= span.from.date && span.to.date <= to && span.from.date <= span.to.date;

/** The last days of a round are not long after its first ones. */
export const longestRound = 366;
export const roundEnds = (from: CivilDate): CivilDate => addDays(from, longestRound - 1);
