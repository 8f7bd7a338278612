/** The functions that a formula may call: FEEL's own, worked out here, and the house's, which need facts about people. */

import { addDays, type CivilDate, isCivilDate, toDay } from '../time/index.ts';

export type Type =
  | 'number'
  | 'text'
  | 'yes/no'
  | 'date'
  | 'time'
  | 'leave span'
  | 'date range'
  | 'person'
  | 'list'
  | 'anything';

/** A value in a formula; `null` is "not known". Dates are ISO texts; a leave span is kept whole. */
export type Value = number | string | boolean | null | object;

export type Signature = {
  readonly takes: readonly Type[];
  /** When set, the last type may be repeated. */
  readonly andMore?: true;
  readonly gives: Type;
  readonly help: string;
};

const isDate = (value: unknown): value is CivilDate => typeof value === 'string' && isCivilDate(value);

/** Decimal results are taken to 15 digits, so that 0.1 + 0.2 is 0.3. */
const exactSum = (all: number[]): number => Number(all.reduce((a, b) => a + b, 0).toPrecision(15));

const numbers = (args: Value[]): number[] | null =>
  args.every(arg => typeof arg === 'number') ? (args as number[]) : null;

export type BuiltIn = Signature & { readonly work: (args: Value[]) => Value };

export const builtIns: Record<string, BuiltIn> = {
  not: {
    takes: ['yes/no'],
    gives: 'yes/no',
    help: 'yes when the value is no',
    work: ([a]) => (typeof a === 'boolean' ? !a : null),
  },
  min: {
    takes: ['number'],
    andMore: true,
    gives: 'number',
    help: 'the smallest of the values',
    work: args => {
      const all = numbers(args);
      return all ? Math.min(...all) : null;
    },
  },
  max: {
    takes: ['number'],
    andMore: true,
    gives: 'number',
    help: 'the largest of the values',
    work: args => {
      const all = numbers(args);
      return all ? Math.max(...all) : null;
    },
  },
  abs: {
    takes: ['number'],
    gives: 'number',
    help: 'the value without its sign',
    work: ([a]) => (typeof a === 'number' ? Math.abs(a) : null),
  },
  floor: {
    takes: ['number'],
    gives: 'number',
    help: 'the whole number at or below',
    work: ([a]) => (typeof a === 'number' ? Math.floor(a) : null),
  },
  ceiling: {
    takes: ['number'],
    gives: 'number',
    help: 'the whole number at or above',
    work: ([a]) => (typeof a === 'number' ? Math.ceil(a) : null),
  },
  'string length': {
    takes: ['text'],
    gives: 'number',
    help: 'how many letters the text has',
    work: ([a]) => (typeof a === 'string' ? [...a].length : null),
  },
  contains: {
    takes: ['text', 'text'],
    gives: 'yes/no',
    help: 'whether the first text has the second in it',
    work: ([a, b]) => (typeof a === 'string' && typeof b === 'string' ? a.includes(b) : null),
  },
  'starts with': {
    takes: ['text', 'text'],
    gives: 'yes/no',
    help: 'whether the first text begins with the second',
    work: ([a, b]) => (typeof a === 'string' && typeof b === 'string' ? a.startsWith(b) : null),
  },
  sum: {
    takes: ['list'],
    gives: 'number',
    help: 'all numbers of a column added up: sum(Costs.Amount)',
    work: ([a]) => (Array.isArray(a) && a.every(n => typeof n === 'number') ? exactSum(a) : null),
  },
  count: {
    takes: ['list'],
    gives: 'number',
    help: 'how many there are',
    work: ([a]) => (Array.isArray(a) ? a.length : null),
  },
  'list contains': {
    takes: ['list', 'anything'],
    gives: 'yes/no',
    help: 'whether a value is among several',
    work: ([a, b]) => (Array.isArray(a) ? a.includes(b) : null),
  },
  'days between': {
    takes: ['date', 'date'],
    gives: 'number',
    help: 'calendar days from the first date to the second',
    work: ([a, b]) => (isDate(a) && isDate(b) ? toDay(b) - toDay(a) : null),
  },
  'add days': {
    takes: ['date', 'number'],
    gives: 'date',
    help: 'the date some calendar days later',
    work: ([a, n]) => {
      if (!isDate(a) || typeof n !== 'number' || !Number.isInteger(n) || Math.abs(n) > 100_000) return null;
      const later = addDays(a, n);
      return isCivilDate(later) ? later : null;
    },
  },
  nights: {
    takes: ['date range'],
    gives: 'number',
    help: 'nights from the first day of the range to the last',
    work: ([range]) => {
      const { from, to } = (range ?? {}) as { from?: unknown; to?: unknown };
      return isDate(from) && isDate(to) ? Math.max(0, toDay(to) - toDay(from)) : null;
    },
  },
};

/** Functions that look at the subject's leave, team and calendar. They are worked out where those facts are. */
export const houseFunctions = {
  'leave days': { takes: ['leave span'], gives: 'number', help: 'days of leave that the span takes' },
  balance: { takes: ['text', 'date'], gives: 'number', help: 'balance of a leave type on a day' },
  'balance after': { takes: ['text', 'leave span'], gives: 'number', help: 'balance less what is held and the span' },
  'others away': { takes: ['leave span'], gives: 'number', help: 'people of the team away on any day of the span' },
  'cover left': { takes: ['leave span'], gives: 'number', help: 'people of the team still here on the thinnest day' },
  'working days between': {
    takes: ['date', 'date'],
    gives: 'number',
    help: 'the asker’s working days after the first date, up to the second',
  },
  'add working days': {
    takes: ['date', 'number'],
    gives: 'date',
    help: 'the date some working days of the asker later',
  },
  manager: { takes: ['person', 'number'], gives: 'person', help: 'the manager so many levels above a person' },
  today: { takes: [], gives: 'date', help: 'today, where the asker works' },
  'days of notice': { takes: ['leave span'], gives: 'number', help: 'calendar days from today to the first day' },
} as const satisfies Record<string, Signature>;

export type HouseFunction = keyof typeof houseFunctions;

export const isHouseFunction = (name: string): name is HouseFunction => Object.hasOwn(houseFunctions, name);

/** The signature of a function by its name, or nothing when there is none of that name. */
export function signatureOf(name: string): Signature | undefined {
  if (Object.hasOwn(builtIns, name)) return builtIns[name];
  return isHouseFunction(name) ? houseFunctions[name] : undefined;
}
