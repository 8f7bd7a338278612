/** Backed up while it runs, restored elsewhere, checked; a backup that is not whole is refused. */
import { execFile } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { createConnection } from 'mysql2/promise';
import { type Serving, serve } from './serve.ts';
import { settingsFor, signedIn, smallHouse } from './testing/serving.ts';

let serving: Serving;
let url: string;
const file = join(mkdtempSync(join(tmpdir(), 'np-backup-')), 'house.sql.gz');
beforeAll(async () => {
  url = await smallHouse();
  serving = await serve(settingsFor(url));
});
afterAll(() => serving.stop());

const run = (script: string, database: string, from = file) =>
  new Promise<{ status: number; said: string }>(done => {
    const child = execFile(
      process.execPath,
      [`scripts/${script}.mjs`, from],
      { env: { ...process.env, NP_DATABASE: database } },
      (_fault, stdout, stderr) => done({ status: child.exitCode ?? -1, said: stdout + stderr }),
    );
  });

async function emptySchema(): Promise<string> {
  const name = `t_${randomBytes(6).toString('hex')}`;
  const connection = await createConnection({ uri: process.env.NP_DATABASE ?? '' });
  await connection.query(`create database ${name} character set utf8mb4 collate utf8mb4_bin`);
  await connection.end();
  const address = new URL(process.env.NP_DATABASE ?? '');
  address.pathname = `/${name}`;
  return address.toString();
}
const rowsIn = async (url: string) => {
  const connection = await createConnection({ uri: url });
  const [[{ n }]] = (await connection.query('select count(*) as n from events')) as unknown as [[{ n: number }]];
  await connection.end();
  return n;
};

test('what is backed up while people ask is restored whole elsewhere', async () => {
  const ina = await signedIn(`http://127.0.0.1:${serving.port}`, 'ina');
  await ina.ask('2026-03-09', '2026-03-13');
  let asking = true;
  const busy = (async () => {
    for (let month = 4; asking && month < 12; month++)
      await ina.ask(`2026-${String(month).padStart(2, '0')}-06`, `2026-${String(month).padStart(2, '0')}-07`);
  })();
  const backed = await run('backup', url);
  expect(backed).toEqual({ status: 0, said: expect.stringContaining('Backed up') });
  asking = false;
  await busy;
  const elsewhere = await emptySchema();
  const restored = await run('restore', elsewhere);
  expect(restored).toEqual({ status: 0, said: expect.stringContaining('Restored.') });
  expect(await rowsIn(elsewhere)).toBeGreaterThan(3);
  // Never over something that is there.
  const over = await run('restore', elsewhere);
  expect(over).toEqual({ status: 1, said: expect.stringContaining('empty database') });
}, 60_000);

test('a backup that was broken off, or from which rows were taken, is refused in words', async () => {
  const lines = gunzipSync(readFileSync(file)).toString('utf8').split('\n');
  const cut = `${file}.cut`;
  writeFileSync(cut, gzipSync(lines.filter(line => !line.startsWith('-- counts')).join('\n')));
  const broken = await run('restore', await emptySchema(), cut);
  expect(broken).toEqual({ status: 1, said: expect.stringContaining('broken off') });
  const event = lines.findIndex(line => line.startsWith('INSERT INTO `events`'));
  writeFileSync(cut, gzipSync(lines.filter((_, i) => i !== event).join('\n')));
  const fewer = await run('restore', await emptySchema(), cut);
  expect(fewer).toEqual({ status: 1, said: expect.stringContaining('were backed up') });
}, 60_000);
