/** Runs one of our programs over a database of its own, that is there for as long as it runs. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startDatabase } from './database.mjs';
import { makeKeys } from './keys.mjs';
import { run } from './running.mjs';

/**
 * @param {string} file of the program, which finds the address in NP_DATABASE
 * @param {string[]} args what it is told besides
 * @returns {Promise<number>} its exit code
 */
export async function overDatabase(file, args = []) {
  const folder = mkdtempSync(join(tmpdir(), 'np-over-'));
  const database = await startDatabase(join(folder, 'db'), { goesWith: folder });
  const env = { NP_DATABASE: database.url, NP_SEAL_KEYS: makeKeys(join(folder, 'seal.keys')) };
  const code = await run(process.execPath, ['--import', 'tsx', file, ...args], { env });
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
  return code;
}
