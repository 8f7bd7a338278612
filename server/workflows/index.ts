/** Workflows: shelf, sheet, publishing. */
export * from './routes.ts';
export { rowFor } from './service.ts';
