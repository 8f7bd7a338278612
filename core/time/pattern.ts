/**
 * A work pattern says when a person is scheduled: from a date on, a cycle of days counted from an anchor.
 * Each day has a morning and an afternoon part, each absent or a start and an end in minutes of that day.
 * An end past 24:00 belongs to the day on which the part starts.
 */
import { z } from 'zod';
import { type DayNumber, toDay } from './civilDate.ts';
import { CivilDate } from './schemas.ts';

export type Half = 'am' | 'pm';

/** A part of a day; minutes since midnight of the day on which it starts. */
export type Part = {
  readonly start: number;
  readonly end: number;
  /** What the part counts in days of leave, in millionths: whole numbers, so that sums of any length stay exact. */
  readonly share: number;
};

/** Millionths of a day in a day: shares of parts are kept as whole numbers. */
export const wholeDay = 1_000_000;
const halfDay = wholeDay / 2;

const clock = /^(\d{2}):([0-5]\d)$/;

/** `HH:MM` in minutes; hours may go past 24. */
export const minutesOf = (text: string): number => Number(text.slice(0, 2)) * 60 + Number(text.slice(3, 5));

const ClockTime = (lastMinute: number) =>
  z.string().refine(text => clock.test(text) && minutesOf(text) <= lastMinute, 'is not a time of day, as in 09:00');

/** A time of day from 00:00 to 24:00. */
export const TimeOfDay = ClockTime(24 * 60);

const PartInput = z
  .tuple([ClockTime(24 * 60 - 1), ClockTime(48 * 60)])
  .refine(([start, end]) => minutesOf(end) > minutesOf(start), 'a part ends after it starts');

/** What a part counts in days: up to 10, with at most six decimals. */
const DaysOfPart = z
  .number()
  .min(0)
  .max(10)
  .refine(days => Math.abs(days * wholeDay - Math.round(days * wholeDay)) < 1e-3, 'has at most six decimals');

export const WorkPattern = z.object({
  from: CivilDate,
  anchor: CivilDate,
  /** The days of the cycle; a part whose days are not said counts half a day. */
  cycle: z
    .array(
      z.object({
        am: PartInput.nullish(),
        pm: PartInput.nullish(),
        days: z.object({ am: DaysOfPart.nullish(), pm: DaysOfPart.nullish() }).nullish(),
        /** Worked also where it falls on a holiday. */
        holidays: z.literal('worked').nullish(),
      }),
    )
    .min(1),
});
export type WorkPattern = z.infer<typeof WorkPattern>;

/** `worked`: also on holidays. */
export type ScheduledDay = { readonly am: Part | null; readonly pm: Part | null; readonly worked?: true };

const freeDay: ScheduledDay = { am: null, pm: null };

type Prepared = { from: DayNumber; anchor: DayNumber; days: ScheduledDay[] };

const part = (input: readonly string[] | null | undefined, days: number | null | undefined): Part | null =>
  input
    ? {
        start: minutesOf(input[0]),
        end: minutesOf(input[1]),
        share: days === null || days === undefined ? halfDay : Math.round(days * wholeDay),
      }
    : null;

/** What the patterns schedule on a day, holidays aside. Before the first pattern nothing is scheduled. */
export type Schedule = (day: DayNumber) => ScheduledDay;

/** Prepares effective-dated patterns: on a day, the one with the latest `from` on or before it holds. */
export function schedule(patterns: readonly WorkPattern[]): Schedule {
  const prepared: Prepared[] = patterns
    .map(p => ({
      from: toDay(p.from),
      anchor: toDay(p.anchor),
      days: p.cycle.map(d => ({
        am: part(d.am, d.days?.am),
        pm: part(d.pm, d.days?.pm),
        ...(d.holidays === 'worked' ? { worked: true as const } : {}),
      })),
    }))
    .sort((a, b) => a.from - b.from);
  return day => {
    for (let i = prepared.length - 1; i >= 0; i--) {
      const pattern = prepared[i];
      if (pattern.from > day) continue;
      const length = pattern.days.length;
      return pattern.days[(((day - pattern.anchor) % length) + length) % length];
    }
    return freeDay;
  };
}

/**
 * How many hours a day of leave is by a pattern: all its hours over all its days, as they count.
 * @returns nothing for a pattern in which nobody works
 */
export function hoursOfDay(cycle: WorkPattern['cycle']): number | null {
  let [minutes, days] = [0, 0];
  for (const { am, pm, days: counts } of cycle) {
    for (const [times, weight] of [
      [am, counts?.am],
      [pm, counts?.pm],
    ] as const) {
      if (!times) continue;
      minutes += minutesOf(times[1]) - minutesOf(times[0]);
      days += weight ?? 0.5;
    }
  }
  return days === 0 || minutes === 0 ? null : Math.round((minutes / 60 / days) * 10_000) / 10_000;
}
