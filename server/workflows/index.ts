/** Workflows: shelf, sheet, publishing. */
export * from './routes.ts';
