/** Readers of dates and times. They stand by themselves, so that a page that only shows dates does not carry them. */
import { z } from 'zod';
import { isCivilDate, isNear, nearWords } from './civilDate.ts';
import { isZone } from './zone.ts';

export const CivilDate = z
  .string()
  .refine(isCivilDate, 'is not a date of the calendar, as in 2026-02-09')
  .brand<'CivilDate'>();
export type CivilDate = z.infer<typeof CivilDate>;

/** A date as people may give it. */
export const NearDate = CivilDate.refine(isNear, nearWords);

/** A day of the year as `MM-DD`. */
export const MonthDay = z
  .string()
  .refine(text => /^\d{2}-\d{2}$/.test(text) && isCivilDate(`2024-${text}`), 'is not a day of the year, as in 03-31');

export const Zone = z.string().refine(isZone, 'is not a time zone, as in Europe/Lisbon');

export const Instant = z
  .string()
  .refine(text => /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?Z$/.test(text) && !Number.isNaN(Date.parse(text)), {
    message: 'is not an instant in UTC, as in 2026-02-04T17:00:00Z',
  })
  .brand<'Instant'>();
export type Instant = z.infer<typeof Instant>;
