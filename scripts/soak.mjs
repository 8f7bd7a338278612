/** `npm run soak`: property tests with a new seed, then the long kill and race runs over a database of their own. */
import { overDatabase } from './machine/overDatabase.mjs';
import { prepare } from './machine/prepare.mjs';
import { run } from './machine/running.mjs';
import { main, say } from './machine/say.mjs';

await main(async () => {
  prepare();
  const seed = String(Date.now() % 2 ** 31);
  say(`Property tests with the seed ${seed}`);
  const laws = await run('npx', ['jest', 'core', 'server/connections'], { env: { NP_SEED: seed } });
  const ran = await overDatabase('bench/soak.ts');
  process.exit(laws === 0 ? ran : 1);
});
