/** Leave from which somebody is called back to work for some of its days: what is left of it before and after them. */
import type { PersonId } from '../people/index.ts';
import { type CivilDate, fromDay } from '../time/index.ts';
import { amountOf, type LeaveBook } from './book.ts';
import type { LeaveType } from './rules/type.ts';
import { type HalfSpan, halvesOf } from './span.ts';

/** The rest before the days on which they work, and the rest after them; nothing on a side where none is left. */
export type LeftOfLeave = { readonly before: HalfSpan | null; readonly after: HalfSpan | null };

const endOf = (half: number): { date: CivilDate; half: 'am' | 'pm' } => ({
  date: fromDay(Math.floor(half / 2)),
  half: half % 2 === 0 ? 'am' : 'pm',
});
const between = (first: number, last: number): HalfSpan | null =>
  first > last ? null : { from: endOf(first), to: endOf(last) };

/**
 * @param days on which they work; days outside the leave count for nothing
 * @returns nothing where no half day of the leave is among them
 */
export function leftOfLeave(leave: HalfSpan, days: HalfSpan): LeftOfLeave | undefined {
  const own = halvesOf(leave);
  const work = halvesOf(days);
  if (work.last < work.first || work.first > own.last || work.last < own.first) return undefined;
  return { before: between(own.first, work.first - 1), after: between(work.last + 1, own.last) };
}

/** What is left, without a rest of which nothing would be taken: free days alone are no leave. */
export function leftToTake(book: LeaveBook, id: PersonId, type: LeaveType, left: LeftOfLeave): LeftOfLeave {
  const taken = (span: HalfSpan | null): HalfSpan | null => {
    const amount = span && amountOf(book, id, type, span);
    return amount && (amount.days > 0 || amount.minutes > 0) ? span : null;
  };
  return { before: taken(left.before), after: taken(left.after) };
}
