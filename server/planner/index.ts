/** The planner, and calendars to subscribe to. */
export { dropOldGone, readFeed } from './feeds.ts';
export { plannerRoutes } from './routes.ts';
