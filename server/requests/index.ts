/** Requests: commands in, views out. */
export * from './routes.ts';
export { timerDue } from './service.ts';
export * from './store.ts';
