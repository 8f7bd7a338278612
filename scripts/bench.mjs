/** `npm run bench`: runs the benchmarks, compiled, over a database of their own; `-- desk live` runs only those. */
import { copyFileSync } from 'node:fs';
import { join } from 'node:path';
import { overDatabase } from './overDatabase.mjs';
import { prepare, root } from './prepare.mjs';
import { run } from './running.mjs';
import { main, say } from './say.mjs';

await main(async () => {
  prepare();
  // What is measured is what runs: without a loader of TypeScript in between.
  if ((await run(process.execPath, ['scripts/build.mjs'])) !== 0) process.exit(1);
  const { bundle, target } = await import('./bundle.mjs');
  await bundle('bench/main.ts', 'bench.mjs');
  // A paper that the demo hands in; it is read from beside the program.
  copyFileSync(join(root, 'demo', 'history', 'doctors-note.pdf'), join(target, 'doctors-note.pdf'));
  say('Measuring …');
  process.exit(await overDatabase('build/bench.mjs', process.argv.slice(2)));
});
