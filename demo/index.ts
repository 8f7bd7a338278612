/** The demo: an invented organisation and its history, made with a seed through the core. */
export * from './history/index.ts';
export * from './lists.ts';
export * from './load.ts';
export * from './organisation.ts';
export { leaveTypes, plans } from './patterns.ts';
export * from './workflows.ts';
