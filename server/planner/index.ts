/** The planner. */
export * from './routes.ts';
