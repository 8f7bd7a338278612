/** What everything is worked out from: the house with its clock, directory, lists, leave rules and published workflows. */
export * from '../book/index.ts';
export * from './accountsKept.ts';
export * from './context.ts';
export * from './definitions.ts';
export * from './directory.ts';
export * from './exported.ts';
export * from './facts.ts';
export * from './house.ts';
export * from './lists.ts';
export * from './papers.ts';
export { restatementsOf, restatementsOfRequest } from './restating.ts';
