/** One database server for all test files; each file makes a schema of its own in it. */
import { existsSync, mkdirSync, mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { freemem, tmpdir } from 'node:os';
import { join } from 'node:path';
import { startDatabase } from './scripts/machine/database.mjs';
import { dataRoot } from './scripts/machine/prepare.mjs';

const gigabyte = 1024 ** 3;

/** Nothing of it outlives the run, so it stands in memory where there is plenty: making tables is mostly making files. */
function briefFolder() {
  const memory = '/dev/shm';
  if (!existsSync(memory) || freemem() < 12 * gigabyte) return tmpdir();
  const { bavail, bsize } = statfsSync(memory);
  return bavail * bsize > 8 * gigabyte ? memory : tmpdir();
}

export default async function setup() {
  const folder = mkdtempSync(join(briefFolder(), 'np-jest-'));
  const database = await startDatabase(join(folder, 'db'), { goesWith: folder });
  process.env.NP_DATABASE = database.url;
  process.env.NP_SEAL_KEYS = join(folder, 'seal.keys');
  writeFileSync(process.env.NP_SEAL_KEYS, `${'5e'.repeat(32)}\n`);
  // Programs that tests start are compiled once; in the project, so that they find its packages.
  mkdirSync(dataRoot, { recursive: true });
  const programs = mkdtempSync(join(dataRoot, 'jest-programs-'));
  process.env.NP_PROGRAMS = programs;
  globalThis.stopDatabase = async () => {
    await database.stop();
    for (const one of [folder, programs]) rmSync(one, { recursive: true, force: true });
  };
}
