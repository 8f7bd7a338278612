/**
 * Holidays take a whole day, a morning or an afternoon off the schedule.
 * A calendar holds rules, which have no last year, and single days; calendars build on one another: a station adds its
 * own days to its region's.
 */
import { z } from 'zod';
import {
  type DayNumber,
  dayNumber,
  daysInMonth,
  fromDay,
  monthDayIn,
  toDay,
  weekday,
  yearMonthDay,
} from './civilDate.ts';
import { CivilDate, MonthDay } from './schemas.ts';

const HolidayPart = z.enum(['day', 'am', 'pm']);

export const Holiday = z.object({
  date: CivilDate,
  part: HolidayPart,
  name: z.string().optional(),
});
export type Holiday = z.infer<typeof Holiday>;

const Year = z.number().int().min(1900).max(2999);

/** A holiday of every year: a date, the nth (or last) weekday of a month, or some days from Easter Sunday. */
export const HolidayRule = z.object({
  name: z.string().trim().min(1).max(200),
  part: HolidayPart,
  on: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('date'), monthDay: MonthDay }).strict(),
    z
      .object({
        kind: z.literal('weekday'),
        month: z.number().int().min(1).max(12),
        /** ISO weekday, 1 Monday to 7 Sunday. */
        weekday: z.number().int().min(1).max(7),
        nth: z.union([z.number().int().min(1).max(5), z.literal('last')]),
      })
      .strict(),
    z.object({ kind: z.literal('easter'), days: z.number().int().min(-80).max(250) }).strict(),
  ]),
  /** First and last year in which it holds; without them always. */
  from: Year.nullish(),
  to: Year.nullish(),
});
export type HolidayRule = z.infer<typeof HolidayRule>;

export type Calendar = {
  readonly id: string;
  readonly name: string;
  readonly buildsOn: string | null;
  readonly rules?: readonly HolidayRule[];
  readonly holidays: readonly Holiday[];
};

/** Easter Sunday of a year of the Gregorian calendar. Source: Meeus, Jones and Butcher. */
export function easterSunday(year: number): DayNumber {
  const a = year % 19;
  const b = Math.floor(year / 100);
  const c = year % 100;
  const d = Math.floor(b / 4);
  const e = b % 4;
  const g = Math.floor((8 * b + 13) / 25);
  const h = (19 * a + b - d - g + 15) % 30;
  const m = Math.floor((a + 11 * h) / 319);
  const r = (2 * e + 2 * Math.floor(c / 4) - (c % 4) - h + m + 32) % 7;
  const month = Math.floor((h - m + r + 90) / 25);
  return dayNumber(year, month, (h - m + r + month + 19) % 32);
}

/** The day of a rule in a year; nothing when the rule does not hold then or the month has no such weekday. */
export function ruleDayIn(rule: HolidayRule, year: number): DayNumber | undefined {
  if ((rule.from && year < rule.from) || (rule.to && year > rule.to)) return undefined;
  const { on } = rule;
  switch (on.kind) {
    case 'date':
      return monthDayIn(year, on.monthDay);
    case 'easter':
      return easterSunday(year) + on.days;
    case 'weekday': {
      const first = dayNumber(year, on.month, 1);
      const last = first + daysInMonth(year, on.month) - 1;
      if (on.nth === 'last') return last - ((weekday(last) - on.weekday + 7) % 7);
      const day = first + ((on.weekday - weekday(first) + 7) % 7) + (on.nth - 1) * 7;
      return day <= last ? day : undefined;
    }
  }
}

/** What is off on a day. */
export type OffDay = { readonly am: boolean; readonly pm: boolean; readonly name: string };

/** Which halves of which days are off, with the holiday's name where it has one. */
export type HolidayIndex = { readonly get: (day: DayNumber) => OffDay | undefined };

type Writable = Map<DayNumber, { am: boolean; pm: boolean; name: string }>;

function enter(index: Writable, day: DayNumber, part: Holiday['part'], name: string | undefined): void {
  const entry = index.get(day) ?? { am: false, pm: false, name: '' };
  if (part !== 'pm') entry.am = true;
  if (part !== 'am') entry.pm = true;
  entry.name ||= name ?? 'a holiday';
  index.set(day, entry);
}

export function indexHolidays(holidays: readonly Holiday[]): HolidayIndex {
  const index: Writable = new Map();
  for (const { date, part, name } of holidays) enter(index, toDay(date), part, name);
  return index;
}

/** A calendar with all that it builds on, nearest first. A circle of calendars is read once around. */
function chainOf(calendars: readonly Calendar[], id: string): Calendar[] {
  const chain: Calendar[] = [];
  for (let at: string | null = id; at !== null; ) {
    const calendar = calendars.find(c => c.id === at);
    if (!calendar || chain.includes(calendar)) break;
    chain.push(calendar);
    at = calendar.buildsOn;
  }
  return chain;
}

/** The ids of a calendar and of all that it builds on. */
export const calendarChain = (calendars: readonly Calendar[], id: string): string[] =>
  chainOf(calendars, id).map(one => one.id);

/** What a calendar takes off, in whatever year is asked for: each year is worked out when it is first looked at. */
export function calendarIndex(calendars: readonly Calendar[], id: string): HolidayIndex {
  const chain = chainOf(calendars, id);
  const rules = chain.flatMap(c => c.rules ?? []);
  const singles: Writable = new Map();
  for (const { date, part, name } of chain.flatMap(c => c.holidays)) enter(singles, toDay(date), part, name);
  if (rules.length === 0) return singles;
  const years = new Set<number>();
  const all: Writable = new Map(singles);
  // The bounds of a rule keep its day inside the year that it is counted in, so one year at a time is enough.
  const fill = (year: number) => {
    if (years.has(year)) return;
    years.add(year);
    for (const rule of rules) {
      const day = ruleDayIn(rule, year);
      if (day !== undefined) enter(all, day, rule.part, rule.name);
    }
  };
  return {
    get(day) {
      fill(yearMonthDay(day).year);
      return all.get(day);
    },
  };
}

/** The days that a calendar takes off in a year, in order. */
export function holidaysIn(calendars: readonly Calendar[], id: string, year: number): (OffDay & { date: CivilDate })[] {
  const index = calendarIndex(calendars, id);
  const found: (OffDay & { date: CivilDate })[] = [];
  for (let day = dayNumber(year, 1, 1); day < dayNumber(year + 1, 1, 1); day++) {
    const off = index.get(day);
    if (off) found.push({ date: fromDay(day), ...off });
  }
  return found;
}

/**
 * The last year that a calendar knows: that of its last single day, where it has no rules of its own.
 * Nothing where rules say every year, or where it takes no day off at all.
 */
export function knownUntil(calendars: readonly Calendar[], id: string): number | undefined {
  const last = chainOf(calendars, id)
    .filter(c => (c.rules ?? []).length === 0 && c.holidays.length > 0)
    .map(c => Math.max(...c.holidays.map(h => Number(h.date.slice(0, 4)))));
  return last.length > 0 ? Math.min(...last) : undefined;
}
