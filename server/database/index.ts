/** The database: tables, connections, migrations. */
export * from './batches.ts';
export * from './connection.ts';
export * from './migrate.ts';
export * from './prepared.ts';
export type { Letter } from './schema.ts';
export * as tables from './schema.ts';
export * from './seal.ts';
