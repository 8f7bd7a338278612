/** Leave: counting, plans, balances and statements, and what a request for leave must keep to. */

export * from './asking.ts';
export * from './away.ts';
export * from './balances/adjusting.ts';
export * from './balances/afford.ts';
export * from './balances/balance.ts';
export * from './balances/personPlan.ts';
export * from './balances/plan.ts';
export * from './balances/restated.ts';
export * from './book.ts';
export * from './calledBack.ts';
export * from './counting.ts';
export * from './elsewhere.ts';
export * from './everybody/books.ts';
export * from './everybody/leaving.ts';
export * from './everybody/standing.ts';
export * from './everybody/yearEnd.ts';
export { type TakenDay, takenDays } from './movements.ts';
export * from './obstacle.ts';
export * from './planner/halves.ts';
export * from './planner/here.ts';
export * from './planner/shades.ts';
export * from './rules/limits.ts';
export * from './rules/presence.ts';
export * from './rules/sentences.ts';
export * from './rules/type.ts';
export * from './span.ts';
export * from './statements.ts';
