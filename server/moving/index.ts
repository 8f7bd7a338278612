/** Moving in by files. */
export { movingBody, movingRoutes } from './routes.ts';
