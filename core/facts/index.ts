/** Facts of the house: what is on file, changes of it, and what stands in their way. */
export * from './change.ts';
export { childId } from './circumstances.ts';
export * from './edits.ts';
export * from './fact.ts';
export { overlapIn } from './keeping.ts';
export * from './ofRequest.ts';
export { freeId, worthAt } from './people.ts';
export * from './shelves.ts';
export { inShutdown } from './shutdown.ts';
export * from './soundness.ts';
export * from './words.ts';
