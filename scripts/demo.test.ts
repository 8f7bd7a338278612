import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, test } from '@jest/globals';

const folder = mkdtempSync(join(tmpdir(), 'np-demo-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const run = (code: string, env: Record<string, string> = {}) =>
  spawnSync(process.execPath, ['--input-type=module', '-e', code], {
    encoding: 'utf8',
    env: { ...process.env, ...env },
  });

const listen = (): Promise<{ server: Server; port: number }> =>
  new Promise(done => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const address = server.address();
      done({ server, port: address && typeof address === 'object' ? address.port : 0 });
    });
  });

const inMain = (work: string) => `
  import { main } from './scripts/machine/say.mjs';
  ${work}
`;

describe('starting, when something is not right', () => {
  test('a taken port is one sentence and a non-zero exit', async () => {
    const { server, port } = await listen();
    const code = inMain(`import { startStack } from './scripts/machine/stack.mjs';
      await main(() => startStack({ folder: ${JSON.stringify(join(folder, 'a'))}, port: ${port} }));`);
    const { status, stderr } = run(code);
    server.close();
    expect(status).toBe(1);
    expect(stderr.trim()).toBe(`Port ${port} on 127.0.0.1 is taken. Free it, or choose another with NP_PORT.`);
  });

  test('a database that does not come up is one sentence, and nothing is left running', () => {
    // A folder below a file cannot be made.
    const code = inMain(`import { startDatabase } from './scripts/machine/database.mjs';
      await main(() => startDatabase('/etc/hostname/db'));`);
    const { status, stderr } = run(code);
    expect(status).toBe(1);
    expect(stderr.trim().split('\n')).toHaveLength(1);
    expect(stderr).not.toContain('    at ');
  });

  test.each([
    [
      'without root',
      'isRoot: false',
      'mariadb-server must be installed first; as root type: apt-get update && apt-get install -y --no-install-recommends mariadb-server',
    ],
    ['without apt-get', 'isRoot: true', 'mariadb-server must be installed first; there is no apt-get here.'],
  ])('a missing program %s is one sentence with what to do', (_, machine, sentence) => {
    const code = inMain(`import { installPrograms } from './scripts/machine/prepare.mjs';
      await main(() => installPrograms(['mariadbd'], { find: () => undefined, ${machine} }));`);
    expect(run(code)).toMatchObject({ status: 1, stderr: `${sentence}\n` });
  });

  test('an unknown word and a port that is none are said', () => {
    const demo = (args: string[], env: Record<string, string>) =>
      spawnSync(process.execPath, ['scripts/demo.mjs', ...args], { encoding: 'utf8', env: { ...process.env, ...env } });
    expect(demo(['--quickly'], {})).toMatchObject({
      status: 1,
      stderr: 'The demo does not know “--quickly”; it knows --fresh.\n',
    });
    expect(demo([], { NP_PORT: 'eighty' })).toMatchObject({ status: 1, stderr: 'NP_PORT is not a port: eighty.\n' });
  });
});
