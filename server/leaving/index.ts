/** Who comes and who leaves, and handing over together. */
export { leavingRoutes } from './routes.ts';
