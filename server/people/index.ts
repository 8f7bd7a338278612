/** The directory for designers, and covers. */
export * from './routes.ts';
