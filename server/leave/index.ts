/** Leave: statements, and what HR keeps. */
export * from './routes.ts';
