/** `npm run -s audit`: says whether the trail is whole, and names every row that is not. Ends with 1 when it is not. */
import { openDatabase } from '../database/index.ts';
import { audit, headsBeside, readHeads } from './index.ts';

const db = openDatabase(process.env.NP_DATABASE ?? '', 2);
const { requests, events, faults } = await audit(
  db,
  await readHeads(process.env.NP_HEADS ?? headsBeside(db.keys.file)),
);
for (const { request, seq, words } of faults) {
  process.stdout.write(`${request}${seq === null ? '' : ` event ${seq}`}: ${words}\n`);
}
process.stdout.write(`${requests} requests, ${events} events, ${faults.length} faults\n`);
await db.pool.end();
process.exitCode = faults.length === 0 ? 0 : 1;
