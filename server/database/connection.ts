/**
 * The pool of connections, transactions over it, and telling "the database is away" from other faults.
 *
 * The driver writes values into a statement's text itself, quoted by the rules of the session's mode. So every connection
 * is given that mode, and is asked for it, before anybody else may use it; a connection whose mode is another one is not
 * used at all, since what quotes under one mode would not under the other.
 */

import { AsyncLocalStorage } from 'node:async_hooks';
import { setTimeout } from 'node:timers/promises';
import { drizzle, type MySql2Database } from 'drizzle-orm/mysql2';
import type { QueryOptions, QueryValues } from 'mysql2';
import { createPool, type Pool } from 'mysql2/promise';
import { asPrepared, Prepared, type Statement } from './prepared.ts';

import * as schema from './schema/index.ts';
import { type Keys, keysOfHouse } from './sealing/keys.ts';
import { Lanes } from './turns.ts';

export type Database = MySql2Database<typeof schema> & {
  readonly pool: Pool;
  /** Where it is, for a thread that opens it for itself. */
  readonly url: string;
  /** Transactions wait here before they take a connection, so that what only reads always finds one. */
  readonly lanes: Lanes;
  /** What its seals are made with. */
  readonly keys: Keys;
};
/** The builder of statements over one connection, in a transaction. */
export type Transaction = MySql2Database<typeof schema> & { readonly open: OpenTransaction; readonly keys: Keys };
/** A transaction, or the database itself for single statements. */
export type Executor = Transaction | Database;

/** The rules by which values are quoted and refused, whatever the server's own are. */
const sessionMode = 'STRICT_TRANS_TABLES,ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION';

/** How long somebody waits for a connection that others use. */
const connectionWait = 8000;
const mostWaiting = 2000;
/** Connections that transactions leave free. */
const keptForReading = 4;

/** A fault of ours: it would wait for a connection that it may be holding itself. */
export class OutsideTransaction extends Error {
  constructor() {
    super('work inside a transaction asked the pool for another connection');
  }
}

/** No connection came free in time. */
export class TooBusy extends Error {
  readonly code = 'NP_TOO_BUSY';
  constructor() {
    super('no connection to the database came free in time');
  }
}

/** While work is inside a transaction, the pool of its connection: it may ask on that one and on no other of the pool. */
const inside = new AsyncLocalStorage<Pool['pool']>();

/** Begins work that goes on by itself: whatever transaction this is said in is none of its. */
export const outside = <T>(work: () => T): T => inside.exit(work);

/** @param wait milliseconds after which waiting for a connection is given up */
export function openDatabase(url: string, connections = 16, wait = connectionWait, keys = keysOfHouse()): Database {
  const pool = createPool({
    uri: url,
    connectionLimit: connections,
    queueLimit: mostWaiting,
    connectTimeout: 3000,
    enableKeepAlive: true,
    charset: 'utf8mb4_bin',
    // One trip for what belongs together. Texts are ours; values are quoted by the driver under a mode that is checked.
    multipleStatements: true,
    // A value that is an object is a text, never a list of columns.
    stringifyObjects: true,
    // Traces of where each statement was asked for cost more than most of them.
    trace: false,
  });
  guard(pool.pool, wait);
  const lanes = new Lanes(Math.max(1, connections - keptForReading));
  return Object.assign(drizzle(pool, { schema, mode: 'default' }), { pool, url, lanes, keys }) as Database;
}

type GotConnection = Parameters<Pool['pool']['getConnection']>[0];

/** Hands out connections that are as they must be, in time, and never to work that already has one. */
function guard(pool: Pool['pool'], wait: number): void {
  const ready = new WeakSet<Connection>();
  const next = pool.getConnection.bind(pool);
  pool.getConnection = (got: GotConnection) => {
    if (inside.getStore() === pool) return got(new OutsideTransaction() as never, undefined as never);
    let isOver = false;
    const timer = globalThis.setTimeout(() => {
      isOver = true;
      got(new TooBusy() as never, undefined as never);
    }, wait);
    const give: GotConnection = (fault, connection) => {
      clearTimeout(timer);
      if (isOver) return connection?.release();
      isOver = true;
      got(fault && isQueueFull(fault) ? (new TooBusy() as never) : fault, connection);
    };
    next((fault, connection) => {
      if (fault || isOver || ready.has(connection)) return give(fault, connection);
      makeReady(connection, failed => {
        if (failed) {
          connection.destroy();
          return give(failed as never, undefined as never);
        }
        ready.add(connection);
        give(null, connection);
      });
    });
  };
}

const isQueueFull = (fault: Error): boolean => fault.message === 'Queue limit reached.';

function makeReady(connection: Connection, done: (fault: Error | null) => void): void {
  // Readers see what is committed; what must not change meanwhile is locked by name.
  const text = `set session transaction isolation level read committed;
    set session sql_mode = '${sessionMode}';
    select @@session.sql_mode as mode, @@session.character_set_client as letters`;
  connection.query(text, (fault: Error | null, results: unknown) => {
    if (fault) return done(fault);
    const [{ mode, letters }] = (results as { mode: string; letters: string }[][])[2];
    const isAsked = mode === sessionMode && letters.startsWith('utf8');
    done(isAsked ? null : new Error(`a connection stands under the mode “${mode}” and the letters “${letters}”`));
  });
}

