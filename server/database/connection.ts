/** The pool of connections, transactions over it, and telling "the database is away" from other faults. */
import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2';
import type { QueryOptions, QueryValues } from 'mysql2';
import { createPool, type Pool } from 'mysql2/promise';
import { asReady, Ready, type Statement } from './ready.ts';
import * as schema from './schema.ts';

export type Database = MySql2Database<typeof schema> & { readonly pool: Pool };
/** The builder of statements over one connection, in a transaction. */
export type Transaction = MySql2Database<typeof schema> & { readonly line: Line };
/** A transaction, or the database itself for single statements. */
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
    // Traces of where each statement was asked for cost more than most of them.
    trace: false,
  });
  // Readers see what is committed; what must not change meanwhile is locked by name.
  pool.pool.on('connection', connection => connection.query('set session transaction isolation level read committed'));
  return Object.assign(drizzle(pool, { schema, mode: 'default' }), { pool }) as Database;
}

/** What the driver has at hand for asking: a pool, or one of its connections. */
type Asked = Pick<Pool['pool'], 'query'>;

const ask = (at: Asked, options: QueryOptions): Promise<[results: unknown, fields: unknown]> =>
  new Promise((done, fail) => {
    at.query(options, (fault, results, fields) => (fault ? fail(fault) : done([results, fields])));
  });

async function askAll(at: Asked, statements: readonly Ready[]): Promise<unknown[]> {
  const text = statements.map(statement => statement.text).join(';');
  const [results] = await ask(at, { sql: text, values: statements.flatMap(statement => statement.values) });
  return statements.length === 1 ? [results] : (results as unknown[]);
}

const begin = new Ready('start transaction', []);
const commit = new Ready('commit', []);

type Connection = Parameters<Parameters<Pool['pool']['getConnection']>[0]>[1];

const connectionOf = (pool: Pool): Promise<Connection> =>
  new Promise((done, fail) => {
    pool.pool.getConnection((fault, connection) => (fault ? fail(fault) : done(connection)));
  });

/**
 * One connection for the time of a transaction. It begins with the first statement, in the same trip, and can end with
 * the last ones in theirs.
 */
export class Line {
  readonly #connection: Connection;
  #stands: 'before' | 'within' | 'ended' = 'before';

  constructor(connection: Connection) {
    this.#connection = connection;
  }

  /** How the builder asks. */
  async query(options: QueryOptions, values?: QueryValues): Promise<[unknown, unknown]> {
    if (this.#stands === 'within') return ask(this.#connection, { ...options, values });
    this.#begin();
    const [results, fields] = await ask(this.#connection, {
      ...options,
      sql: `start transaction;${options.sql}`,
      values,
    });
    return [(results as unknown[])[1], (fields as unknown[])[1]];
  }

  /** @returns what each of the statements gave */
  async together(statements: readonly Ready[], isLast: boolean): Promise<unknown[]> {
    const isFirst = this.#stands === 'before';
    if (isFirst) this.#begin();
    const all = [...(isFirst ? [begin] : []), ...statements, ...(isLast ? [commit] : [])];
    const results = await askAll(this.#connection, all);
    if (isLast) this.#stands = 'ended';
    return results.slice(isFirst ? 1 : 0, isLast ? -1 : undefined);
  }

  async commit(): Promise<void> {
    if (this.#stands === 'within') await ask(this.#connection, { sql: 'commit' });
    this.#stands = 'ended';
    this.#connection.release();
  }

  /** A connection that cannot even be rolled back is given up; the database then forgets what was done on it. */
  async giveUp(): Promise<void> {
    try {
      if (this.#stands === 'within') await ask(this.#connection, { sql: 'rollback' });
      this.#connection.release();
    } catch {
      this.#connection.destroy();
    }
    this.#stands = 'ended';
  }

  #begin(): void {
    if (this.#stands === 'ended') throw new Error('the transaction has ended');
    this.#stands = 'within';
  }
}

/**
 * Runs statements in their order, in one trip to the database; the first that fails ends it.
 * @returns what each gave: rows under the names of their columns, values as the driver reads them
 */
export async function together(executor: Executor, statements: readonly Statement[]): Promise<unknown[]> {
  if (statements.length === 0) return [];
  const all = statements.map(asReady);
  return 'line' in executor ? executor.line.together(all, false) : askAll(executor.pool.pool, all);
}

/** The last statements of a transaction, committed in the same trip. Nothing can be asked in it afterwards. */
export async function finish(tx: Transaction, statements: readonly Statement[]): Promise<void> {
  await tx.line.together(statements.map(asReady), true);
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
/** The work must be done again: another transaction was in its way. */
export const isDeadlock = (fault: unknown): boolean =>
  ['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_CHECKREAD'].includes(errorCode(fault) ?? '');

async function oneTransaction<T>(db: Database, work: (tx: Transaction) => Promise<T>): Promise<T> {
  const line = new Line(await connectionOf(db.pool));
  try {
    // The builder only ever calls `query` of what it is given.
    const tx = Object.assign(drizzle(line as never), { line }) as unknown as Transaction;
    const result = await work(tx);
    await line.commit();
    return result;
  } catch (fault) {
    await line.giveUp();
    throw fault;
  }
}

/** Runs work in one transaction; the loser of a deadlock is run again. */
export async function inTransaction<T>(db: Database, work: (tx: Transaction) => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await oneTransaction(db, work);
    } catch (fault) {
      if (!isDeadlock(fault) || tries >= 5) throw fault;
    }
  }
}
