/**
 * `npm run -s audit`: verifies the trail of the demo's database, running or not, or of the one in NP_DATABASE.
 * Says every row that was changed by hand, and ends with 1 when there is one.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { isAlive, startDatabase } from './machine/database.mjs';
import { dataRoot, prepare, root } from './machine/prepare.mjs';
import { main, Trouble } from './machine/say.mjs';

const schema = 'north_pebble';

async function reach(folder) {
  const pidFile = join(folder, 'pid');
  if (!existsSync(join(folder, 'address'))) {
    throw new Trouble('There is no demo to verify yet. Start it with npm run demo, or set NP_DATABASE.');
  }
  if (existsSync(pidFile) && isAlive(Number(readFileSync(pidFile, 'utf8')))) {
    return { url: readFileSync(join(folder, 'address'), 'utf8').trim(), stop: async () => {} };
  }
  return startDatabase(folder);
}

await main(async () => {
  prepare();
  const home = process.env.NP_DATA ? resolve(process.env.NP_DATA) : join(dataRoot, 'demo');
  const folder = join(home, 'db');
  const database = process.env.NP_DATABASE ? null : await reach(folder);
  const done = spawnSync(process.execPath, ['--import', 'tsx', 'server/audit/main.ts'], {
    cwd: root,
    stdio: 'inherit',
    env: {
      ...(database ? { NP_SEAL_KEYS: join(home, 'seal.keys') } : {}),
      ...process.env,
      NP_DATABASE: process.env.NP_DATABASE ?? `${database?.url}/${schema}`,
    },
  });
  await database?.stop();
  process.exit(done.status ?? 1);
});
