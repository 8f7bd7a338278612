/**
 * The tables. Facts about people are effective-dated rows; what happens to requests is append-only `events`;
 * `requests`, `tasks` and `leave_entries` are projections of the events, written in the same transaction.
 */

export * from './accounts.ts';
export * from './guests.ts';
export * from './house.ts';
export * from './leave.ts';
export * from './outside.ts';
export * from './papers.ts';
export * from './people.ts';
export * from './requests.ts';
export * from './reviews.ts';
export * from './wishes.ts';
export * from './workflows.ts';
