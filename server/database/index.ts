/** The database: tables, connections, migrations. */
export * from './batches.ts';
export * from './connection.ts';
export * from './migrate.ts';
export * from './prepared.ts';
export type { Letter } from './schema/index.ts';
export * as tables from './schema/index.ts';
export * from './sealing/guarded.ts';
export * from './sealing/keys.ts';
export * from './sealing/ledger.ts';
export * from './sealing/seal.ts';
export * from './turns.ts';
export { waiting } from './waiting.ts';
