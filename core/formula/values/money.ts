/** Amounts of money: a decimal with its currency, which add up with their like alone. */
import { exact, halfUp, scaled } from './decimal.ts';

/** What amounts are in where nothing says a currency. */
export const usualCurrency = 'EUR';

export class Money {
  readonly amount: number;
  /** A code of three letters (ISO 4217). */
  readonly currency: string;
  constructor(amount: number, currency: string) {
    this.amount = amount;
    this.currency = currency;
  }
  toString(): string {
    return `${this.amount.toFixed(decimalsOf(this.currency))} ${this.currency}`;
  }
}

const decimals = new Map<string, number>();

/** How many decimals the smallest unit of a currency has: 2 for most, none for some, 3 for a few (ISO 4217). */
export function decimalsOf(currency: string): number {
  let known = decimals.get(currency);
  if (known === undefined) {
    known = new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ?? 2;
    decimals.set(currency, known);
  }
  return known;
}

/** To the smallest unit of its currency, halves away from nothing. */
export const toUnit = (amount: number, currency: string): number =>
  scaled(exact(amount), decimalsOf(currency), halfUp) ?? amount;
