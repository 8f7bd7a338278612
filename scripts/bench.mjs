/** `npm run bench`: builds the pages and runs the benchmarks over a database of their own; `-- desk live` runs only those. */
import { overDatabase } from './overDatabase.mjs';
import { prepare } from './prepare.mjs';
import { main } from './say.mjs';
import { buildPages } from './stack.mjs';

await main(async () => {
  prepare();
  buildPages();
  process.exit(await overDatabase('bench/main.ts', process.argv.slice(2)));
});
