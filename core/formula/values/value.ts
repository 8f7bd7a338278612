/** Values while a formula is worked out: what is the same, what comes first, and each as text. */

import type { Value } from '../type.ts';
import { plus } from './decimal.ts';
import { DaysDuration, MonthsDuration } from './duration.ts';
import { DateTimeValue, DateValue, instantOfDateTime, instantOfTime, TimeValue } from './moment.ts';
import { Money } from './money.ts';
import { Range } from './range.ts';

export type { Value } from '../type.ts';

/** A function that a formula itself writes, or takes as a value. */
export class FunctionValue {
  readonly parameters: readonly string[];
  readonly work: (args: readonly Value[]) => Value;
  constructor(parameters: readonly string[], work: (args: readonly Value[]) => Value) {
    this.parameters = parameters;
    this.work = work;
  }
}

const kinds = [DateValue, TimeValue, DateTimeValue, DaysDuration, MonthsDuration, Money, Range, FunctionValue] as const;

/** A row: entries by name, and nothing that this module has a word of its own for. */
export const isRow = (value: Value): value is Record<string, Value> =>
  typeof value === 'object' && value !== null && !Array.isArray(value) && !kinds.some(kind => value instanceof kind);

/** A new row, in which no name is special. */
export const newRow = (): Record<string, Value> => Object.create(null) as Record<string, Value>;

/**
 * Whether two values are the same (FEEL 10.3.2.13); nothing when they are of different kinds.
 * A list of one is as good as what is in it.
 */
export function same(a: Value, b: Value): boolean | null {
  if (a === b) return true;
  if (a === null || b === null) return false;
  if (typeof a !== 'object' && typeof b !== 'object') return typeof a === typeof b ? false : null;
  if (Array.isArray(a) !== Array.isArray(b)) {
    if (Array.isArray(a) && a.length === 1) return same(a[0], b);
    if (Array.isArray(b) && b.length === 1) return same(a, b[0]);
    return null;
  }
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((one, i) => same(one, b[i] as Value) === true);
  if (a instanceof Money && typeof b === 'number') return a.amount === b;
  if (b instanceof Money && typeof a === 'number') return b.amount === a;
  if (typeof a !== 'object' || typeof b !== 'object') return null;
  if (a instanceof Range && b instanceof Range)
    return (
      a.startIncluded === b.startIncluded &&
      a.endIncluded === b.endIncluded &&
      same(a.start, b.start) === true &&
      same(a.end, b.end) === true
    );
  if (isRow(a) && isRow(b)) {
    const names = Object.keys(a);
    return names.length === Object.keys(b).length && names.every(n => Object.hasOwn(b, n) && same(a[n], b[n]) === true);
  }
  if (isZoned(a) !== isZoned(b) && a.constructor === b.constructor) return false;
  const order = inOrder(a, b);
  return order === null ? null : order === 0;
}

const isZoned = (value: object): boolean =>
  (value instanceof TimeValue || value instanceof DateTimeValue) && value.zone !== null;

/** Below zero when the first comes first, zero when neither does, nothing when they have no order. */
export function inOrder(a: Value, b: Value): number | null {
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  if (typeof a === 'string' && typeof b === 'string') return a < b ? -1 : a > b ? 1 : 0;
  if (a instanceof DateValue && b instanceof DateValue) return a.day - b.day;
  if (a instanceof TimeValue && b instanceof TimeValue)
    return isZoned(a) === isZoned(b) ? instantOfTime(a) - instantOfTime(b) : null;
  if (a instanceof DateTimeValue && b instanceof DateTimeValue)
    return isZoned(a) === isZoned(b) ? instantOfDateTime(a) - instantOfDateTime(b) : null;
  if (a instanceof DaysDuration && b instanceof DaysDuration) return a.ms - b.ms;
  if (a instanceof MonthsDuration && b instanceof MonthsDuration) return a.months - b.months;
  if (a instanceof Money) {
    if (typeof b === 'number') return plus(a.amount, -b);
    return b instanceof Money && a.currency === b.currency ? plus(a.amount, -b.amount) : null;
  }
  if (b instanceof Money && typeof a === 'number') return plus(a, -b.amount);
  return null;
}

const plainFigures = new Intl.NumberFormat('en', { useGrouping: false, maximumFractionDigits: 20 });

const numberText = (n: number): string => {
  const plain = String(n);
  if (!plain.includes('e')) return plain;
  return plainFigures.format(n);
};

const nameText = (name: string): string => (/^[\p{L}_][\p{L}\p{N}_ ]*$/u.test(name) ? name : JSON.stringify(name));

/** A value as text (FEEL 10.3.4.1, `string`); texts inside of others stand in quotation marks. */
export function asText(value: Value, inside = false): string {
  if (value === null) return 'null';
  if (typeof value === 'number') return numberText(value);
  if (typeof value === 'string') return inside ? `"${value.replace(/["\\]/g, '\\$&')}"` : value;
  if (typeof value === 'boolean') return String(value);
  if (Array.isArray(value)) return `[${value.map(one => asText(one as Value, true)).join(', ')}]`;
  if (value instanceof Range) {
    const [start, end] = [asText(value.start, true), asText(value.end, true)];
    return `${value.startIncluded ? '[' : '('}${start}..${end}${value.endIncluded ? ']' : ')'}`;
  }
  if (value instanceof FunctionValue) return `function(${value.parameters.join(', ')})`;
  if (isRow(value)) {
    const entries = Object.entries(value).map(([name, of]) => `${nameText(name)}: ${asText(of, true)}`);
    return `{${entries.join(', ')}}`;
  }
  return String(value);
}
