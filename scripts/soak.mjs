/** `npm run soak`: property tests with a new seed, then the long kill and race runs over a database of their own. */
import { spawnSync } from 'node:child_process';
import { overDatabase } from './overDatabase.mjs';
import { prepare, root } from './prepare.mjs';
import { main, say } from './say.mjs';

await main(async () => {
  prepare();
  const seed = String(Date.now() % 2 ** 31);
  say(`Property tests with the seed ${seed}`);
  const laws = spawnSync('npx', ['jest', 'core'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, NP_SEED: seed },
  });
  const ran = await overDatabase('bench/soak.ts');
  process.exit(laws.status === 0 ? ran : 1);
});
