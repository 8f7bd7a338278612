/** Forms: what can be asked, who sees what at which step, and answers read, compared and said. */
export * from './access.ts';
export * from './answer.ts';
export * from './answers.ts';
export { Cell, Column, cellFits, cellWords, columnKinds, moneyWords, usualCurrency } from './column.ts';
export { cellValue } from './columnTypes.ts';
export * from './field.ts';
export * from './file.ts';
export {
  datedKinds,
  type FieldKind,
  type FieldOf,
  fieldKinds,
  fieldOf,
  holdsFiles,
  isAsked,
  isDated,
  isNumeric,
  kindWords,
  moduleOf,
  signings,
  spanWords,
} from './kinds/index.ts';
export * from './list.ts';
export * from './masked.ts';
export { Check, Formula, Id, type KnownFact, knownFacts, Name, Start } from './parts.ts';
