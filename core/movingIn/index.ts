/** Moving in: a house read from files, compared with what is on file, and written out. */
export * from './cell.ts';
export * from './matching.ts';
export * from './moveIn.ts';
export { type ColumnDef, type LineFault, type TableId, tableIds } from './table.ts';
export { tables as movingTables } from './tables/index.ts';
export { readRuleDay, ruleDayWords } from './tables/places.ts';
