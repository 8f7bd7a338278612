/** `npm run bench`: runs the benchmarks, compiled, over a database of their own; `-- desk live` runs only those. */
import { copyFileSync, cpSync, readdirSync } from 'node:fs';
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
  // The papers of the demo's history, and a workflow as it was, are read beside whatever plays it.
  const history = join(root, 'demo', 'history');
  for (const paper of readdirSync(history).filter(name => name.endsWith('.pdf')))
    copyFileSync(join(history, paper), join(target, paper));
  cpSync(history, join(target, 'history'), { recursive: true, filter: from => !from.endsWith('.ts') });
  say('Measuring …');
  process.env.NP_BENCH_LAST ??= join(root, 'bench', 'last.json');
  process.exit(await overDatabase('build/bench.mjs', process.argv.slice(2)));
});
