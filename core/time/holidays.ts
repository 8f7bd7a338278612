/**
 * Holidays take a whole day, a morning or an afternoon off the schedule.
 * Calendars build on one another: a station adds its own days to its region's.
 */
import { z } from 'zod';
import { CivilDate, type DayNumber, toDay } from './civilDate.ts';

export const Holiday = z.object({
  date: CivilDate,
  part: z.enum(['day', 'am', 'pm']),
  name: z.string().optional(),
});
export type Holiday = z.infer<typeof Holiday>;

export type Calendar = {
  readonly id: string;
  readonly name: string;
  readonly buildsOn: string | null;
  readonly holidays: readonly Holiday[];
};

/** The holidays of a calendar and of all that it builds on. A circle of calendars is read once around. */
export function holidaysOf(calendars: readonly Calendar[], id: string): Holiday[] {
  const found: Holiday[] = [];
  const seen = new Set<string>();
  for (let at: string | null = id; at !== null && !seen.has(at); ) {
    seen.add(at);
    const calendar = calendars.find(c => c.id === at);
    if (!calendar) break;
    found.push(...calendar.holidays);
    at = calendar.buildsOn;
  }
  return found.sort((a, b) => a.date.localeCompare(b.date));
}

/** Which halves of which days are off, with the holiday's name where it has one. */
export type HolidayIndex = ReadonlyMap<DayNumber, { am: boolean; pm: boolean; name: string }>;

export function indexHolidays(holidays: readonly Holiday[]): HolidayIndex {
  const index = new Map<DayNumber, { am: boolean; pm: boolean; name: string }>();
  for (const holiday of holidays) {
    const day = toDay(holiday.date);
    const entry = index.get(day) ?? { am: false, pm: false, name: '' };
    if (holiday.part !== 'pm') entry.am = true;
    if (holiday.part !== 'am') entry.pm = true;
    entry.name ||= holiday.name ?? 'a holiday';
    index.set(day, entry);
  }
  return index;
}
