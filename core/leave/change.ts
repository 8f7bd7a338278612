/** A change of booked leave while it is decided: what is asked for beyond what is booked is held, so that nothing else can take it. */
import { type CivilDate, fromDay } from '../time/index.ts';
import type { LeaveEntry } from './book.ts';
import {
  endsBeforeItStarts,
  type HalfSpan,
  halvesOf,
  isTimed,
  type LeaveSpan,
  lastDayOf,
  minutesSpan,
} from './span.ts';

/** What is asked for in place of what is booked. */
export type AskedInstead = { readonly type: string; readonly span: LeaveSpan };

const halfEnd = (half: number) =>
  ({ date: fromDay(Math.floor(half / 2)), half: half % 2 === 0 ? 'am' : 'pm' }) as const;
const two = (n: number): string => String(n).padStart(2, '0');
const timeEnd = (minutes: number) => ({
  date: fromDay(Math.floor(minutes / 1440)),
  time: `${two(Math.floor((minutes % 1440) / 60))}:${two(minutes % 60)}`,
});

/** By halves, whole days are booked as far as times go. */
function wholeDays(booked: HalfSpan): { start: number; end: number } {
  const { first, last } = halvesOf(booked);
  return { start: Math.floor(first / 2) * 1440, end: (Math.floor(last / 2) + 1) * 1440 };
}

/** What of a span lies before and after another one; of a half day of which the other takes some hours, nothing. */
export function beyond(asked: LeaveSpan, booked: LeaveSpan): LeaveSpan[] {
  const wanted: LeaveSpan[] = [];
  if (isTimed(asked)) {
    const own = minutesSpan(asked);
    const other = isTimed(booked) ? minutesSpan(booked) : wholeDays(booked);
    const between = (start: number, end: number) =>
      wanted.push({ from: timeEnd(start), to: timeEnd(end) } as LeaveSpan);
    if (own.start < other.start) between(own.start, Math.min(own.end, other.start));
    if (own.end > other.end) between(Math.max(own.start, other.end), own.end);
  } else {
    const own = halvesOf(asked);
    const other = isTimed(booked)
      ? halvesOf({ from: { date: booked.from.date, half: 'am' }, to: { date: booked.to.date, half: 'pm' } })
      : halvesOf(booked);
    const between = (from: number, to: number, open: boolean) =>
      wanted.push({ from: halfEnd(from), to: halfEnd(to), ...(open ? { open: true as const } : {}) });
    if (own.first < other.first) between(own.first, Math.min(own.last, other.first - 1), false);
    if (own.last > other.last) between(Math.max(own.first, other.last + 1), own.last, asked.open === true);
  }
  return wanted.filter(span => !endsBeforeItStarts(span));
}

/** Whether something is asked for beyond what is booked. */
export const asksMore = (asked: AskedInstead, booked: { readonly type: string; readonly span: LeaveSpan }): boolean =>
  asked.type !== booked.type || beyond(asked.span, booked.span).length > 0;

/** What is booked, and what is held besides while a change of it is decided. */
export function entriesWith(entry: LeaveEntry, instead: AskedInstead | null): LeaveEntry[] {
  if (!instead || entry.state !== 'booked') return [entry];
  const spans = instead.type === entry.type ? beyond(instead.span, entry.span) : [instead.span];
  const { open: _, reason: _r, ...rest } = entry;
  return [entry, ...spans.map(span => ({ ...rest, type: instead.type, span, state: 'held' as const }))];
}

/** The first and the last day of what is booked or held, and of what is asked for in its place. */
export function daysWith(span: LeaveSpan, instead: AskedInstead | null): { firstDay: CivilDate; lastDay: CivilDate } {
  const spans = instead ? [span, instead.span] : [span];
  return {
    firstDay: spans.map(one => one.from.date).toSorted()[0] as CivilDate,
    lastDay: spans.map(lastDayOf).toSorted().at(-1) as CivilDate,
  };
}
