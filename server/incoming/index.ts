/** People told by a directory outside, over SCIM 2.0. */
export { incomingRoutes } from './routes.ts';
export { scimServer } from './scim.ts';
