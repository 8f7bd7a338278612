/** Compiles one of our programs, with all of ours that it uses, into one file; packages stay packages. */
import { cpSync } from 'node:fs';
import { join } from 'node:path';
import { rolldown } from 'rolldown';
import { root } from './prepare.mjs';

/** Where everything compiled stands, with the migrations and the pages beside it. */
export const target = join(root, 'build');

/**
 * @param {string} entry from the root of the project
 * @param {string} file in the folder of what is built
 * @param {string} [folder] somewhere in the project, so that its packages are found from there
 */
export async function bundle(entry, file, folder = target) {
  const built = await rolldown({
    input: join(root, entry),
    cwd: root,
    platform: 'node',
    external: id => !/^[./]/.test(id) && !id.startsWith('@north-pebble/'),
    logLevel: 'silent',
  });
  await built.write({ file: join(folder, file), format: 'esm', codeSplitting: false, sourcemap: true });
  await built.close();
}

/** The server with what it looks for beside it: the beginnings of its threads, and the migrations. */
export async function bundleServer(folder = target) {
  await bundle('server/main.ts', 'main.mjs', folder);
  await bundle('server/proving/worker.ts', 'start.mjs', folder);
  await bundle('server/papers/worker.ts', 'paperThread.mjs', folder);
  await bundle('server/reckoning/worker.ts', 'reckonThread.mjs', folder);
  cpSync(join(root, 'server', 'database', 'migrations'), join(folder, 'migrations'), { recursive: true });
}
