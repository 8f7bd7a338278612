/** Access outside: what a directory should hold, and rounds in which that is looked at again. */
export * from './differences.ts';
export * from './groupRules.ts';
export * from './review.ts';
