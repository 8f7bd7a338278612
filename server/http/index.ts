/** What all routes share: reading input, answering with problems, and who is asking. */
export * from './bounds.ts';
export * from './caller.ts';
export * from './cell.ts';
export * from './describe.ts';
export * from './fair.ts';
export * from './pages.ts';
export * from './problem.ts';
export * from './route.ts';
export * from './slow.ts';
export * from './tables.ts';
