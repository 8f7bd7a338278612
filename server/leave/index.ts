/** Leave: statements, and what HR keeps. */
export { keepToldOfAbsence, tellOfLongAbsence } from './longAbsence.ts';
export { keepReady, makeReady } from './ready.ts';
export * from './routes.ts';
