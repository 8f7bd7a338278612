/** Who takes what everybody would like: bridge days, and the same days that somebody had last year. */
import {
  type CivilDate,
  type DayNumber,
  fromDay,
  halfIndex,
  toDay,
  type WorkingTime,
  weekday,
} from '../../time/index.ts';
import type { LeaveEntry } from '../book.ts';
import { type LeaveSpan, takesHalfOf } from '../span.ts';

const isWorked = (time: WorkingTime, day: DayNumber): boolean => {
  const { am, pm } = time.parts(day);
  return am !== undefined || pm !== undefined;
};

/** A day of work between two days off, one of which is a holiday that falls on no weekend. */
export function isBridgeDay(time: WorkingTime, day: DayNumber): boolean {
  const isOff = (one: DayNumber) => !isWorked(time, one);
  const isHoliday = (one: DayNumber) =>
    time.holidays.get(one) !== undefined && (weekday(one) <= 5 || isPlanned(time, one));
  return isWorked(time, day) && isOff(day - 1) && isOff(day + 1) && (isHoliday(day - 1) || isHoliday(day + 1));
}
const isPlanned = (time: WorkingTime, day: DayNumber): boolean => {
  const { am, pm } = time.schedule(day);
  return am !== undefined || pm !== undefined;
};

/** The bridge days that a span takes, between two days. */
export function bridgeDaysIn(time: WorkingTime, span: LeaveSpan, first: CivilDate, last: CivilDate): DayNumber[] {
  const [from, to] = [Math.max(toDay(span.from.date), toDay(first)), Math.min(toDay(span.to.date), toDay(last))];
  const found: DayNumber[] = [];
  for (let day = from; day <= to; day++)
    if (isBridgeDay(time, day) && (['am', 'pm'] as const).some(half => takesHalfOf(span, halfIndex(day, half))))
      found.push(day);
  return found;
}

/** Days of a calendar year, both included; `to` before `from` ends in the next one. */
export type YearlyDays = { readonly from: string; readonly to: string };

const inYear = (monthDay: string, year: number): DayNumber =>
  toDay(`${year}-${monthDay === '02-29' ? '02-28' : monthDay}` as CivilDate);

/** Those days as they begin in a year. */
export function daysIn(
  { from, to }: YearlyDays,
  year: number,
): { readonly first: DayNumber; readonly last: DayNumber } {
  return { first: inYear(from, year), last: inYear(to, to < from ? year + 1 : year) };
}

/**
 * Leave that somebody had in the same days of the year before those that a span touches.
 * @param entries their own, of the type
 * @returns the days as they were then, where they had any of them
 */
export function hadLastYear(
  days: YearlyDays,
  span: LeaveSpan,
  entries: readonly LeaveEntry[],
): { readonly from: CivilDate; readonly to: CivilDate } | undefined {
  const [first, last] = [toDay(span.from.date), toDay(span.to.date)];
  const touches = (one: { first: DayNumber; last: DayNumber }, from: DayNumber, to: DayNumber) =>
    one.first <= to && from <= one.last;
  const year = Number(span.from.date.slice(0, 4));
  for (const begins of [year - 1, year, year + 1]) {
    if (!touches(daysIn(days, begins), first, last)) continue;
    const before = daysIn(days, begins - 1);
    const had = entries.filter(({ span: own }) => touches(before, toDay(own.from.date), toDay(own.to.date)));
    if (had.length > 0) return { from: fromDay(before.first), to: fromDay(before.last) };
  }
  return undefined;
}
