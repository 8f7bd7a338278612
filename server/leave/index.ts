/** Leave: statements, and the book that other capabilities read. */
export * from './routes.ts';
export * from './store.ts';
