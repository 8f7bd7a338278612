/** FEEL formulas: read, checked against the names of a workflow, compiled to closures. */
export * from './compile.ts';
export { corpus } from './corpus.ts';
export * from './door.ts';
export * from './functions/index.ts';
export { Meter, mostItems, mostLetters, mostSteps, mostStepsTogether } from './meter.ts';
export * from './nearest.ts';
export * from './text/condition.ts';
export * from './text/looking.ts';
export { longestFormula, readFormula } from './text/reader.ts';
export * from './text/region.ts';
export * from './text/rename.ts';
export type { Argument, Comparator, Expression, Place, Problem } from './text/tree.ts';
export { eachPart, namesBoundIn, partsOf } from './text/tree.ts';
export * from './type.ts';
export { type Amount, isAmount } from './values/boundary.ts';
export { decimalsOf, toUnit, usualCurrency } from './values/money.ts';
