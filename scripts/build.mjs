/** `npm run build`: what runs with production packages alone, compiled: the server, its threads, and the pages. */
import { cpSync, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { bundle, bundleServer, target } from './machine/bundle.mjs';
import { root } from './machine/prepare.mjs';
import { main, say } from './machine/say.mjs';
import { buildPages } from './machine/stack.mjs';

await main(async () => {
  buildPages();
  rmSync(target, { recursive: true, force: true });
  mkdirSync(target, { recursive: true });
  say('Building the server …');
  await bundleServer();
  await bundle('server/setup.ts', 'setup.mjs');
  await bundle('server/audit/main.ts', 'audit.mjs');
  cpSync(join(root, 'web', 'dist'), join(target, 'pages'), { recursive: true });
  say('Built. Start it with: npm start');
});
