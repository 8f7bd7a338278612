/** Leave: counting, plans, balances and statements, and what a request for leave must keep to. */
export * from './afford.ts';
export * from './asking.ts';
export * from './balance.ts';
export * from './book.ts';
export * from './counting.ts';
export * from './elsewhere.ts';
export * from './halves.ts';
export * from './limits.ts';
export * from './obstacle.ts';
export * from './plan.ts';
export * from './presence.ts';
export * from './restated.ts';
export * from './sentences.ts';
export * from './span.ts';
export * from './standing.ts';
export * from './type.ts';
export * from './yearEnd.ts';
