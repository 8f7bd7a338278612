/** `npm run soak`: runs the long kill and race runs over a database of their own. */
import { overDatabase } from './overDatabase.mjs';
import { prepare } from './prepare.mjs';
import { main } from './say.mjs';

await main(async () => {
  prepare();
  process.exit(await overDatabase('bench/soak.ts'));
});
