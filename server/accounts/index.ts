/** How a house begins, and accounts. */
export { mustBeRight, takeCode } from './factor.ts';
export { accountAddress, dropOldLinks, hashOf } from './links.ts';
export { accountRoutes } from './routes.ts';
export { isNewHouse, setupAddress } from './setup.ts';
