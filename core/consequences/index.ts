/** What follows from a change of facts, before it is saved. */
export * from './consequences.ts';
