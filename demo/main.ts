/** Fills an empty database with the demo, as a process of its own: NP_DATABASE is the server's address, the schema is made. */
import { createSchema, migrateDatabase, openDatabase } from '@north-pebble/server/database';
import { connectDirectory, isLoaded, loadDemo } from './load.ts';

const url = await createSchema(process.env.NP_DATABASE ?? '', process.env.NP_SCHEMA ?? 'north_pebble');
const db = openDatabase(url, 4);
await migrateDatabase(db);
const loaded = (await isLoaded(db)) ? null : await loadDemo(db);
// The stand-in for a directory listens somewhere else at each start.
if (process.env.NP_DIRECTORY)
  await connectDirectory(db, process.env.NP_DIRECTORY, process.env.NP_DIRECTORY_SECRET ?? '');
await db.pool.end();
process.stdout.write(`${JSON.stringify({ url, loaded })}\n`);
