/** Who comes, who comes back and who leaves, and handing over together. */
export { keepToldOfReturn, tellOfComingBack } from './comingBack.ts';
export { keepOwners, mindOwners } from './owners.ts';
export { leavingRoutes } from './routes.ts';
