/** Access outside: what a directory should hold. */
export * from './differences.ts';
