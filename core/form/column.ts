/** The columns of a table in a form and of a reference list, and what stands in their cells. */
import { z } from 'zod';
import { decimalsOf, usualCurrency } from '../formula/index.ts';
import { amountWords, type CivilDate, fullDate, isCivilDate, NearDate, TimeOfDay } from '../time/index.ts';
import { Id, Name, Options } from './parts.ts';

/** A currency by its three letters (ISO 4217). */
export const CurrencyCode = z.string().regex(/^[A-Z]{3}$/, 'is no currency code');

export const columnKinds = ['text', 'number', 'money', 'date', 'time', 'yes/no', 'choice', 'place'] as const;
export const Column = z.object({
  id: Id,
  label: Name,
  kind: z.enum(columnKinds),
  /** What the amounts of a column of money are in; that of the house when nothing is said. */
  currency: CurrencyCode.optional(),
  /** Whoever reads the list on its public page sees it; all other columns stay in the house. */
  outside: z.literal(true).optional(),
  /** What a column of choices offers. */
  options: Options.optional(),
});
export type Column = z.infer<typeof Column>;

export const Cell = z.union([z.string().max(2000), z.number(), z.boolean(), z.null()]);
export type Cell = z.infer<typeof Cell>;

export { usualCurrency };

const figures = new Map<number, Intl.NumberFormat>();
/** Made once for each number of decimals: making one costs far more than using it. */
function figuresOf(decimals: number): Intl.NumberFormat {
  const known = figures.get(decimals);
  if (known) return known;
  const made = new Intl.NumberFormat('en-GB', { minimumFractionDigits: decimals, maximumFractionDigits: decimals });
  figures.set(decimals, made);
  return made;
}

export const moneyWords = (amount: number, currency: string): string =>
  `${figuresOf(decimalsOf(currency)).format(amount)} ${currency}`;

export const number = z.number('Write a number.').refine(Number.isFinite, 'Write a number.');

export function bounded(
  schema: z.ZodType<number>,
  least: number | undefined,
  most: number | undefined,
): z.ZodType<number> {
  return schema
    .refine(n => least === undefined || n >= least, `At least ${least}.`)
    .refine(n => most === undefined || n <= most, `At most ${most}.`);
}

/** To the hundredth: what amounts of money are written in. */
export const cents = number.refine(n => Math.abs(n * 100 - Math.round(n * 100)) < 1e-6, 'At most two decimals.');

export function cellSchema(column: Column): z.ZodType<Cell> {
  switch (column.kind) {
    case 'text':
      return z.string().trim().max(300);
    case 'number':
      return number;
    case 'money':
      return cents;
    case 'date':
      return NearDate;
    case 'time':
      return TimeOfDay;
    case 'choice':
      return z.string().refine(word => column.options?.includes(word) ?? true, 'Choose one of the list.');
    case 'place':
      return z.string().trim().max(80);
    case 'yes/no':
      return z.boolean();
  }
}

/** Whether a value may stand in a column. */
export const cellFits = (column: Column, value: Cell): boolean => cellSchema(column).safeParse(value).success;

/** What stands in one cell of a table. */
export function cellWords(column: Column, value: unknown): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string' && isCivilDate(value)) return fullDate(value as CivilDate);
  if (typeof value !== 'number') return String(value);
  return column.kind === 'money' ? moneyWords(value, column.currency ?? usualCurrency) : amountWords(value);
}
