/** Facts of the house: what is on file, changes of it, and what stands in their way. */
export * from './change.ts';
export * from './edits.ts';
export * from './fact.ts';
export { overlapIn } from './keeping.ts';
export { beginsOf } from './leave/balances.ts';
export { childId, paperId } from './leave/circumstances.ts';
export { inShutdown } from './leave/shutdown.ts';
export * from './ofRequest.ts';
export { freeId, worthAt } from './people.ts';
export * from './shelves.ts';
export * from './soundness.ts';
export * from './words.ts';
