/**
 * A civil date is a day on the calendar with no zone (ISO 8601, `2026-02-09`).
 * For arithmetic it becomes a day number: whole days since 1970-01-01, so that spans are subtractions.
 */
import type { z } from 'zod';

const daysInMonths = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** Whole days since 1970-01-01; may be negative. */
export type DayNumber = number;

export const isLeapYear = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;

/** Days in a month; `month` from 1 to 12. */
export const daysInMonth = (year: number, month: number): number =>
  month === 2 && isLeapYear(year) ? 29 : daysInMonths[month - 1];

const shape = /^(\d{4})-(\d{2})-(\d{2})$/;

/** Whether the text is a date that the calendar has. */
export function isCivilDate(text: string): boolean {
  const found = shape.exec(text);
  if (!found) return false;
  const [year, month, day] = [Number(found[1]), Number(found[2]), Number(found[3])];
  return month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month);
}

export type CivilDate = string & z.$brand<'CivilDate'>;

/** Years that people mean; a slip of the finger is no reason to count through millennia. */
export const isNear = (date: CivilDate | string): boolean => date >= '1900-01-01' && date <= '2199-12-31';
export const nearWords = 'Give a day between 1900 and 2199.';

/** The day number of a year, month (1 to 12) and day. Source: the proleptic Gregorian calendar counted in eras of 400 years. */
export function dayNumber(year: number, month: number, day: number): DayNumber {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return era * 146_097 + dayOfEra - 719_468;
}

/** Year, month (1 to 12) and day of a day number. */
export function yearMonthDay(number: DayNumber): { year: number; month: number; day: number } {
  const shifted = number + 719_468;
  const era = Math.floor(shifted / 146_097);
  const dayOfEra = shifted - era * 146_097;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36_524) - Math.floor(dayOfEra / 146_096)) / 365,
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const monthFromMarch = Math.floor((5 * dayOfYear + 2) / 153);
  const month = monthFromMarch < 10 ? monthFromMarch + 3 : monthFromMarch - 9;
  return {
    year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0),
    month,
    day: dayOfYear - Math.floor((153 * monthFromMarch + 2) / 5) + 1,
  };
}

export function toDay(date: CivilDate | string): DayNumber {
  // Digit by digit: it is asked for every day of every booking, and cutting texts costs five times as much.
  const digit = (at: number): number => date.charCodeAt(at) - 48;
  const year = digit(0) * 1000 + digit(1) * 100 + digit(2) * 10 + digit(3);
  return dayNumber(year, digit(5) * 10 + digit(6), digit(8) * 10 + digit(9));
}

const two = (n: number): string => (n < 10 ? `0${n}` : `${n}`);

export function fromDay(number: DayNumber): CivilDate {
  const { year, month, day } = yearMonthDay(number);
  return `${String(year).padStart(4, '0')}-${two(month)}-${two(day)}` as CivilDate;
}

export const addDays = (date: CivilDate, days: number): CivilDate => fromDay(toDay(date) + days);

/** ISO weekday, 1 Monday to 7 Sunday. */
export const weekday = (number: DayNumber): number => ((((number + 3) % 7) + 7) % 7) + 1;

/** The day that a `MM-DD` is in a year. 29 February counts as 1 March in other years. */
export function monthDayIn(year: number, monthDay: string): DayNumber {
  const month = Number(monthDay.slice(0, 2));
  const day = Number(monthDay.slice(3, 5));
  return month === 2 && day === 29 && !isLeapYear(year) ? dayNumber(year, 3, 1) : dayNumber(year, month, day);
}

/** The same day of the month `months` later, clipped to that month's end. */
export function addMonths(number: DayNumber, months: number): DayNumber {
  const { year, month, day } = yearMonthDay(number);
  const index = year * 12 + (month - 1) + months;
  const y = Math.floor(index / 12);
  const m = (index % 12) + 1;
  return dayNumber(y, m, Math.min(day, daysInMonth(y, m)));
}
