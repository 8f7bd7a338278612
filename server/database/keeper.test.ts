import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import { eventually } from '../testing/serving.ts';

const isAlive = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

test.each(['SIGTERM', 'SIGKILL'] as const)(
  'a database of whoever is ended by %s ends too, its folder is gone, and nothing of another database with it',
  async signal => {
    const folder = mkdtempSync(join(tmpdir(), 'np-kept-'));
    const shared = mkdtempSync(join(tmpdir(), 'np-shared-'));
    // A server that begins clears away every such table it finds in its folder for what is brief.
    const ofAnother = join(shared, '#sql-temptable-1-1-1.MAI');
    writeFileSync(ofAnother, 'a table that another server is using');
    const words = [join(folder, 'db'), { goesWith: folder }].map(word => JSON.stringify(word)).join(', ');
    const code = `import('./scripts/machine/database.mjs').then(m => m.startDatabase(${words})).then(() => setInterval(() => {}, 1000))`;
    const owner = spawn(process.execPath, ['-e', code], { stdio: 'ignore', env: { ...process.env, TMPDIR: shared } });
    await eventually(async () => existsSync(join(folder, 'db', 'address')));
    const pid = Number(readFileSync(join(folder, 'db', 'pid'), 'utf8'));
    const stood = [isAlive(pid), existsSync(ofAnother)];
    owner.kill(signal);
    await eventually(async () => !isAlive(pid) && !existsSync(folder));
    expect(stood).toEqual([true, true]);
    rmSync(shared, { recursive: true, force: true });
  },
);
