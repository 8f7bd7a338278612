/** What operators do to values of each kind (FEEL 10.3.2.13 to 10.3.2.15), and which kinds they take. */
import type { Comparator, Operator } from './text/tree.ts';
import { type Atom, atomOf, type Type } from './type.ts';
import { exact, plus } from './values/decimal.ts';
import { DaysDuration, MonthsDuration } from './values/duration.ts';
import {
  DateTimeValue,
  DateValue,
  dateTimeLater,
  instantOfDateTime,
  isKnownDay,
  monthsLater,
  msOfDay,
  TimeValue,
} from './values/moment.ts';
import { Money } from './values/money.ts';
import { inOrder, same, type Value } from './values/value.ts';

/** Yes, no, or not known. */
export type Told = boolean | null;

export function both(a: Value, b: Value): Told {
  if (a === false || b === false) return false;
  return a === true && b === true ? true : null;
}

export function either(a: Value, b: Value): Told {
  if (a === true || b === true) return true;
  return a === false && b === false ? false : null;
}

/** Whether a comparison holds; nothing when the values have no order, or are of different kinds. */
export function compareValues(comparator: Comparator, a: Value, b: Value): Told {
  if (comparator === '=') return same(a, b);
  if (comparator === '!=') {
    const is = same(a, b);
    return is === null ? null : !is;
  }
  if (typeof a === 'number' && typeof b === 'number') return ordered(comparator, a - b);
  const order = inOrder(a, b);
  return order === null ? null : ordered(comparator, order);
}

function ordered(comparator: Comparator, order: number): boolean {
  switch (comparator) {
    case '<':
      return order < 0;
    case '<=':
      return order <= 0;
    case '>':
      return order > 0;
    case '>=':
      return order >= 0;
    case '=':
      return order === 0;
    case '!=':
      return order !== 0;
  }
}

const finite = (value: number): number | null => (Number.isFinite(value) ? exact(value) : null);

export const ofNumbers: Record<Operator, (a: number, b: number) => number | null> = {
  '+': plus,
  '-': (a, b) => plus(a, -b),
  '*': (a, b) => finite(a * b),
  '/': (a, b) => (b === 0 ? null : finite(a / b)),
  '**': (a, b) => finite(a ** b),
};

type Moment = DateValue | TimeValue | DateTimeValue;
type Duration = DaysDuration | MonthsDuration;
const isMoment = (value: Value): value is Moment =>
  value instanceof DateValue || value instanceof TimeValue || value instanceof DateTimeValue;
const isDuration = (value: Value): value is Duration =>
  value instanceof DaysDuration || value instanceof MonthsDuration;

/** A date or time so much later. A date that gets hours becomes a date and time, from its midnight in UTC. */
function later(moment: Moment, by: Duration, sign: 1 | -1): Value {
  if (by instanceof MonthsDuration) {
    if (moment instanceof TimeValue) return moment;
    const day = monthsLater(moment.day, by.months * sign);
    if (day === null) return null;
    return moment instanceof DateValue ? new DateValue(day) : new DateTimeValue(day, moment.ms, moment.zone);
  }
  const ms = by.ms * sign;
  if (moment instanceof TimeValue)
    return new TimeValue((((moment.ms + ms) % msOfDay) + msOfDay) % msOfDay, moment.zone);
  if (moment instanceof DateTimeValue) return dateTimeLater(moment, ms);
  if (ms % msOfDay !== 0) return dateTimeLater(new DateTimeValue(moment.day, 0, 'Z'), ms);
  const day = moment.day + ms / msOfDay;
  return isKnownDay(day) ? new DateValue(day) : null;
}

/** How long it is from one to the other. */
function since(a: Moment, b: Moment): Value {
  if (a instanceof TimeValue || b instanceof TimeValue)
    return a instanceof TimeValue && b instanceof TimeValue ? between(a.ms - b.ms) : null;
  const start = (of: DateValue | DateTimeValue) =>
    of instanceof DateTimeValue ? of : new DateTimeValue(of.day, 0, null);
  const [x, y] = [start(a), start(b)];
  if (x.zone !== null && y.zone !== null) return between(instantOfDateTime(x) - instantOfDateTime(y));
  return between((x.day - y.day) * msOfDay + x.ms - y.ms);
}

const between = (ms: number): DaysDuration => new DaysDuration(ms);

const money = (amount: number | null, currency: string): Money | null =>
  amount === null ? null : new Money(amount, currency);

/** Amounts: a plain number beside one is in its currency; two currencies do not add up. */
function ofAmounts(operator: Operator, a: Value, b: Value): Value {
  if (a instanceof Money && b instanceof Money) {
    if (a.currency !== b.currency) return null;
    if (operator === '+' || operator === '-') return money(ofNumbers[operator](a.amount, b.amount), a.currency);
    return operator === '/' ? ofNumbers['/'](a.amount, b.amount) : null;
  }
  if (a instanceof Money && typeof b === 'number')
    return operator === '**' ? null : money(ofNumbers[operator](a.amount, b), a.currency);
  if (b instanceof Money && typeof a === 'number')
    // A plain number is an amount in the same currency, so that one divided by the other is a number.
    return operator === '**'
      ? null
      : operator === '/'
        ? ofNumbers['/'](a, b.amount)
        : money(ofNumbers[operator](a, b.amount), b.currency);
  return null;
}

