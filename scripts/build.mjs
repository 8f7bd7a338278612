/** `npm run build`: what runs with production packages alone, compiled: the server, its threads, and the pages. */
import { cpSync, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { bundle, target } from './machine/bundle.mjs';
import { root } from './machine/prepare.mjs';
import { main, say } from './machine/say.mjs';
import { buildPages } from './machine/stack.mjs';

await main(async () => {
  buildPages();
  rmSync(target, { recursive: true, force: true });
  mkdirSync(target, { recursive: true });
  say('Building the server …');
  await bundle('server/main.ts', 'main.mjs');
  await bundle('server/setup.ts', 'setup.mjs');
  await bundle('server/audit/main.ts', 'audit.mjs');
  // The threads look for their beginnings beside the server.
  await bundle('server/proving/worker.ts', 'start.mjs');
  await bundle('server/papers/worker.ts', 'paperThread.mjs');
  await bundle('server/reckoning/worker.ts', 'reckonThread.mjs');
  cpSync(join(root, 'server', 'database', 'migrations'), join(target, 'migrations'), { recursive: true });
  cpSync(join(root, 'web', 'dist'), join(target, 'pages'), { recursive: true });
  say('Built. Start it with: npm start');
});
