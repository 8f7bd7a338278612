/** Sessions. */
export * from './routes.ts';
export { dropOldSessions } from './service.ts';
