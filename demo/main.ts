/**
 * Fills an empty database with the demo, as a process of its own, and the folder of the directory beside it: NP_DATABASE is
 * the server's address, the schema is made.
 */
import { createSchema, migrateDatabase, openDatabase } from '@north-pebble/server/database';
import { fillDirectory } from './directory.ts';
import { connectDirectory, isLoaded, loadDemo, played } from './load.ts';

const { NP_DATABASE, NP_SCHEMA, NP_DIRECTORY, NP_DIRECTORY_TOKEN, NP_DIRECTORY_FOLDER } = process.env;
const url = await createSchema(NP_DATABASE ?? '', NP_SCHEMA ?? 'north_pebble');
const db = openDatabase(url, 4);
db.keys.makeIfMissing();
await migrateDatabase(db);
let loaded: Awaited<ReturnType<typeof loadDemo>> | null = null;
if (!(await isLoaded(db))) {
  const history = played();
  loaded = await loadDemo(db, history, NP_DIRECTORY_FOLDER ? fillDirectory(NP_DIRECTORY_FOLDER, history) : undefined);
}
// The stand-in for a directory listens somewhere else at each start.
if (NP_DIRECTORY) await connectDirectory(db, NP_DIRECTORY, NP_DIRECTORY_TOKEN ?? '');
await db.pool.end();
process.stdout.write(`${JSON.stringify({ url, loaded })}\n`);
