/** Functions of dates, times and durations (FEEL 10.3.4.1, 10.3.4.6 and 10.3.4.8). */
import { dayNumber, monthNames, weekday, yearMonthDay } from '../../time/index.ts';
import type { Type } from '../type.ts';
import { type DaysDuration, MonthsDuration, readDuration } from '../values/duration.ts';
import {
  DateTimeValue,
  DateValue,
  dateFrom,
  isKnownDay,
  monthsFrom,
  readDate,
  readDateTime,
  readTime,
  TimeValue,
  timeFrom,
} from '../values/moment.ts';
import type { Range } from '../values/range.ts';
import { same, type Value } from '../values/value.ts';
import { type BuiltIn, type Form, form, parameter } from './signature.ts';

const weekdays = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** A moment is read from its text letter by letter, which is as much work as so many steps. */
const readingSteps = 8;
const reading =
  (read: (text: string) => Value): Form['work'] =>
  ([text], meter) => {
    meter.spend(readingSteps);
    return read(text as string);
  };

const dayish: Type = { either: ['date', 'date and time'] };
const dayOf = (value: Value): number => (value as DateValue | DateTimeValue).day;

const ofDay = (help: string, example: BuiltIn['example'], gives: Type, work: (day: number) => Value): BuiltIn => ({
  help,
  example,
  forms: [form([parameter('date', dayish)], gives, ([of]) => work(dayOf(of)))],
});

/** The week of ISO 8601: the one with the first Thursday of the year is the first. */
export function weekOf(day: number): number {
  const thursday = day - weekday(day) + 4;
  return Math.floor((thursday - dayNumber(yearMonthDay(thursday).year, 1, 1)) / 7) + 1;
}

export const dateFunctions = {
  date: {
    help: 'a date from its text, its year, month and day, or of a date and time',
    example: ['date("2026-02-09")', 'date("2026-02-09")'],
    forms: [
      form([parameter('from', 'text')], 'date', reading(readDate)),
      form([parameter('from', dayish)], 'date', ([of]) => (of instanceof DateValue ? of : new DateValue(dayOf(of)))),
      form(
        [parameter('year', 'number'), parameter('month', 'number'), parameter('day', 'number')],
        'date',
        ([year, month, day]) => dateFrom(year as number, month as number, day as number),
      ),
    ],
  },
  'date and time': {
    help: 'a date with a time, from its text or of both',
    example: ['date and time(date("2026-02-09"), time("08:30:00"))', 'date and time("2026-02-09T08:30:00")'],
    forms: [
      form([parameter('from', 'text')], 'date and time', reading(readDateTime)),
      form([parameter('date', dayish), parameter('time', 'time')], 'date and time', ([date, time]) => {
        const { ms, zone } = time as TimeValue;
        return new DateTimeValue(dayOf(date), ms, zone);
      }),
    ],
  },
  time: {
    help: 'a time from its text, its hour, minute and second, or of a date and time',
    example: ['time("08:30:00")', 'time("08:30:00")'],
    forms: [
      form([parameter('from', 'text')], 'time', reading(readTime)),
      form([parameter('from', { either: ['time', 'date and time'] })], 'time', ([of]) =>
        of instanceof TimeValue ? of : new TimeValue((of as DateTimeValue).ms, (of as DateTimeValue).zone),
      ),
      form([parameter('from', 'date')], 'time', () => new TimeValue(0, 'Z')),
      form(
        [
          parameter('hour', 'number'),
          parameter('minute', 'number'),
          parameter('second', 'number'),
          parameter('offset', 'days and time duration', 'optional'),
        ],
        'time',
        ([hour, minute, second, offset]) =>
          timeFrom(
            hour as number,
            minute as number,
            second as number,
            (offset as DaysDuration | undefined)?.ms ?? null,
          ),
      ),
    ],
  },
  duration: {
    help: 'a duration from its text: P5D are five days, PT2H two hours, P1Y2M a year and two months',
    example: ['duration("P5D")', 'duration("P5D")'],
    forms: [
      form(
        [parameter('from', 'text')],
        { either: ['days and time duration', 'years and months duration'] },
        reading(readDuration),
      ),
    ],
  },
  'years and months duration': {
    help: 'whole years and months from one date to another',
    example: ['years and months duration(date("2024-01-10"), date("2026-03-09"))', 'duration("P2Y1M")'],
    forms: [
      form(
        [parameter('from', dayish), parameter('to', dayish)],
        'years and months duration',
        ([from, to]) => new MonthsDuration(monthsFrom(dayOf(from), dayOf(to))),
      ),
    ],
  },
  'day of year': ofDay(
    'which day of its year a date is',
    ['day of year(date("2026-02-09"))', '40'],
    'number',
    day => day - dayNumber(yearMonthDay(day).year, 1, 1) + 1,
  ),
  'day of week': ofDay(
    'the name of the weekday',
    ['day of week(date("2026-02-09"))', '"Monday"'],
    'text',
    day => weekdays[weekday(day) - 1],
  ),
  'month of year': ofDay(
    'the name of the month',
    ['month of year(date("2026-02-09"))', '"February"'],
    'text',
    day => monthNames[yearMonthDay(day).month - 1],
  ),
  'week of year': ofDay(
    'the number of the week (ISO 8601)',
    ['week of year(date("2026-02-09"))', '7'],
    'number',
    weekOf,
  ),
  is: {
    help: 'whether two values are the same, zone and all',
    example: ['is(time("10:00:00"), time("10:00:00Z"))', 'false'],
    forms: [
      form(
        [parameter('value1', 'anything', 'unknown'), parameter('value2', 'anything', 'unknown')],
        'yes/no',
        ([a, b]) => isTheSame(a, b),
      ),
    ],
  },
  'days between': {
    help: 'calendar days from the first date to the second',
    example: ['days between(date("2026-02-09"), date("2026-02-12"))', '3'],
    forms: [
      form([parameter('from', 'date'), parameter('to', 'date')], 'number', ([from, to]) => dayOf(to) - dayOf(from)),
    ],
  },
  'add days': {
    help: 'the date some calendar days later',
    example: ['add days(date("2026-02-09"), 3)', 'date("2026-02-12")'],
    forms: [
      form([parameter('date', 'date'), parameter('days', 'number')], 'date', ([date, days]) => {
        const later = dayOf(date) + (days as number);
        return isKnownDay(later) ? new DateValue(later) : null;
      }),
    ],
  },
  nights: {
    help: 'nights from the first day of a range to the last',
    example: ['nights([date("2026-02-09")..date("2026-02-12")])', '3'],
    forms: [
      form([parameter('range', { range: 'date' })], 'number', ([range]) => {
        const { start, end } = range as Range;
        return start instanceof DateValue && end instanceof DateValue ? Math.max(0, end.day - start.day) : null;
      }),
    ],
  },
} as const satisfies Record<string, BuiltIn>;

function isTheSame(a: Value, b: Value): boolean {
  if (a === null || b === null || typeof a !== 'object' || typeof b !== 'object') return a === b;
  if (a.constructor !== b.constructor) return false;
  if (a instanceof TimeValue || a instanceof DateTimeValue || Array.isArray(a)) return String(a) === String(b);
  return same(a, b) === true;
}
