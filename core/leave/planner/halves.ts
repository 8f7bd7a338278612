/** What one half day of a person is: not worked, holiday, at work, booked away, or asked for. */
import { type Half, toDay, type WorkingTime } from '../../time/index.ts';
import type { LeaveEntry } from '../book.ts';
import { halvesOf, isTimed } from '../span.ts';

/** A half day of one person: `-` not worked, `h` holiday, `w` at work, `b` booked away, `p` asked for, `l` a line that is no leave. */
export type HalfMark = '-' | 'h' | 'w' | 'b' | 'p' | 'l';

function covers(entry: LeaveEntry, index: number): boolean {
  if (isTimed(entry.span)) {
    const day = Math.floor(index / 2);
    return toDay(entry.span.from.date) <= day && day <= toDay(entry.span.to.date);
  }
  const { first, last } = halvesOf(entry.span);
  return first <= index && index <= last;
}

/** @param index half index as in the core: twice the day number, plus one for the afternoon */
export function halfState(time: WorkingTime, entries: readonly LeaveEntry[], index: number): HalfMark {
  const day = Math.floor(index / 2);
  const half: Half = index % 2 === 0 ? 'am' : 'pm';
  if (!time.schedule(day)[half]) return '-';
  if (!time.parts(day)[half]) return 'h';
  const entry = entries.find(e => covers(e, index));
  if (!entry) return 'w';
  return entry.state === 'booked' ? 'b' : 'p';
}
