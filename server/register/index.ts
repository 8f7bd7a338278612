/** The register of papers over all people: what runs out when, what is asked for anew, what is thrown away. */
export { paperRoutes } from './routes.ts';
export { keepRegister, workRegister } from './working.ts';
