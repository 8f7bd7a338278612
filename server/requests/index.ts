/** Requests: commands in, views out. */
export { mustReadFile } from './looking.ts';
export * from './routes.ts';
export { timerDue } from './service.ts';
export * from './store.ts';
export { dropOldUnsent } from './unsent.ts';
