/** Brings a schema to the newest committed migration, making it when it is not there. */
import { fileURLToPath } from 'node:url';
import { migrate } from 'drizzle-orm/mysql2/migrator';
import { createConnection } from 'mysql2/promise';
import type { Database } from './connection.ts';

const folder = fileURLToPath(new URL('./migrations', import.meta.url));

/** @param url address of the server, @param schema name of the schema to make */
export async function createSchema(url: string, schema: string): Promise<string> {
  if (!/^[a-z][a-z0-9_]{0,60}$/.test(schema)) throw new Error(`${schema} is not a name for a schema`);
  const connection = await createConnection({ uri: url });
  try {
    await connection.query(`CREATE DATABASE IF NOT EXISTS ${schema} CHARACTER SET utf8mb4 COLLATE utf8mb4_bin`);
  } finally {
    await connection.end();
  }
  const address = new URL(url);
  address.pathname = `/${schema}`;
  return address.toString();
}

const waits = 120;

/** Does work that only one server at a time may do; the others wait for it. */
export async function alone(db: Database, what: string, work: () => Promise<void>): Promise<void> {
  const connection = await db.pool.getConnection();
  try {
    const name = `concat(database(), ' ', ?)`;
    const [rows] = await connection.query(`select get_lock(${name}, ?) as got`, [what, waits]);
    if ((rows as { got: number | null }[])[0].got !== 1)
      throw new Error(`another server has been at “${what}” too long`);
    try {
      await work();
    } finally {
      await connection.query(`select release_lock(${name})`, [what]);
    }
  } finally {
    connection.release();
  }
}

export const migrateDatabase = (db: Database): Promise<void> => migrate(db, { migrationsFolder: folder });