function ofDurations(operator: Operator, a: Value, b: Value): Value {
  const times = (of: Duration, by: number): Value => {
    const n = of instanceof DaysDuration ? of.ms * by : of.months * by;
    if (!Number.isFinite(n) || Math.abs(n) > Number.MAX_SAFE_INTEGER) return null;
    return of instanceof DaysDuration
      ? new DaysDuration(Math.trunc(exact(n)))
      : new MonthsDuration(Math.trunc(exact(n)));
  };
  if (isDuration(a) && typeof b === 'number') {
    if (operator === '*') return times(a, b);
    return operator === '/' && b !== 0 ? times(a, 1 / b) : null;
  }
  if (isDuration(b) && typeof a === 'number') return operator === '*' ? times(b, a) : null;
  const pair =
    a instanceof DaysDuration && b instanceof DaysDuration
      ? ([a.ms, b.ms] as const)
      : a instanceof MonthsDuration && b instanceof MonthsDuration
        ? ([a.months, b.months] as const)
        : undefined;
  if (!pair) return null;
  if (operator === '/') return pair[1] === 0 ? null : exact(pair[0] / pair[1]);
  if (operator !== '+' && operator !== '-') return null;
  const n = operator === '+' ? pair[0] + pair[1] : pair[0] - pair[1];
  return a instanceof DaysDuration ? new DaysDuration(n) : new MonthsDuration(n);
}

/** One value by another; nothing where they do not go together. */
export function calculate(operator: Operator, a: Value, b: Value): Value {
  if (typeof a === 'number' && typeof b === 'number') return ofNumbers[operator](a, b);
  if (operator === '+' && typeof a === 'string' && typeof b === 'string') return a + b;
  if (a === null || b === null) return null;
  if (a instanceof Money || b instanceof Money) return ofAmounts(operator, a, b);
  if (isMoment(a) && isDuration(b))
    return operator === '+' ? later(a, b, 1) : operator === '-' ? later(a, b, -1) : null;
  if (isDuration(a) && isMoment(b)) return operator === '+' ? later(b, a, 1) : null;
  if (isMoment(a) && isMoment(b)) return operator === '-' ? since(a, b) : null;
  return ofDurations(operator, a, b);
}

/** The value below zero: of numbers, amounts and durations. */
export function negated(value: Value): Value {
  if (typeof value === 'number') return value === 0 ? 0 : -value;
  if (value instanceof Money) return new Money(-value.amount, value.currency);
  if (value instanceof DaysDuration) return new DaysDuration(-value.ms);
  return value instanceof MonthsDuration ? new MonthsDuration(-value.months) : null;
}

const days = 'days and time duration' as const;
const months = 'years and months duration' as const;
const at = 'date and time' as const;

/** What comes of two kinds, by the operator: `a + b`. */
const results: Record<Operator, readonly (readonly [Atom, Atom, Atom])[]> = {
  '+': [
    ['number', 'number', 'number'],
    ['money', 'money', 'money'],
    ['money', 'number', 'money'],
    ['number', 'money', 'money'],
    ['text', 'text', 'text'],
    ...(['date', 'time', at] as const).flatMap(moment =>
      ([days, months] as const).flatMap(by => [[moment, by, moment] as const, [by, moment, moment] as const]),
    ),
    [days, days, days],
    [months, months, months],
  ],
  '-': [
    ['number', 'number', 'number'],
    ['money', 'money', 'money'],
    ['money', 'number', 'money'],
    ['number', 'money', 'money'],
    ...(['date', 'time', at] as const).flatMap(moment =>
      ([days, months] as const).map(by => [moment, by, moment] as const),
    ),
    ['date', 'date', days],
    ['date', at, days],
    [at, 'date', days],
    [at, at, days],
    ['time', 'time', days],
    [days, days, days],
    [months, months, months],
  ],
  '*': [
    ['number', 'number', 'number'],
    ['money', 'number', 'money'],
    ['number', 'money', 'money'],
    ...([days, months] as const).flatMap(of => [[of, 'number', of] as const, ['number', of, of] as const]),
  ],
  '/': [
    ['number', 'number', 'number'],
    ['money', 'number', 'money'],
    ['money', 'money', 'number'],
    ['number', 'money', 'number'],
    ...([days, months] as const).flatMap(of => [[of, 'number', of] as const, [of, of, 'number'] as const]),
  ],
  '**': [['number', 'number', 'number']],
};

const kindsOf = (type: Type): readonly Atom[] =>
  typeof type === 'object' && 'either' in type ? type.either.map(atomOf) : [atomOf(type)];

/** What kind comes of two; nothing where the operator does not take them. */
export function resultOf(operator: Operator, a: Type, b: Type): Type | undefined {
  const [left, right] = [kindsOf(a), kindsOf(b)];
  const all = (of: readonly Atom[], kind: Atom) => of.includes(kind) || of.includes('anything');
  const found = new Set(
    results[operator].filter(([x, y]) => all(left, x) && all(right, y)).map(([, , gives]) => gives),
  );
  if (found.size === 0) return undefined;
  const [only] = found;
  return found.size === 1 ? only : 'anything';
}

/** Whether an operator takes a kind on that side at all. */
export const takes = (operator: Operator, type: Type, side: 0 | 1): boolean => {
  const kinds = kindsOf(type);
  return kinds.includes('anything') || results[operator].some(row => kinds.includes(row[side]));
};
