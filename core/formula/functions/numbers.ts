/** Functions of numbers (FEEL 10.3.4.5), durations and amounts among them. */
import type { Type } from '../type.ts';
import { awayFromNothing, exact, halfDown, halfEven, halfUp, plus, scaled, towardsNothing } from '../values/decimal.ts';
import { DaysDuration, MonthsDuration } from '../values/duration.ts';
import { Money } from '../values/money.ts';
import type { Value } from '../values/value.ts';
import { type BuiltIn, type Form, form, type Parameter, parameter, type Work } from './signature.ts';

const n = parameter('n', 'number');
const amount = parameter('n', 'money');
const scale = parameter('scale', 'number');

const finite = (value: number): number | null => (Number.isFinite(value) ? exact(value) : null);

const number = parameter('number', 'number');

/** A function of one number. */
const single = (takes: Parameter, gives: Type, work: (n: number) => Value): Form => ({
  ...form([takes], gives, ([value]) => work(value as number)),
  ofNumber: work,
});

/** Rounds a number, or an amount, which stays in its currency. */
const rounding =
  (rule: (n: number) => number): Work =>
  ([value, decimals]) => {
    const to = typeof decimals === 'number' ? decimals : 0;
    if (!(value instanceof Money)) return scaled(value as number, to, rule);
    const rounded = scaled(value.amount, to, rule);
    return rounded === null ? null : new Money(rounded, value.currency);
  };

const sameKind = ([type]: readonly Type[]): Type => type ?? 'number';

const rounded = (
  help: string,
  example: BuiltIn['example'],
  rule: (n: number) => number,
  optional = false,
): BuiltIn => ({
  help,
  example,
  forms: [
    {
      ...form([n, optional ? { ...scale, optional: true } : scale], 'number', rounding(rule)),
      ...(optional ? { ofNumber: (of: number) => rule(of) + 0 } : {}),
    },
    form([amount, optional ? { ...scale, optional: true } : scale], 'money', rounding(rule)),
  ],
});

export const numberFunctions = {
  decimal: rounded('to so many decimals, halves to the even side', ['decimal(2.345, 2)', '2.34'], halfEven),
  floor: rounded('the whole number at or below', ['floor(-1.5)', '-2'], Math.floor, true),
  ceiling: rounded('the whole number at or above', ['ceiling(1.2)', '2'], Math.ceil, true),
  'round up': rounded('to so many decimals, away from nothing', ['round up(1.121, 2)', '1.13'], awayFromNothing),
  'round down': rounded('to so many decimals, towards nothing', ['round down(1.129, 2)', '1.12'], towardsNothing),
  'round half up': rounded('to so many decimals, halves away from nothing', ['round half up(2.5, 0)', '3'], halfUp),
  'round half down': rounded('to so many decimals, halves towards nothing', ['round half down(2.5, 0)', '2'], halfDown),
  abs: {
    help: 'the value without its sign',
    example: ['abs(-4)', '4'],
    forms: [
      single(n, 'number', Math.abs),
      form(
        [parameter('n', { either: ['money', 'days and time duration', 'years and months duration'] })],
        sameKind,
        ([of]) => {
          if (of instanceof Money) return new Money(Math.abs(of.amount), of.currency);
          if (of instanceof DaysDuration) return new DaysDuration(Math.abs(of.ms));
          return of instanceof MonthsDuration ? new MonthsDuration(Math.abs(of.months)) : Math.abs(of as number);
        },
      ),
    ],
  },
  modulo: {
    help: 'what is left after dividing, with the sign of the divisor',
    example: ['modulo(-5, 3)', '1'],
    forms: [
      form([parameter('dividend', 'number'), parameter('divisor', 'number')], 'number', ([a, b]) =>
        b === 0 ? null : plus(a as number, -exact((b as number) * Math.floor(exact((a as number) / (b as number))))),
      ),
    ],
  },
  sqrt: {
    help: 'the square root',
    example: ['sqrt(16)', '4'],
    forms: [single(number, 'number', of => (of < 0 ? null : exact(Math.sqrt(of))))],
  },
  log: {
    help: 'the natural logarithm',
    example: ['log(1)', '0'],
    forms: [single(number, 'number', of => (of <= 0 ? null : exact(Math.log(of))))],
  },
  exp: {
    help: 'e to the power',
    example: ['exp(0)', '1'],
    forms: [single(number, 'number', of => finite(Math.exp(of)))],
  },
  odd: {
    help: 'whether a number is odd',
    example: ['odd(5)', 'true'],
    forms: [single(number, 'yes/no', of => Math.abs(of) % 2 === 1)],
  },
  even: {
    help: 'whether a number is even',
    example: ['even(5)', 'false'],
    forms: [single(number, 'yes/no', of => Math.abs(of) % 2 === 0)],
  },
} as const satisfies Record<string, BuiltIn>;
