/** The directory for designers, and what other capabilities read of it. */
export * from './routes.ts';
export * from './store.ts';
