/**
 * A schema filled once on a database server, and copied for each test that wants one like it: a table is copied far faster
 * than the migrations make it.
 */
import { randomBytes } from 'node:crypto';
import type { RowDataPacket } from 'mysql2';
import { createConnection } from 'mysql2/promise';
import { createSchema, type Database, openDatabase } from '../database/index.ts';

/** Fills the model unless another process has done so; the others wait for it. */
async function ensure(server: string, model: string, fill: (db: Database) => Promise<void>): Promise<void> {
  const connection = await createConnection({ uri: server });
  try {
    await connection.query('select get_lock(?, 120)', [model]);
    const [done] = await connection.query<RowDataPacket[]>('show databases like ?', [`${model}_done`]);
    if (done.length > 0) return;
    const db = openDatabase(await createSchema(server, model), 2);
    await fill(db);
    await db.pool.end();
    // Made last: a model that was left half filled is not taken for one.
    await createSchema(server, `${model}_done`);
  } finally {
    await connection.end();
  }
}

/**
 * A new schema with the tables and rows of a model.
 * @param server the address of the database server
 * @param model the name of the model there
 * @returns the address of the schema
 */
export async function copyOf(server: string, model: string, fill: (db: Database) => Promise<void>): Promise<string> {
  await ensure(server, model, fill);
  const url = await createSchema(server, `t_${randomBytes(6).toString('hex')}`);
  const connection = await createConnection({ uri: url, multipleStatements: true });
  try {
    const [tables] = await connection.query<RowDataPacket[]>(
      'select table_name as name from information_schema.tables where table_schema = ?',
      [model],
    );
    const copies = tables.map(({ name }) => {
      const from = `\`${model}\`.\`${name}\``;
      return `create table \`${name}\` like ${from}; insert into \`${name}\` select * from ${from}`;
    });
    await connection.query(copies.join(';\n'));
  } finally {
    await connection.end();
  }
  return url;
}
