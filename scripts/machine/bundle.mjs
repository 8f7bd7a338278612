/** Compiles one of our programs, with all of ours that it uses, into one file; packages stay packages. */
import { join } from 'node:path';
import { rolldown } from 'rolldown';
import { root } from './prepare.mjs';

/** Where everything compiled stands, with the migrations and the pages beside it. */
export const target = join(root, 'build');

/**
 * @param {string} entry from the root of the project
 * @param {string} file in the folder of what is built
 */
export async function bundle(entry, file) {
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
