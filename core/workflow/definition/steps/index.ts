/** Steps: a module a verb for its shape. */
export { Guest, mostLinkDays, usualLinkDays } from './guest.ts';
export { isHandedIn, Until, type UntilHandedIn } from './hold.ts';
export * from './parts.ts';
export { nameInQuotes, type Offered, type Offers, provisions } from './provision.ts';
export { RecordEffect } from './record.ts';
export * from './step.ts';
