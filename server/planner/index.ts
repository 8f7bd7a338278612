/** The planner, and calendars to subscribe to. */
export { readFeed } from './feeds.ts';
export { plannerRoutes } from './routes.ts';
