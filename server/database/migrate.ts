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

export const migrateDatabase = (db: Database): Promise<void> => migrate(db, { migrationsFolder: folder });
