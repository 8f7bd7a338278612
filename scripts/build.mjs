/** `npm run build`: what runs with production packages alone, compiled: the server, its proving thread, and the pages. */
import { cpSync, mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { rolldown } from 'rolldown';
import { root } from './prepare.mjs';
import { main, say } from './say.mjs';
import { buildPages } from './stack.mjs';

const target = join(root, 'build');

/** One file for each entry; packages stay packages. */
async function bundle(entry, file) {
  const built = await rolldown({
    input: join(root, entry),
    cwd: root,
    platform: 'node',
    external: id => !/^[./]/.test(id) && !id.startsWith('@north-pebble/'),
    logLevel: 'silent',
  });
  await built.write({ file: join(target, file), format: 'esm', codeSplitting: false, sourcemap: true });
  await built.close();
}

await main(async () => {
  buildPages();
  rmSync(target, { recursive: true, force: true });
  mkdirSync(target, { recursive: true });
  say('Building the server …');
  await bundle('server/main.ts', 'main.mjs');
  await bundle('server/setup.ts', 'setup.mjs');
  await bundle('server/audit/main.ts', 'audit.mjs');
  // The thread looks for its beginning beside the server.
  await bundle('server/proving/worker.ts', 'start.mjs');
  cpSync(join(root, 'server', 'database', 'migrations'), join(target, 'migrations'), { recursive: true });
  cpSync(join(root, 'web', 'dist'), join(target, 'pages'), { recursive: true });
  say('Built. Start it with: npm start');
});
