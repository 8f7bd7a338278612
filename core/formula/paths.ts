/** What may be asked of a value after a dot: entries of a row, parts of a date, ends of a range. */
import { weekday, yearMonthDay } from '../time/index.ts';
import { type Atom, atomOf, endsOf, entriesOf, itemsOf, type Type } from './type.ts';
import { DaysDuration, MonthsDuration } from './values/duration.ts';
import { DateTimeValue, DateValue, offsetOf, readDate, TimeValue } from './values/moment.ts';
import { Money } from './values/money.ts';
import { Range } from './values/range.ts';
import { isRow, type Value } from './values/value.ts';

const number = 'number' as const;
const ofDate = { year: number, month: number, day: number, weekday: number };
const ofTime = {
  hour: number,
  minute: number,
  second: number,
  'time offset': 'days and time duration',
  timezone: 'text',
} as const;

const known: Partial<Record<Atom, Readonly<Record<string, Type>>>> = {
  date: ofDate,
  time: ofTime,
  'date and time': { ...ofDate, ...ofTime },
  'days and time duration': { days: number, hours: number, minutes: number, seconds: number },
  'years and months duration': { years: number, months: number },
  money: { amount: number, currency: 'text' },
  'leave span': { start: 'date', end: 'date' },
};

/** What may be asked of a kind; nothing where it may be anything. */
export function partsKnown(type: Type): Readonly<Record<string, Type>> | undefined {
  if (type === 'anything' || type === 'row' || type === 'list') return undefined;
  if (typeof type === 'object' && 'either' in type) return undefined;
  const atom = atomOf(type);
  if (atom === 'row') return entriesOf(type);
  if (atom === 'list') return partsKnown(itemsOf(type));
  if (atom === 'range' || atom === 'date range')
    return { start: endsOf(type), end: endsOf(type), 'start included': 'yes/no', 'end included': 'yes/no' };
  return known[atom] ?? {};
}

/** What a part of a value is: of a list, the parts of all in it. */
export const partType = (type: Type, part: Type): Type =>
  atomOf(type) === 'list' ? { list: part } : type === 'list' ? 'list' : part;

function timePart(value: TimeValue | DateTimeValue, name: string): Value {
  switch (name) {
    case 'hour':
      return Math.floor(value.ms / 3_600_000);
    case 'minute':
      return Math.floor(value.ms / 60_000) % 60;
    case 'second':
      return Math.floor(value.ms / 1000) % 60;
    case 'timezone':
      return value.zone;
    case 'time offset': {
      const offset = offsetOf(value);
      return offset === null ? null : new DaysDuration(offset);
    }
    default:
      return null;
  }
}

function datePart(day: number, name: string): Value {
  if (name === 'weekday') return weekday(day);
  const parts = yearMonthDay(day);
  return name === 'year' || name === 'month' || name === 'day' ? parts[name] : null;
}

/** A part of a duration has its sign: of -PT90M they are -1 and -30. */
function durationPart(value: DaysDuration | MonthsDuration, name: string): Value {
  if (value instanceof MonthsDuration) {
    if (name === 'years') return Math.trunc(value.months / 12) + 0;
    return name === 'months' ? (value.months % 12) + 0 : null;
  }
  const seconds = Math.trunc(value.ms / 1000);
  switch (name) {
    case 'days':
      return Math.trunc(seconds / 86_400) + 0;
    case 'hours':
      return (Math.trunc(seconds / 3600) % 24) + 0;
    case 'minutes':
      return (Math.trunc(seconds / 60) % 60) + 0;
    case 'seconds':
      return (seconds % 60) + (value.ms % 1000) / 1000;
    default:
      return null;
  }
}

/** The part of that name; nothing where there is none. */
export function partOf(value: Value, name: string): Value {
  if (value === null || typeof value !== 'object') return null;
  if (Array.isArray(value)) return value.map(one => partOf(one as Value, name));
  if (value instanceof DateValue) return datePart(value.day, name);
  if (value instanceof DateTimeValue) return name in ofDate ? datePart(value.day, name) : timePart(value, name);
  if (value instanceof TimeValue) return timePart(value, name);
  if (value instanceof DaysDuration || value instanceof MonthsDuration) return durationPart(value, name);
  if (value instanceof Money) return name === 'amount' ? value.amount : name === 'currency' ? value.currency : null;
  if (value instanceof Range) {
    if (name === 'start') return value.start;
    if (name === 'end') return value.end;
    return name === 'start included' ? value.startIncluded : name === 'end included' ? value.endIncluded : null;
  }
  if (!isRow(value)) return null;
  return Object.hasOwn(value, name) ? (value[name] ?? null) : null;
}

/** The first or the last day of a span of leave. */
export function endOfSpan(value: Value, name: string): Value {
  // The end of what goes on until more is told is not known.
  if (name === 'end' && (value as { open?: boolean } | null)?.open) return null;
  const end = (value as { from?: { date?: unknown }; to?: { date?: unknown } } | null)?.[
    name === 'start' ? 'from' : 'to'
  ];
  return typeof end?.date === 'string' ? readDate(end.date) : null;
}
