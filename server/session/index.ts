/** Sessions. */
export * from './routes.ts';