/** What the driver has at hand for asking: a pool, or one of its connections. */
type Asked = Pick<Pool['pool'], 'query'>;

const ask = (at: Asked, options: QueryOptions): Promise<[results: unknown, fields: unknown]> =>
  new Promise((done, fail) => {
    at.query(options, (fault, results, fields) => (fault ? fail(fault) : done([results, fields])));
  });

async function askAll(at: Asked, statements: readonly Prepared[]): Promise<unknown[]> {
  const text = statements.map(statement => statement.text).join(';');
  const [results] = await ask(at, { sql: text, values: statements.flatMap(statement => statement.values) });
  return statements.length === 1 ? [results] : (results as unknown[]);
}

const begin = [new Prepared('start transaction', [])];
/** Everything is read as it stood at one moment, whatever is written meanwhile. */
const beginSnapshot = [
  new Prepared('set transaction isolation level repeatable read', []),
  new Prepared('start transaction with consistent snapshot, read only', []),
];
const commit = new Prepared('commit', []);

type Connection = Parameters<Parameters<Pool['pool']['getConnection']>[0]>[1];

const connectionOf = (pool: Pool): Promise<Connection> =>
  new Promise((done, fail) => {
    pool.pool.getConnection((fault, connection) => (fault ? fail(fault) : done(connection)));
  });

/**
 * One connection for the time of a transaction. It begins with the first statement, in the same trip, and can end with
 * the last ones in theirs.
 */
export class OpenTransaction {
  readonly #connection: Connection;
  #stands: 'before' | 'within' | 'ended' = 'before';

  readonly #begins: readonly Prepared[];

  constructor(connection: Connection, begins: readonly Prepared[] = begin) {
    this.#connection = connection;
    this.#begins = begins;
  }

  /** How the builder asks. */
  async query(options: QueryOptions, values?: QueryValues): Promise<[unknown, unknown]> {
    if (this.#stands === 'within') return ask(this.#connection, { ...options, values });
    this.#begin();
    const [results, fields] = await ask(this.#connection, {
      ...options,
      sql: `${this.#begins.map(one => one.text).join(';')};${options.sql}`,
      values,
    });
    const at = this.#begins.length;
    return [(results as unknown[])[at], (fields as unknown[])[at]];
  }

  /** @returns what each of the statements gave */
  async inOneTrip(statements: readonly Prepared[], isLast: boolean): Promise<unknown[]> {
    const isFirst = this.#stands === 'before';
    if (isFirst) this.#begin();
    const all = [...(isFirst ? this.#begins : []), ...statements, ...(isLast ? [commit] : [])];
    const results = await askAll(this.#connection, all);
    if (isLast) this.#stands = 'ended';
    return results.slice(isFirst ? this.#begins.length : 0, isLast ? -1 : undefined);
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
export async function inOneTrip(executor: Executor, statements: readonly Statement[]): Promise<unknown[]> {
  if (statements.length === 0) return [];
  const all = statements.map(asPrepared);
  return 'open' in executor ? executor.open.inOneTrip(all, false) : askAll(executor.pool.pool, all);
}

/** The last statements of a transaction, committed in the same trip. Nothing can be asked in it afterwards. */
export async function finish(tx: Transaction, statements: readonly Statement[]): Promise<void> {
  await tx.open.inOneTrip(statements.map(asPrepared), true);
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
/** It is there, and has too much to do. */
export const isTooBusy = (fault: unknown): boolean => errorCode(fault) === 'NP_TOO_BUSY';
export const isDuplicate = (fault: unknown): boolean => errorCode(fault) === 'ER_DUP_ENTRY';
/** The work must be done again: another transaction was in its way. */
export const isDeadlock = (fault: unknown): boolean =>
  ['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_CHECKREAD'].includes(errorCode(fault) ?? '');

const mostTries = 8;

async function oneTransaction<T>(
  db: Database,
  work: (tx: Transaction) => Promise<T>,
  begins?: readonly Prepared[],
): Promise<T> {
  const open = new OpenTransaction(await connectionOf(db.pool), begins);
  try {
    // The builder only ever calls `query` of what it is given.
    const tx = Object.assign(drizzle(open as never), { open, keys: db.keys }) as unknown as Transaction;
    const result = await inside.run(db.pool.pool, async () => await work(tx));
    await open.commit();
    return result;
  } catch (fault) {
    await open.giveUp();
    throw fault;
  }
}

/** Reads as everything stood at one moment, on a house that runs; nothing can be written. */
export const inSnapshot = <T>(db: Database, work: (tx: Transaction) => Promise<T>): Promise<T> =>
  oneTransaction(db, work, beginSnapshot);

/** Runs work in one transaction; the loser of a deadlock is run again. */
export async function inTransaction<T>(db: Database, work: (tx: Transaction) => Promise<T>): Promise<T> {
  if (inside.getStore() === db.pool.pool) throw new OutsideTransaction();
  return db.lanes.run(async () => {
    for (let tries = 1; ; tries++) {
      try {
        return await oneTransaction(db, work);
      } catch (fault) {
        if (!isDeadlock(fault) || tries >= mostTries) throw fault;
        // Two who were in one another's way begin again at different times.
        await setTimeout(tries * tries * (1 + Math.random()));
      }
    }
  });
}
