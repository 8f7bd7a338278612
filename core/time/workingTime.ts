/**
 * Working time of one person: patterns less holidays.
 * The index holds running sums by half day, so that the days and minutes of any span inside its window are two look-ups,
 * however long the span is. Outside the window it falls back to walking the days.
 */
import { type DayNumber, weekday } from './civilDate.ts';
import { type Holiday, type HolidayIndex, indexHolidays } from './holidays.ts';
import {
  type Half,
  type Part,
  type Schedule,
  type ScheduledDay,
  schedule,
  type WorkPattern,
  wholeDay,
} from './pattern.ts';

/** A half day on the line of time: twice the day number, plus one for the afternoon. */
export const halfIndex = (day: DayNumber, half: Half): number => day * 2 + (half === 'pm' ? 1 : 0);

/** Days as the parts count them, and minutes. */
export type PartSums = { readonly days: number; readonly minutes: number };

export type WorkingTime = {
  /** The scheduled parts of a day, those that fall on a holiday left out. */
  readonly parts: (day: DayNumber) => ScheduledDay;
  /** What the pattern alone schedules. */
  readonly schedule: Schedule;
  readonly holidays: HolidayIndex;
  /** What the scheduled parts count from one half index to another, both included. */
  readonly scheduled: (first: number, last: number) => PartSums;
  /** Monday-to-Friday halves that are no holiday. */
  readonly weekdays: (first: number, last: number) => number;
};

const length = (part: Part | null): number => (part ? part.end - part.start : 0);

function without(day: ScheduledDay, off: { am: boolean; pm: boolean } | undefined): ScheduledDay {
  return off && !day.worked ? { am: off.am ? null : day.am, pm: off.pm ? null : day.pm } : day;
}

/**
 * @param window first and last day number that the running sums cover (both included)
 */
export function workingTime(
  patterns: readonly WorkPattern[],
  holidays: readonly Holiday[] | HolidayIndex,
  window: { first: DayNumber; last: DayNumber },
): WorkingTime {
  const scheduled = schedule(patterns);
  const off = 'get' in holidays ? holidays : indexHolidays(holidays);
  const parts = (day: DayNumber) => without(scheduled(day), off.get(day));
  const base = window.first * 2;
  const size = Math.max(0, window.last - window.first + 1) * 2;
  const shares = new Float64Array(size + 1);
  const minutes = new Int32Array(size + 1);
  const weekdayHalves = new Int32Array(size + 1);
  for (let i = 0; i < size; i += 2) {
    const day = window.first + i / 2;
    const { am, pm } = parts(day);
    const free = off.get(day);
    const isWeekday = weekday(day) <= 5;
    shares[i + 1] = shares[i] + (am?.share ?? 0);
    shares[i + 2] = shares[i + 1] + (pm?.share ?? 0);
    minutes[i + 1] = minutes[i] + length(am);
    minutes[i + 2] = minutes[i + 1] + length(pm);
    weekdayHalves[i + 1] = weekdayHalves[i] + (isWeekday && !free?.am ? 1 : 0);
    weekdayHalves[i + 2] = weekdayHalves[i + 1] + (isWeekday && !free?.pm ? 1 : 0);
  }
  const covers = (first: number, last: number) => first >= base && last < base + size;

  function walk(first: number, last: number): PartSums & { weekdays: number } {
    const sums = { days: 0, minutes: 0, weekdays: 0 };
    for (let index = first; index <= last; index++) {
      const day = Math.floor(index / 2);
      const half: Half = index % 2 === 0 ? 'am' : 'pm';
      const found = parts(day)[half];
      sums.days += found?.share ?? 0;
      sums.minutes += length(found);
      if (weekday(day) <= 5 && !off.get(day)?.[half]) sums.weekdays++;
    }
    return { ...sums, days: sums.days / wholeDay };
  }

  return {
    parts,
    schedule: scheduled,
    holidays: off,
    scheduled(first, last) {
      if (!covers(first, last)) {
        const { days, minutes: sum } = walk(first, last);
        return { days, minutes: sum };
      }
      const a = first - base;
      const b = last - base + 1;
      return { days: (shares[b] - shares[a]) / wholeDay, minutes: minutes[b] - minutes[a] };
    },
    weekdays(first, last) {
      if (!covers(first, last)) return walk(first, last).weekdays;
      return weekdayHalves[last - base + 1] - weekdayHalves[first - base];
    },
  };
}
