/** A leave span: first to last day by halves, or with wall-clock times. */
import { z } from 'zod';
import { CivilDate, halfIndex, minutesOf, TimeOfDay, toDay } from '../time/index.ts';

const HalfEnd = z.object({ date: CivilDate, half: z.enum(['am', 'pm']) }).strict();
const TimeEnd = z.object({ date: CivilDate, time: TimeOfDay }).strict();

export const HalfSpan = z.object({ from: HalfEnd, to: HalfEnd });
export type HalfSpan = z.infer<typeof HalfSpan>;
export const TimeSpan = z.object({ from: TimeEnd, to: TimeEnd });
export type TimeSpan = z.infer<typeof TimeSpan>;

export const LeaveSpan = z.union([HalfSpan, TimeSpan]);
export type LeaveSpan = z.infer<typeof LeaveSpan>;

export const isTimed = (span: LeaveSpan): span is TimeSpan => 'time' in span.from;

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

/** The stretch that a span covers on the wall clock, a half day reckoned as its half of 24 hours. */
function stretch(span: LeaveSpan): { start: number; end: number } {
  if (isTimed(span)) return minutesSpan(span);
  const { first, last } = halvesOf(span);
  return { start: first * 720, end: (last + 1) * 720 };
}

export function overlap(a: LeaveSpan, b: LeaveSpan): boolean {
  const x = stretch(a);
  const y = stretch(b);
  return x.start < y.end && y.start < x.end;
}
