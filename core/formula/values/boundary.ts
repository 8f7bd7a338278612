/**
 * Values on their way into a formula and out of it: outside, dates, times and durations are ISO 8601 texts,
 * an amount is `{ amount, currency }` or a plain number, a range of dates `{ from, to }`.
 */
import { mostSteps, TooMuch } from '../meter.ts';
import { atomOf, entriesOf, itemsOf, type Type } from '../type.ts';
import { DaysDuration, MonthsDuration, readDuration } from './duration.ts';
import { DateTimeValue, DateValue, readDate, readDateTime, readTime, TimeValue } from './moment.ts';
import { Money, toUnit, usualCurrency } from './money.ts';
import { Range } from './range.ts';
import { asText, FunctionValue, isRow, newRow, type Value } from './value.ts';

/** An amount of money as it stands outside of formulas. */
export type Amount = { readonly amount: number; readonly currency: string };

export const isAmount = (value: unknown): value is Amount =>
  typeof value === 'object' &&
  value !== null &&
  'amount' in value &&
  typeof value.amount === 'number' &&
  'currency' in value &&
  typeof value.currency === 'string';

type Load = (value: Value) => Value;
const text =
  (read: (text: string) => Value): Load =>
  value =>
    typeof value === 'string' ? read(value) : value !== null && typeof value === 'object' ? value : null;

const asIs: Load = value => value;

function loadRange(value: Value): Value {
  if (typeof value !== 'object' || value === null || value instanceof Range) return value;
  const { from, to } = value as { from?: unknown; to?: unknown };
  if (typeof from !== 'string' || typeof to !== 'string') return null;
  return new Range(readDate(from), readDate(to), true, true);
}

function loadMoney(value: Value): Value {
  if (typeof value === 'number') return new Money(value, usualCurrency);
  return isAmount(value) ? new Money(value.amount, value.currency) : null;
}

/** A value that may be anything, as the house gives it: an amount anywhere in it is one. */
export function loadAnything(value: Value): Value {
  if (typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) return value.map(one => loadAnything(one as Value));
  if (isAmount(value)) return new Money(value.amount, value.currency);
  if (!isRow(value)) return value;
  const row = newRow();
  for (const name of Object.keys(value)) row[name] = loadAnything(value[name] ?? null);
  return row;
}

/** How values of a kind come in; nothing where they come as they are. */
export function loading(type: Type): Load | undefined {
  switch (atomOf(type)) {
    case 'date':
      return text(readDate);
    case 'time':
      return text(value => readTime(value.length === 5 ? `${value}:00` : value));
    case 'date and time':
      return text(readDateTime);
    case 'days and time duration':
    case 'years and months duration':
      return text(readDuration);
    case 'money':
      return loadMoney;
    case 'date range':
      return loadRange;
    case 'list': {
      const item = loading(itemsOf(type));
      return item && (value => (Array.isArray(value) ? value.map(one => item((one ?? null) as Value)) : value));
    }
    case 'row': {
      const entries = Object.entries(entriesOf(type) ?? {}).map(([name, of]) => [name, loading(of) ?? asIs] as const);
      if (entries.length === 0) return undefined;
      return value => {
        if (!isRow(value)) return value;
        const row = newRow();
        for (const name of Object.keys(value)) row[name] = value[name] ?? null;
        for (const [name, load] of entries) row[name] = load(row[name] ?? null);
        return row;
      };
    }
    default:
      return undefined;
  }
}

/** Counts what goes out: lists may hold one another, and be far larger when they are written out than they are here. */
class Outgoing {
  #left = mostSteps;
  count(): void {
    this.#left -= 1;
    if (this.#left < 0) throw new TooMuch();
  }
}

/** A value as it is outside of formulas. */
export function given(value: Value, outgoing = new Outgoing()): Value {
  if (typeof value !== 'object' || value === null) return Number.isNaN(value) ? null : value;
  outgoing.count();
  if (Array.isArray(value))
    return value.map(one => (one === null || typeof one !== 'object' ? one : given(one as Value, outgoing)));
  if (value instanceof Money)
    return { amount: toUnit(value.amount, value.currency), currency: value.currency } satisfies Amount;
  if (value instanceof Range) {
    const { start, end } = value;
    if (start instanceof DateValue && end instanceof DateValue && value.startIncluded && value.endIncluded)
      return { from: String(start), to: String(end) };
    return asText(value);
  }
  if (
    value instanceof DateValue ||
    value instanceof TimeValue ||
    value instanceof DateTimeValue ||
    value instanceof DaysDuration ||
    value instanceof MonthsDuration
  )
    return String(value);
  if (value instanceof FunctionValue) return asText(value);
  if (!Object.values(value).some(one => typeof one === 'object' && one !== null)) return value;
  return Object.fromEntries(Object.entries(value).map(([name, of]) => [name, given(of as Value, outgoing)]));
}

/** A value as a place of some kind takes it: a date where a date and time came of it, an amount where a number did. */
export function givenAs(value: Value, wanted: Type): Value {
  if (wanted === 'date' && value instanceof DateTimeValue) return given(new DateValue(value.day));
  if (wanted === 'money' && typeof value === 'number') return given(new Money(value, usualCurrency));
  if (wanted === 'number' && value instanceof Money) return value.amount;
  if (wanted === 'time' && value instanceof TimeValue && value.zone === null) return String(value).slice(0, 5);
  return given(value);
}
