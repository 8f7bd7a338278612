/** The HTTP API: what may be sent, checked with these schemas on both sides, and what comes back. */
export * from './accounts.ts';
export * from './connections.ts';
export * from './desk.ts';
export * from './leave.ts';
export * from './people.ts';
export * from './problem.ts';
export * from './requests.ts';
export * from './session.ts';
export * from './workflows.ts';
