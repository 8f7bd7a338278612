/**
 * Dates, times, and dates with times (FEEL 10.3.2.3.2 to 10.3.2.3.5), as plain numbers of days and milliseconds.
 * A zone is `Z`, an offset `+05:30`, or a name `Europe/Lisbon`; without one a time is the one on the wall.
 */
import {
  type DayNumber,
  dayNumber,
  daysInMonth,
  fromDay,
  isCivilDate,
  isZone,
  localAt,
  toDay,
  toInstant,
  wallClock,
  yearMonthDay,
} from '../../time/index.ts';

const msOfDay = 86_400_000;

export class DateValue {
  readonly day: DayNumber;
  constructor(day: DayNumber) {
    this.day = day;
  }
  toString(): string {
    return fromDay(this.day);
  }
}

export class TimeValue {
  /** Milliseconds after midnight. */
  readonly ms: number;
  readonly zone: string | null;
  constructor(ms: number, zone: string | null) {
    this.ms = ms;
    this.zone = zone;
  }
  toString(): string {
    return clock(this.ms) + suffix(this.zone);
  }
}

export class DateTimeValue {
  readonly day: DayNumber;
  readonly ms: number;
  readonly zone: string | null;
  constructor(day: DayNumber, ms: number, zone: string | null) {
    this.day = day;
    this.ms = ms;
    this.zone = zone;
  }
  toString(): string {
    return `${fromDay(this.day)}T${clock(this.ms)}${suffix(this.zone)}`;
  }
}

const two = (n: number): string => String(n).padStart(2, '0');

function clock(ms: number): string {
  const rest = ms % 1000;
  const seconds = Math.floor(ms / 1000);
  const whole = `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`;
  return rest === 0 ? whole : `${whole}.${String(rest).padStart(3, '0').replace(/0+$/, '')}`;
}

const offsetPattern = /^([+-])(\d{2}):(\d{2})(?::(\d{2}))?$/;
const suffix = (zone: string | null): string =>
  zone === null ? '' : zone === 'Z' || offsetPattern.test(zone) ? zone : `@${zone}`;

/** The offset of a zone that is always the same, in milliseconds. */
function fixedOffset(zone: string): number | undefined {
  if (zone === 'Z') return 0;
  const found = offsetPattern.exec(zone);
  if (!found) return undefined;
  const seconds = Number(found[2]) * 3600 + Number(found[3]) * 60 + Number(found[4] ?? 0);
  return (found[1] === '-' ? -1 : 1) * seconds * 1000;
}

/** The instant in milliseconds; what has no zone is taken as UTC, so that it can be put in order with its like. */
function instantOf(day: DayNumber, ms: number, zone: string | null): number {
  const offset = zone === null ? 0 : fixedOffset(zone);
  if (offset !== undefined) return day * msOfDay + ms - offset;
  const minutes = Math.floor(ms / 60_000);
  return wallClock(day, minutes, zone as string) + (ms - minutes * 60_000);
}

export const instantOfDateTime = (value: DateTimeValue): number => instantOf(value.day, value.ms, value.zone);
export const instantOfTime = (value: TimeValue): number => instantOf(0, value.ms, value.zone);

/** How far a zone is from UTC at that time, in milliseconds; nothing without a zone. */
export function offsetOf(value: TimeValue | DateTimeValue): number | null {
  if (value.zone === null) return null;
  const day = value instanceof DateTimeValue ? value.day : 0;
  return day * msOfDay + value.ms - instantOf(day, value.ms, value.zone);
}

const zoneText = /(Z|[+-]\d{2}:\d{2}(?::\d{2})?|@[A-Za-z0-9_+\-/]{1,60})$/;

function zoneIn(text: string): { rest: string; zone: string | null } | undefined {
  const found = zoneText.exec(text);
  if (!found) return { rest: text, zone: null };
  const rest = text.slice(0, found.index);
  const zone = found[1].startsWith('@') ? found[1].slice(1) : found[1];
  if (found[1].startsWith('@'))
    return isZone(zone) ? { rest, zone: zone === 'UTC' || zone === 'Etc/UTC' ? 'Z' : zone } : undefined;
  const offset = fixedOffset(zone) as number;
  return Math.abs(offset) < msOfDay ? { rest, zone } : undefined;
}

/** `2026-02-09` */
export function readDate(text: string): DateValue | null {
  return isCivilDate(text) ? new DateValue(toDay(text)) : null;
}

