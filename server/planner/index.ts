/** The planner. */
export * from './halves.ts';
export * from './routes.ts';
