/** A cycle of a work pattern as it is edited: parts drawn, moved and stretched, day by day. */
import { minutesOf, type WorkPattern } from './pattern.ts';

export type CycleDay = WorkPattern['cycle'][number];
export type CycleHalf = 'am' | 'pm';

/** Parts are drawn and moved by quarters of an hour. */
export const cycleStep = 15;
/** As far as a day is drawn: to noon of the day after. */
export const cycleEnd = 36 * 60;

const clock = (minutes: number): string =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
const snapped = (minutes: number): number => Math.round(minutes / cycleStep) * cycleStep;
const within = (minutes: number, least: number, most: number): number => Math.max(least, Math.min(most, minutes));

export const partOf = (day: CycleDay, half: CycleHalf): { start: number; end: number } | null => {
  const part = day[half];
  return part ? { start: minutesOf(part[0]), end: minutesOf(part[1]) } : null;
};

/** A day with a part put in the place of one; nothing takes it away, and what it counted with it. */
export function withPart(day: CycleDay, half: CycleHalf, part: { start: number; end: number } | null): CycleDay {
  const { [half]: _, days, ...rest } = day;
  const { [half]: counted, ...others } = days ?? {};
  if (!part) return { ...rest, ...(Object.keys(others).length > 0 ? { days: others } : {}) };
  const start = within(snapped(part.start), 0, 24 * 60 - cycleStep);
  const end = within(snapped(part.end), start + cycleStep, 48 * 60);
  return { ...day, [half]: [clock(start), clock(end)], ...(counted === undefined ? {} : { days }) };
}

/** What a part counts in days of leave; nothing said is half a day. */
export const withDays = (day: CycleDay, half: CycleHalf, counted: number | null): CycleDay => {
  const { days = {}, ...rest } = day;
  const { [half]: _, ...others } = days ?? {};
  const next = counted === null ? others : { ...others, [half]: counted };
  return Object.keys(next).length > 0 ? { ...rest, days: next } : rest;
};

/** A part that is alone on its day and longer than this is a whole shift, in minutes. */
const longestHalf = 6 * 60;

/** The half in which a whole shift stands of which nothing is said: it would count half a day. */
export function wholeShift(day: CycleDay): CycleHalf | null {
  const half: CycleHalf = day.am ? 'am' : 'pm';
  const part = day.am && day.pm ? null : partOf(day, half);
  return part && part.end - part.start > longestHalf && typeof day.days?.[half] !== 'number' ? half : null;
}

/** A whole shift of one part as a whole day; any other day as it is. */
export function asWholeDay(day: CycleDay): CycleDay {
  const half = wholeShift(day);
  return half === null ? day : withDays(day, half, 1);
}

/** A new part drawn on a day: the first one by itself, the second after or before it; nothing where both are there. */
export function drawn(day: CycleDay, a: number, b: number): CycleDay {
  const part = { start: Math.min(a, b), end: Math.max(a, b, Math.min(a, b) + cycleStep) };
  if (!day.am && !day.pm) return asWholeDay(withPart(day, part.start < 12 * 60 ? 'am' : 'pm', part));
  if (day.am && day.pm) return day;
  const half = day.am ? 'am' : 'pm';
  const there = partOf(day, half) as { start: number; end: number };
  // With a second part beside it, it is a whole day no longer.
  if (day.days?.[half] === 1 && wholeShift(withDays(day, half, null)) === half)
    return drawn(withDays(day, half, null), a, b);
  // Of two parts the earlier one is the morning, whatever the clock says.
  if (part.start < there.start) return withPart(withPart(day, 'am', part), 'pm', there);
  return withPart(withPart(day, 'am', there), 'pm', part);
}

export const moved = (day: CycleDay, half: CycleHalf, by: number): CycleDay => {
  const part = partOf(day, half);
  if (!part) return day;
  const start = within(part.start + by, 0, 24 * 60 - cycleStep);
  return withPart(day, half, { start, end: start + part.end - part.start });
};

/** The end of a part sooner or later. */
export const stretched = (day: CycleDay, half: CycleHalf, by: number): CycleDay => {
  const part = partOf(day, half);
  return part ? withPart(day, half, { start: part.start, end: part.end + by }) : day;
};

/** @returns minutes of work in a whole cycle */
export const cycleMinutes = (cycle: readonly CycleDay[]): number =>
  cycle.reduce(
    (sum, day) =>
      sum +
      (['am', 'pm'] as const).reduce((all, half) => {
        const part = partOf(day, half);
        return all + (part ? part.end - part.start : 0);
      }, 0),
    0,
  );
