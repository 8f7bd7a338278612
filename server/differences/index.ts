/** What a directory holds against what it should: compared nightly and on request, mended by effects. */
export { keepCompared } from './comparing.ts';
export { differenceRoutes } from './routes.ts';
