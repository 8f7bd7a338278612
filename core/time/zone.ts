/** Instants (UTC) and the wall clock of a zone. Zone rules come from the platform's IANA data through Temporal. */
import { Temporal } from 'temporal-polyfill';
import { z } from 'zod';
import { type CivilDate, type DayNumber, fromDay, toDay } from './civilDate.ts';

export const Zone = z.string().refine(text => {
  try {
    new Intl.DateTimeFormat('en', { timeZone: text });
    return true;
  } catch {
    return false;
  }
}, 'is not a time zone, as in Europe/Lisbon');

/** An instant as ISO 8601 in UTC, `2026-02-04T17:00:00Z`. */
export const Instant = z
  .string()
  .refine(text => /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?Z$/.test(text) && !Number.isNaN(Date.parse(text)), {
    message: 'is not an instant in UTC, as in 2026-02-04T17:00:00Z',
  })
  .brand<'Instant'>();
export type Instant = z.infer<typeof Instant>;

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
const mostStretches = 64;
const stretches = new Map<string, Stretch[]>();

/** Asked of the zone's rules once for each half of a year, and then known: rules are slow to ask. */
function stretchAt(at: number, zone: string): Stretch {
  const known = stretches.get(zone) ?? [];
  const found = known.find(one => one.from <= at && at < one.to);
  if (found) return found;
  const here = Temporal.Instant.fromEpochMilliseconds(at).toZonedDateTimeISO(zone);
  // One millisecond on, so that a change at this very moment is the one before.
  const before = here.add({ milliseconds: 1 }).getTimeZoneTransition('previous');
  const after = here.getTimeZoneTransition('next');
  const stretch = {
    from: before?.epochMilliseconds ?? Number.NEGATIVE_INFINITY,
    to: after?.epochMilliseconds ?? Number.POSITIVE_INFINITY,
    offset: here.offsetNanoseconds / 1e6,
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
  if (before === after || early < before.to) return early;
  const late = wall - after.offset;
  if (before.to === after.from) return late >= after.from ? late : early;
  // Two changes within two days, as no zone has had in living memory: the rules themselves say.
  return Temporal.PlainDateTime.from(fromDay(day + Math.floor(minutes / 1440)))
    .add({ minutes: minutes % 1440 })
    .toZonedDateTime(zone, { disambiguation: 'compatible' }).epochMilliseconds;
}

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
