/** The pool of connections, transactions over it, and telling "the database is away" from other faults. */
import { type SQL, sql } from 'drizzle-orm';
import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2';
import { createPool, type Pool } from 'mysql2/promise';
import * as schema from './schema.ts';

export type Database = MySql2Database<typeof schema> & { readonly pool: Pool };
/** A transaction, or the database itself for single statements. */
export type Transaction = Parameters<Parameters<MySql2Database<typeof schema>['transaction']>[0]>[0];
export type Executor = Transaction | Database;

export function openDatabase(url: string, connections = 16): Database {
  const pool = createPool({
    uri: url,
    connectionLimit: connections,
    connectTimeout: 3000,
    enableKeepAlive: true,
    charset: 'utf8mb4_bin',
    // One trip for what belongs together; values are never part of a statement's text.
    multipleStatements: true,
  });
  // Readers see what is committed; what must not change meanwhile is locked by name.
  pool.pool.on('connection', connection => connection.query('set session transaction isolation level read committed'));
  return Object.assign(drizzle(pool, { schema, mode: 'default' }), { pool }) as Database;
}

/** A statement that the builder has made and nobody has run yet. */
export type Statement = { getSQL: () => SQL };

/**
 * Runs statements in their order, in one trip to the database; the first that fails ends it.
 * @returns what each gave: rows under the names of their columns, values as the driver reads them
 */
export async function together(tx: Executor, statements: readonly Statement[]): Promise<unknown[]> {
  if (statements.length === 0) return [];
  const all = sql.join(
    statements.map(statement => statement.getSQL()),
    sql.raw(';'),
  );
  const [results] = (await tx.execute(all)) as unknown as [unknown[]];
  return statements.length === 1 ? [results] : results;
}

const awayCodes = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'PROTOCOL_CONNECTION_LOST',
  'ER_SERVER_SHUTDOWN',
  'POOL_CLOSED',
]);

/** The first error code in a chain of causes. */
export function errorCode(fault: unknown): string | undefined {
  let at = fault;
  while (typeof at === 'object' && at !== null) {
    const { code, cause } = at as { code?: unknown; cause?: unknown };
    if (typeof code === 'string') return code;
    at = cause;
  }
  return undefined;
}

export const isDatabaseAway = (fault: unknown): boolean => awayCodes.has(errorCode(fault) ?? '');
export const isDuplicate = (fault: unknown): boolean => errorCode(fault) === 'ER_DUP_ENTRY';
const isDeadlock = (fault: unknown): boolean =>
  ['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_CHECKREAD'].includes(errorCode(fault) ?? '');

/** Runs work in one transaction; the loser of a deadlock is run again. */
export async function inTransaction<T>(db: Database, work: (tx: Transaction) => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await db.transaction(work);
    } catch (fault) {
      if (!isDeadlock(fault) || tries >= 5) throw fault;
    }
  }
}
