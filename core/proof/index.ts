/** Proving a workflow before it goes live: rehearsals and the checks that are kept of them. */
export * from './ahead.ts';
export * from './check.ts';
export * from './rehearse.ts';
