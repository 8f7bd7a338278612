/** `npm run bench`: runs the benchmarks, compiled, over a database of their own; `-- desk live` runs only those. */
import { copyFileSync } from 'node:fs';
import { join } from 'node:path';
import { overDatabase } from './machine/overDatabase.mjs';
import { prepare, root } from './machine/prepare.mjs';
import { run } from './machine/running.mjs';
import { main, say } from './machine/say.mjs';

await main(async () => {
  prepare();
  // What is measured is what runs: without a loader of TypeScript in between.
  if ((await run(process.execPath, ['scripts/build.mjs'])) !== 0) process.exit(1);
  const { bundle, target } = await import('./machine/bundle.mjs');
  await bundle('bench/main.ts', 'bench.mjs');
  // A paper that the demo hands in; it is read from beside the program.
  // The papers of the demo's history are read beside whatever plays it.
  for (const paper of ['doctors-note', 'identity-card', 'agreement-signed'])
    copyFileSync(join(root, 'demo', 'history', `${paper}.pdf`), join(target, `${paper}.pdf`));
  say('Measuring …');
  process.exit(await overDatabase('build/bench.mjs', process.argv.slice(2)));
});
