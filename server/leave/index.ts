/** Leave: statements, and what HR keeps. */
export { keepReady, makeReady } from './ready.ts';
export * from './routes.ts';
