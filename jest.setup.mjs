/** One database server for all test files; each file makes a schema of its own in it. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startDatabase } from './scripts/machine/database.mjs';

export default async function setup() {
  const folder = mkdtempSync(join(tmpdir(), 'np-jest-'));
  const database = await startDatabase(join(folder, 'db'), { goesWith: folder });
  process.env.NP_DATABASE = database.url;
  globalThis.stopDatabase = async () => {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  };
}
