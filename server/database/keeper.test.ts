import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
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
  'a database of whoever is ended by %s ends too, and its folder is gone',
  async signal => {
    const folder = mkdtempSync(join(tmpdir(), 'np-kept-'));
    const words = [join(folder, 'db'), { goesWith: folder }].map(word => JSON.stringify(word)).join(', ');
    const code = `import('./scripts/machine/database.mjs').then(m => m.startDatabase(${words})).then(() => setInterval(() => {}, 1000))`;
    const owner = spawn(process.execPath, ['-e', code], { stdio: 'ignore' });
    await eventually(async () => existsSync(join(folder, 'db', 'address')));
    const pid = Number(readFileSync(join(folder, 'db', 'pid'), 'utf8'));
    expect(isAlive(pid)).toBe(true);
    owner.kill(signal);
    await eventually(async () => !isAlive(pid) && !existsSync(folder));
  },
);
