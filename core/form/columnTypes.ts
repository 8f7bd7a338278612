import type { Type } from '../formula/index.ts';
import type { Column } from './column.ts';

const typeOf = {
  text: 'text',
  number: 'number',
  money: 'number',
  date: 'date',
  'yes/no': 'yes/no',
} as const satisfies Record<Column['kind'], Type>;

/** What formulas see in each column, by its label. */
export const columnTypes = (columns: readonly Column[]): Record<string, Type> =>
  Object.fromEntries(columns.map(column => [column.label, typeOf[column.kind]]));
