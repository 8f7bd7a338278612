/** Dates, instants and amounts in plain English words, the same in mails, on the trail and on the screen. */
import { type CivilDate, toDay, weekday, yearMonthDay } from './civilDate.ts';
import type { WorkingAmount } from './deadline.ts';
import { type Instant, localAt } from './zone.ts';

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
export const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

/** Of ISO weekdays, Monday first. */
export const weekdayNames = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** The year of a day: dates of another year than that of whoever reads them are said with their year, always. */
export const yearOf = (date: CivilDate | string): number => Number(date.slice(0, 4));

/** `Mon 9 February`, with the year when it is not `year`. */
export function dateWords(date: CivilDate, year: number): string {
  const day = toDay(date);
  const parts = yearMonthDay(day);
  const words = `${weekdays[weekday(day) - 1]} ${parts.day} ${monthNames[parts.month - 1]}`;
  return year === parts.year ? words : `${words} ${parts.year}`;
}

/** `Mon 9 February 2026`. */
export const fullDate = (date: CivilDate): string => dateWords(date, Number.NaN);

/** `Mon 9 Feb`, with the year when it is not `year`. */
export function shortDate(date: CivilDate, year: number): string {
  const day = toDay(date);
  const parts = yearMonthDay(day);
  const words = `${weekdays[weekday(day) - 1]} ${parts.day} ${monthNames[parts.month - 1].slice(0, 3)}`;
  return year === parts.year ? words : `${words} ${parts.year}`;
}

/** `Mon 9 to Fri 13 February`, with the year when it is not `year`, and with both when they differ. */
export function rangeWords(from: CivilDate, to: CivilDate, year: number): string {
  if (from === to) return dateWords(from, year);
  if (yearOf(from) !== yearOf(to)) return `${fullDate(from)} to ${fullDate(to)}`;
  const sameMonth = from.slice(0, 7) === to.slice(0, 7);
  if (sameMonth)
    return `${weekdays[weekday(toDay(from)) - 1]} ${yearMonthDay(toDay(from)).day} to ${dateWords(to, year)}`;
  return `${dateWords(from, yearOf(from))} to ${dateWords(to, year)}`;
}

/** `Wed 4 Feb 17:00` on the wall clock of a zone, with the year when it is not `year`. */
export function momentWords(instant: Instant | string, zone: string, year: number): string {
  const { date, minutes } = localAt(instant, zone);
  return `${shortDate(date, year)} ${clockWords(minutes)}`;
}

/** `Wed 4 Feb 2026 17:00`. */
export const fullMoment = (instant: Instant | string, zone: string): string => momentWords(instant, zone, Number.NaN);

/**
 * A moment as it is at a place, for a reader who may be elsewhere: `Wed 4 Feb 17:00`, or `Wed 4 Feb 17:00 in Lisbon` where
 * the reader's own clock shows something else then.
 */
export function momentThere(instant: Instant | string, zone: string, own: string, year: number): string {
  const there = momentWords(instant, zone, year);
  if (zone === own || there === momentWords(instant, own, year)) return there;
  return `${there} in ${(zone.split('/').at(-1) ?? zone).replaceAll('_', ' ')}`;
}

export const clockWords = (minutes: number): string =>
  `${String(Math.floor(minutes / 60) % 24).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;

/** `4½`, `12`, `7.25`; a true minus sign below zero. */
export function amountWords(amount: number): string {
  const size = Math.abs(amount);
  const whole = Math.floor(size);
  const half = size - whole === 0.5;
  const digits = half ? `${whole === 0 ? '' : whole}½` : String(Math.round(size * 100) / 100);
  return amount < 0 ? `−${digits}` : digits;
}

/** `4½ days`, `1 day`, `12 hours`. */
export const amountOfUnit = (amount: number, unit: 'days' | 'hours'): string =>
  `${amountWords(amount)} ${amount > 0 && amount <= 1 ? unit.slice(0, -1) : unit}`;

/** `2 working days`, `1 working hour`. */
export function workingWords(amount: WorkingAmount): string {
  if ('workingDays' in amount) return amount.workingDays === 1 ? '1 working day' : `${amount.workingDays} working days`;
  return amount.workingHours === 1 ? '1 working hour' : `${amount.workingHours} working hours`;
}

/** `a, b and c`. */
export const listWords = (all: readonly string[], last: 'and' | 'or' = 'and'): string =>
  all.length < 2 ? (all[0] ?? '') : `${all.slice(0, -1).join(', ')} ${last} ${all.at(-1)}`;
