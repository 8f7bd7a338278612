/**
 * Compiles a program into a folder, for tests that start it many times: compiled it starts in a third of the time. Prints the
 * file to start. `node scripts/machine/compiled.mjs ENTRY FOLDER`
 */
import { existsSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { bundle, bundleServer } from './bundle.mjs';

const [entry, folder] = process.argv.slice(2);
const own = join(folder, entry.replaceAll('/', '-'));
if (!existsSync(own)) {
  // Whoever else compiles it meanwhile makes the same; the first to be done puts it there whole.
  const making = `${own}-${process.pid}`;
  mkdirSync(making, { recursive: true });
  if (entry === 'server/main.ts') await bundleServer(making);
  else await bundle(entry, 'main.mjs', making);
  try {
    renameSync(making, own);
  } catch (fault) {
    if (!existsSync(own)) throw fault;
    rmSync(making, { recursive: true });
  }
}
process.stdout.write(join(own, 'main.mjs'));
