/** `npm run setup`: a new one-time address on which a house that nobody looks after is set up. */
import { setupAddress } from './accounts/index.ts';
import { migrateDatabase, openDatabase } from './database/index.ts';
import { readSettings } from './settings.ts';

const settings = readSettings(process.env);
const db = openDatabase(settings.NP_DATABASE, 2);
await migrateDatabase(db);
const address = await setupAddress(db, settings.NP_ADDRESS ?? `http://127.0.0.1:${settings.NP_PORT}`);
await db.pool.end();
process.stdout.write(
  address
    ? `Set the house up within an hour at ${address}\n`
    : 'Somebody looks after this house already. Forgotten passwords are asked for where one signs in.\n',
);
