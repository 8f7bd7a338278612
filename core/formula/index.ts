/** FEEL formulas: read, checked against the names of a workflow, compiled to closures. */
export * from './compile.ts';
export * from './condition.ts';
export { corpus } from './corpus.ts';
export * from './functions.ts';
export * from './looking.ts';
export * from './region.ts';
export * from './rename.ts';
export type { Comparator, Expression, Place, Problem } from './tree.ts';
export { readFormula } from './tree.ts';
