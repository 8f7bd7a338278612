/** Facts of people and posts, and changes of them. */
export * from './change.ts';
export * from './fact.ts';
export * from './words.ts';
