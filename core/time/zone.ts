/** Instants (UTC) and the wall clock of a zone. Zone rules come from the platform's IANA data through Intl. */
import type { z } from 'zod';
import { type CivilDate, type DayNumber, fromDay, toDay } from './civilDate.ts';

/** An instant as ISO 8601 in UTC, `2026-02-04T17:00:00Z`. */
export type Instant = string & z.$brand<'Instant'>;

export const toMilliseconds = (instant: Instant | string): number => Date.parse(instant);

/** To whole seconds; what is below a second is cut off. */
export const toInstant = (milliseconds: number): Instant =>
  `${new Date(milliseconds).toISOString().slice(0, 19)}Z` as Instant;

/** The civil date in a zone at an instant. */
export function civilDateAt(instant: Instant | string, zone: string): CivilDate {
  return localAt(instant, zone).date;
}

type Local = { readonly date: CivilDate; readonly minutes: number };

/** A stretch of time in which a zone keeps one distance from UTC; all in milliseconds, `to` is its first moment after. */
type Stretch = { readonly from: number; readonly to: number; readonly offset: number };

const dayLength = 86_400_000;
/** Clocks that are changed are not changed back within less. */
const step = 14 * dayLength;
/** How far a stretch is followed, each way. */
const farthest = 30 * step;
const mostStretches = 64;
const stretches = new Map<string, Stretch[]>();
const clocks = new Map<string, Intl.DateTimeFormat>();

function clockOf(zone: string): Intl.DateTimeFormat {
  const known = clocks.get(zone);
  if (known) return known;
  const two = '2-digit' as const;
  const made = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    hourCycle: 'h23',
    year: 'numeric',
    month: two,
    day: two,
    hour: two,
    minute: two,
    second: two,
  });
  clocks.set(zone, made);
  return made;
}

/** How far the clocks of a zone are ahead of UTC, as the platform’s rules say. */
function offsetAt(at: number, zone: string): number {
  const part: Record<string, number> = {};
  for (const { type, value } of clockOf(zone).formatToParts(at)) part[type] = Number(value);
  const shown = Date.UTC(part.year, part.month - 1, part.day, part.hour, part.minute, part.second);
  return shown - Math.floor(at / 1000) * 1000;
}

/** The first moment, to the second, at which a zone keeps the distance that it keeps at `later` and not at `earlier`. */
function changeBetween(earlier: number, later: number, zone: string): number {
  const offset = offsetAt(later, zone);
  let [before, after] = [Math.floor(earlier / 1000), Math.floor(later / 1000)];
  while (after - before > 1) {
    const middle = Math.floor((before + after) / 2);
    if (offsetAt(middle * 1000, zone) === offset) after = middle;
    else before = middle;
  }
  return after * 1000;
}

/** Asked of the zone's rules once for each half of a year, and then known: rules are slow to ask. */
function stretchAt(at: number, zone: string): Stretch {
  const known = stretches.get(zone) ?? [];
  const found = known.find(one => one.from <= at && at < one.to);
  if (found) return found;
  const offset = offsetAt(at, zone);
  let [from, to] = [at, at];
  while (from > at - farthest && offsetAt(from - step, zone) === offset) from -= step;
  while (to < at + farthest && offsetAt(to + step, zone) === offset) to += step;
  const stretch = {
    from: from > at - farthest ? changeBetween(from - step, from, zone) : from,
    to: to < at + farthest ? changeBetween(to, to + step, zone) : to,
    offset,
  };
  stretches.set(zone, [stretch, ...known].slice(0, mostStretches));
  return stretch;
}

/** The wall clock of a zone at an instant: its date, and minutes since midnight. */
export function localAt(instant: Instant | string, zone: string): Local {
  // By far the most asked for, and written in the instant itself.
  if (zone === 'UTC') {
    return {
      date: instant.slice(0, 10) as CivilDate,
      minutes: Number(instant.slice(11, 13)) * 60 + Number(instant.slice(14, 16)),
    };
  }
  const at = toMilliseconds(instant);
  const local = at + stretchAt(at, zone).offset;
  const day = Math.floor(local / dayLength);
  return { date: fromDay(day), minutes: Math.floor((local - day * dayLength) / 60_000) };
}

/**
 * Milliseconds of a wall-clock moment, `minutes` after midnight of a day (may go past 24:00).
 * A skipped local time moves forward; a repeated one is its first occurrence.
 */
export function wallClock(day: DayNumber, minutes: number, zone: string): number {
  const wall = day * dayLength + minutes * 60_000;
  const [before, after] = [stretchAt(wall - dayLength, zone), stretchAt(wall + dayLength, zone)];
  const early = wall - before.offset;
  if (before.offset === after.offset) return early;
  const change = changeBetween(wall - dayLength, wall + dayLength, zone);
  const late = wall - after.offset;
  return early >= change && late >= change ? late : early;
}

/** The midnight after a day. */
export const dayOver = (date: CivilDate | string, zone: string): Instant =>
  toInstant(wallClock(toDay(date) + 1, 0, zone));

export const dayAt = (instant: Instant | string, zone: string): DayNumber => toDay(civilDateAt(instant, zone));

/** Whether a name is that of a time zone known here. */
export function isZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en-GB', { timeZone: name });
    return true;
  } catch {
    return false;
  }
}
