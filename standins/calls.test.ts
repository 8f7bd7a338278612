/** The stand-in for another system that takes signed calls: signatures, keys that come twice, names that are taken. */
import { type ChildProcess, spawn } from 'node:child_process';
import { createHmac } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';

const secret = 'a secret of sixteen letters';
let child: ChildProcess;
let base: string;

beforeAll(async () => {
  const port = await new Promise<number>(done => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => done(address && typeof address === 'object' ? address.port : 0));
    });
  });
  base = `http://127.0.0.1:${port}`;
  child = spawn(process.execPath, ['--import', 'tsx', 'standins/calls/main.ts'], {
    env: {
      ...process.env,
      NP_CALLS_PORT: String(port),
      NP_CALLS_SECRET: secret,
      NP_CALLS_FILE: join(mkdtempSync(join(tmpdir(), 'np-directory-')), 'served.jsonl'),
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise(done => child.stdout?.once('data', done));
});
afterAll(() => {
  child.kill('SIGKILL');
});

async function call(body: object, { at = Date.now() / 1000, signed = true } = {}) {
  const text = JSON.stringify(body);
  const time = String(Math.floor(at));
  const signature = createHmac('sha256', signed ? secret : 'another')
    .update(`${time}.${text}`)
    .digest('hex');
  const response = await fetch(`${base}/calls`, {
    method: 'POST',
    headers: { 'Pebble-Time': time, 'Pebble-Signature': `v1=${signature}` },
    body: text,
  });
  return { status: response.status, body: (await response.json()) as Record<string, unknown> };
}
const account = (key: string, name: string) => ({ key, action: 'create account', values: { name } });

test('makes an account once for a key, and says what became of it', async () => {
  expect(await call(account('R-1:2:0', 'Íñes Okoro'))).toEqual({
    status: 201,
    body: { name: 'ines.okoro', account: 'ines.okoro', address: 'ines.okoro@selkie.example' },
  });
  expect((await call(account('R-1:2:0', 'Íñes Okoro'))).status).toBe(201);
  expect(await call(account('R-2:2:0', 'Ines Okoro'))).toMatchObject({ status: 409 });
  const served = (await (await fetch(`${base}/served`)).json()) as { key: string; times: number }[];
  expect(served.find(one => one.key === 'R-1:2:0')?.times).toBe(2);
});

test('takes nothing that is not signed, or was signed long ago', async () => {
  expect((await call(account('R-3:2:0', 'Per'), { signed: false })).status).toBe(403);
  expect((await call(account('R-3:2:0', 'Per'), { at: Date.now() / 1000 - 900 })).status).toBe(403);
  expect((await call({ check: true })).status).toBe(200);
});
