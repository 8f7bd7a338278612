/** Asked for from outside: public addresses, what is sent there, and what is deleted when its time is over. */
export { forgetOver } from './forgetting.ts';
export { outsideRoutes } from './routes.ts';
