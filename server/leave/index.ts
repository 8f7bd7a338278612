/** Leave: statements, and what HR keeps. */

export { keepToldOfAbsence, tellOfLongAbsence } from './absence/longAbsence.ts';
export { absencesOf, hrOf, isHere, kindWords, type Letter, writeOnce } from './absence/told.ts';
export { keepReady, makeReady } from './ready.ts';
export * from './routes.ts';
