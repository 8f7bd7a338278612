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

/** The minute that was last asked for in each zone: one piece of work asks for its own moment many times over. */
const lastAsked = new Map<string, { minute: string; local: Local }>();

/** The wall clock of a zone at an instant: its date, and minutes since midnight. */
export function localAt(instant: Instant | string, zone: string): Local {
  // By far the most asked for, and written in the instant itself.
  if (zone === 'UTC') {
    return {
      date: instant.slice(0, 10) as CivilDate,
      minutes: Number(instant.slice(11, 13)) * 60 + Number(instant.slice(14, 16)),
    };
  }
  const minute = instant.slice(0, 16);
  const known = lastAsked.get(zone);
  if (known?.minute === minute) return known.local;
  const at = Temporal.Instant.from(instant).toZonedDateTimeISO(zone);
  const local = { date: at.toPlainDate().toString() as CivilDate, minutes: at.hour * 60 + at.minute };
  lastAsked.set(zone, { minute, local });
  return local;
}

/**
 * Milliseconds of a wall-clock moment, `minutes` after midnight of a day (may go past 24:00).
 * A skipped local time moves forward; a repeated one is its first occurrence.
 */
export function wallClock(day: DayNumber, minutes: number, zone: string): number {
  const date = fromDay(day + Math.floor(minutes / 1440));
  const rest = minutes % 1440;
  return Temporal.PlainDateTime.from(date)
    .add({ minutes: rest })
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
