/** The HTTP API: what may be sent, checked with these schemas on both sides, and what comes back. */
export * from './columns.ts';
export * from './inputs/accounts.ts';
export * from './inputs/connections.ts';
export * from './inputs/people.ts';
export * from './inputs/requests.ts';
export * from './inputs/session.ts';
export * from './inputs/workflows.ts';
export * from './problem.ts';
export * from './rights.ts';
export * from './views/connections.ts';
export * from './views/desk.ts';
export * from './views/leave.ts';
export * from './views/people.ts';
export * from './views/requests.ts';
export * from './views/session.ts';
export * from './views/workflows.ts';
