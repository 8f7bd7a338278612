/** A leave span: first to last day by halves, or with wall-clock times. */
import { z } from 'zod';
import { CivilDate, type DayNumber, halfIndex, minutesOf, TimeOfDay, toDay, type WorkingTime } from '../time/index.ts';

const HalfEnd = z.object({ date: CivilDate, half: z.enum(['am', 'pm']) }).strict();
const TimeEnd = z.object({ date: CivilDate, time: TimeOfDay }).strict();

/** One whose last day is not known yet is open: `to` is the last day that is known of it, and it goes on until more is told. */
export const HalfSpan = z.object({ from: HalfEnd, to: HalfEnd, open: z.literal(true).exactOptional() });
export type HalfSpan = z.infer<typeof HalfSpan>;
export const TimeSpan = z.object({ from: TimeEnd, to: TimeEnd });
export type TimeSpan = z.infer<typeof TimeSpan>;

export const LeaveSpan = z.union([HalfSpan, TimeSpan]);
export type LeaveSpan = z.infer<typeof LeaveSpan>;

export const isTimed = (span: LeaveSpan): span is TimeSpan => 'time' in span.from;

/** Whether its last day is not known yet. */
export const isOpen = (span: LeaveSpan): boolean => 'open' in span && span.open === true;

/** The last day under which one is looked for: an open one, whose end may be any, under the last of all. */
export const lastDayOf = (span: LeaveSpan): CivilDate => (isOpen(span) ? ('9999-12-31' as CivilDate) : span.to.date);

/** So many days ahead somebody whose last day is not known is counted as away, when others plan. */
export const openAhead = 7;

/**
 * A span as far as it is known on a day: an open one goes on until then, and any other is what it is.
 * @returns a span that is not open
 */
export function asKnownOn(span: LeaveSpan, day: CivilDate): LeaveSpan {
  if (isTimed(span) || !isOpen(span)) return span;
  const { from, to } = span;
  return { from, to: to.date < day ? { date: day, half: 'pm' } : { date: to.date, half: 'pm' } };
}

/**
 * What of a span lies within an employment. Leave ends with the last day on file, and is there again when that moves: it is
 * never taken off the booking itself.
 * @returns nothing of a span that begins after it
 */
export function whileEmployed(span: LeaveSpan, left: CivilDate | null): LeaveSpan | null {
  if (left === null || (span.to.date <= left && !isOpen(span))) return span;
  if (span.from.date > left) return null;
  if (span.to.date <= left) return span;
  return isTimed(span)
    ? { from: span.from, to: { date: left, time: '24:00' } }
    : { from: span.from, to: { date: left, half: 'pm' } };
}

/** First and last half day of a span by halves, both included. */
export const halvesOf = (span: HalfSpan): { first: number; last: number } => ({
  first: halfIndex(toDay(span.from.date), span.from.half),
  last: halfIndex(toDay(span.to.date), span.to.half),
});

/** Wall-clock minutes since 1970-01-01T00:00, end not included. */
export const minutesSpan = (span: TimeSpan): { start: number; end: number } => ({
  start: toDay(span.from.date) * 1440 + minutesOf(span.from.time),
  end: toDay(span.to.date) * 1440 + minutesOf(span.to.time),
});

/** With times also a span of no length ends before it starts. */
export function endsBeforeItStarts(span: LeaveSpan): boolean {
  if (isTimed(span)) {
    const { start, end } = minutesSpan(span);
    return end <= start;
  }
  const { first, last } = halvesOf(span);
  return last < first;
}

/** Calendar days from the first to the last, both counted. */
export const daysOf = (span: LeaveSpan): number => toDay(span.to.date) - toDay(span.from.date) + 1;

/** What a span takes of a part, as minutes since 1970-01-01T00:00; nothing when it takes none of it. */
function takenOf(
  span: LeaveSpan,
  index: number,
  part: { start: number; end: number },
): { start: number; end: number } | undefined {
  const day = Math.floor(index / 2);
  const whole = { start: day * 1440 + part.start, end: day * 1440 + part.end };
  if (!isTimed(span)) {
    const { first, last } = halvesOf(span);
    return first <= index && index <= last ? whole : undefined;
  }
  const { start, end } = minutesSpan(span);
  const taken = { start: Math.max(start, whole.start), end: Math.min(end, whole.end) };
  return taken.start < taken.end ? taken : undefined;
}

/** Whether a span takes the whole of a part. */
export function takesPart(span: LeaveSpan, index: number, part: { start: number; end: number }): boolean {
  const taken = takenOf(span, index, part);
  return taken !== undefined && taken.end - taken.start === part.end - part.start;
}

/**
 * The days on which two spans share a scheduled part or a minute of one, wherever midnight falls: a night that began
 * the day before is the same shift.
 * @param countsToo halves that count although nothing is scheduled, as with leave by calendar days
 */
export function* sharedDays(
  time: WorkingTime,
  a: LeaveSpan,
  b: LeaveSpan,
  countsToo: (index: number) => boolean = () => false,
): Generator<DayNumber> {
  const first = Math.max(toDay(a.from.date), toDay(b.from.date)) - 1;
  const last = Math.min(toDay(a.to.date), toDay(b.to.date));
  for (let day = first; day <= last; day++) {
    const parts = time.parts(day);
    const shared = (['am', 'pm'] as const).some(half => {
      const index = halfIndex(day, half);
      const part = parts[half];
      if (!part) return takesHalf(a, index) && takesHalf(b, index) && countsToo(index);
      const x = takenOf(a, index, part);
      const y = takenOf(b, index, part);
      return x !== undefined && y !== undefined && x.start < y.end && y.start < x.end;
    });
    if (shared) yield day;
  }
}

/** Whether a span is away in a half day; one with times is on each of its days. */
export function takesHalfOf(span: LeaveSpan, index: number): boolean {
  const day = Math.floor(index / 2);
  return isTimed(span) ? toDay(span.from.date) <= day && day <= toDay(span.to.date) : takesHalf(span, index);
}

function takesHalf(span: LeaveSpan, index: number): boolean {
  if (isTimed(span)) return false;
  const { first, last } = halvesOf(span);
  return first <= index && index <= last;
}

/** Whether two spans of one person overlap. */
export const overlap = (
  time: WorkingTime,
  a: LeaveSpan,
  b: LeaveSpan,
  countsToo?: (index: number) => boolean,
): boolean => !sharedDays(time, a, b, countsToo).next().done;