function msIn(text: string): number | null {
  const found = /^(\d{2}):(\d{2}):(\d{2})(?:\.(\d{1,9}))?$/.exec(text);
  if (!found) return null;
  const [hours, minutes, seconds] = [Number(found[1]), Number(found[2]), Number(found[3])];
  if (hours > 23 || minutes > 59 || seconds > 59) return null;
  const rest = found[4] ? Math.floor(Number(`0.${found[4]}`) * 1000) : 0;
  return ((hours * 60 + minutes) * 60 + seconds) * 1000 + rest;
}

/** `10:30:00`, `10:30:00Z`, `10:30:00+01:00`, `10:30:00@Europe/Oslo` */
export function readTime(text: string): TimeValue | null {
  const parts = zoneIn(text);
  const ms = parts && msIn(parts.rest);
  return parts && typeof ms === 'number' ? new TimeValue(ms, parts.zone) : null;
}

/** `2026-02-09T10:30:00`, with a zone as a time has one; a date alone is its midnight. */
export function readDateTime(text: string): DateTimeValue | null {
  const [date, time, more] = text.split('T');
  // The name of a zone may have a T in it.
  const clockText = more === undefined ? time : text.slice(date.length + 1);
  const day = readDate(date);
  if (!day) return null;
  if (clockText === undefined) return new DateTimeValue(day.day, 0, null);
  const at = readTime(clockText);
  return at && new DateTimeValue(day.day, at.ms, at.zone);
}

/** The date of a year, month and day; nothing when there is no such day. */
export function dateFrom(year: number, month: number, day: number): DateValue | null {
  if (![year, month, day].every(Number.isInteger)) return null;
  if (year < 1 || year > 9999 || month < 1 || month > 12 || day < 1 || day > daysInMonth(year, month)) return null;
  return new DateValue(dayNumber(year, month, day));
}

/** The time of its parts; the offset in milliseconds. */
export function timeFrom(hour: number, minute: number, second: number, offset: number | null): TimeValue | null {
  if (!Number.isInteger(hour) || !Number.isInteger(minute)) return null;
  if (hour < 0 || hour > 23 || minute < 0 || minute > 59 || !(second >= 0 && second < 60)) return null;
  const ms = (hour * 60 + minute) * 60_000 + Math.floor(second * 1000);
  if (offset === null) return new TimeValue(ms, null);
  if (Math.abs(offset) >= msOfDay) return null;
  return new TimeValue(ms, offsetText(offset));
}

function offsetText(offset: number): string {
  const seconds = Math.floor(Math.abs(offset) / 1000);
  const rest = seconds % 60;
  const text = `${offset < 0 ? '-' : '+'}${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}`;
  return rest === 0 ? text : `${text}:${two(rest)}`;
}

/** The days that are counted with: from year 1 to year 9999. */
const firstDay = dayNumber(1, 1, 1);
const lastDay = dayNumber(9999, 12, 31);
export const isKnownDay = (day: number): boolean => Number.isInteger(day) && day >= firstDay && day <= lastDay;

/** A date so many milliseconds later on the wall, with its zone kept. */
export function dateTimeLater(value: DateTimeValue, ms: number): DateTimeValue | null {
  const offset = value.zone === null ? 0 : fixedOffset(value.zone);
  let total = value.day * msOfDay + value.ms + ms;
  if (offset === undefined && ms % msOfDay !== 0) {
    // Hours pass as they do on a watch that nobody puts forward or back; whole days keep the time on the wall.
    const zone = value.zone as string;
    const at = instantOfDateTime(value) + ms;
    const rest = ((at % 60_000) + 60_000) % 60_000;
    const wall = localAt(toInstant(at - rest), zone);
    total = toDay(wall.date) * msOfDay + wall.minutes * 60_000 + rest;
  }
  const day = Math.floor(total / msOfDay);
  return isKnownDay(day) ? new DateTimeValue(day, total - day * msOfDay, value.zone) : null;
}

/** The same day of the month so many months later, or the last one of a shorter month. */
export function monthsLater(day: DayNumber, months: number): DayNumber | null {
  const from = yearMonthDay(day);
  const all = from.year * 12 + (from.month - 1) + months;
  const [year, month] = [Math.floor(all / 12), (((all % 12) + 12) % 12) + 1];
  if (!Number.isInteger(all) || year < 1 || year > 9999) return null;
  return dayNumber(year, month, Math.min(from.day, daysInMonth(year, month)));
}

/** Whole months from one day to another; a month is whole when the day of the month has come. */
export function monthsFrom(from: DayNumber, to: DayNumber): number {
  const [a, b] = [yearMonthDay(from), yearMonthDay(to)];
  let months = (b.year - a.year) * 12 + (b.month - a.month);
  if (months > 0 && b.day < a.day) months -= 1;
  else if (months < 0 && b.day > a.day) months += 1;
  return months;
}

export { msOfDay };
