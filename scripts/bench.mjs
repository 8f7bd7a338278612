/** `npm run bench`: starts a database of its own and runs the benchmarks over it. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startDatabase } from './database.mjs';
import { prepare, root } from './prepare.mjs';
import { main } from './say.mjs';
import { buildPages } from './stack.mjs';

await main(async () => {
  prepare();
  buildPages();
  const folder = mkdtempSync(join(tmpdir(), 'np-bench-'));
  const database = await startDatabase(join(folder, 'db'));
  const done = spawnSync(process.execPath, ['--import', 'tsx', 'bench/main.ts'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, NP_DATABASE: database.url },
  });
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
  process.exit(done.status ?? 1);
});
