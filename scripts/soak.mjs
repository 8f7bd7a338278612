/** `npm run soak`: starts a database of its own and runs the long kill and race runs over it. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startDatabase } from './database.mjs';
import { prepare, root } from './prepare.mjs';
import { main } from './say.mjs';

await main(async () => {
  prepare();
  const folder = mkdtempSync(join(tmpdir(), 'np-soak-'));
  const database = await startDatabase(join(folder, 'db'));
  const done = spawnSync(process.execPath, ['--import', 'tsx', 'bench/soak.ts'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, NP_DATABASE: database.url },
  });
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
  process.exit(done.status ?? 1);
});
