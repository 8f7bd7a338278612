import type { Type, Value } from '../formula/index.ts';
import { type Cell, type Column, usualCurrency } from './column.ts';

const typeOf = {
  text: 'text',
  number: 'number',
  money: 'money',
  date: 'date',
  time: 'time',
  choice: 'text',
  place: 'text',
  'yes/no': 'yes/no',
} as const satisfies Record<Column['kind'], Type>;

/** What formulas see in each column, by its label. */
export const columnTypes = (columns: readonly Column[]): Record<string, Type> =>
  Object.fromEntries(columns.map(column => [column.label, typeOf[column.kind]]));

/** What stands in a cell as formulas see it: an amount has its currency. */
export const cellValue = (column: Column, cell: Cell | undefined): Value =>
  column.kind === 'money' && typeof cell === 'number'
    ? { amount: cell, currency: column.currency ?? usualCurrency }
    : (cell ?? null);
