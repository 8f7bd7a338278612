/** Functions of amounts of money, which FEEL has none of. */

import { exact } from '../values/decimal.ts';
import { decimalsOf, Money, toUnit } from '../values/money.ts';
import { type BuiltIn, form, parameter } from './signature.ts';

const isCode = (text: string): boolean => /^[A-Z]{3}$/.test(text);

export const amountFunctions = {
  money: {
    help: 'an amount in a currency',
    example: ['money(12.5, "NOK")', '12.50 NOK'],
    forms: [
      form([parameter('amount', 'number'), parameter('currency', 'text')], 'money', ([amount, currency]) =>
        isCode(currency as string) ? new Money(amount as number, currency as string) : null,
      ),
    ],
  },
  'to the smallest unit': {
    help: 'an amount rounded to what can be paid, halves away from nothing',
    example: ['to the smallest unit(money(10, "EUR") / 3)', '3.33 EUR'],
    forms: [
      form([parameter('amount', 'money')], 'money', ([of]) =>
        of instanceof Money ? new Money(toUnit(of.amount, of.currency), of.currency) : of,
      ),
    ],
  },
  'shared out': {
    help: 'an amount in so many parts of the smallest unit, which add up to it; the first ones are larger',
    example: ['shared out(money(10, "EUR"), 3)', '[3.34 EUR, 3.33 EUR, 3.33 EUR]'],
    forms: [
      form([parameter('amount', 'money'), parameter('parts', 'number')], { list: 'money' }, ([of, parts], meter) => {
        const n = parts as number;
        if (!(of instanceof Money) || !Number.isInteger(n) || n < 1) return null;
        meter.spend(n);
        const unit = 10 ** decimalsOf(of.currency);
        const whole = Math.round(toUnit(of.amount, of.currency) * unit);
        const least = Math.trunc(whole / n);
        const over = Math.abs(whole - least * n);
        return meter.list(
          Array.from(
            { length: n },
            (_, i) => new Money(exact((least + (i < over ? Math.sign(whole) : 0)) / unit), of.currency),
          ),
        );
      }),
    ],
  },
} as const satisfies Record<string, BuiltIn>;
