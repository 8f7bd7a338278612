/**
 * `npm run restore -- FILE`: puts a backup into an empty database and checks it: as many rows as were backed up, and every
 * sealed chain whole.
 */
import { spawn, spawnSync } from 'node:child_process';
import { createReadStream, existsSync } from 'node:fs';
import { devNull } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { createGunzip } from 'node:zlib';
import { createConnection } from 'mysql2/promise';
import { clientOf } from './machine/client.mjs';
import { root } from './machine/prepare.mjs';
import { main, say, Trouble } from './machine/say.mjs';

await main(async () => {
  const [file] = process.argv.slice(2);
  if (!file || !existsSync(file)) throw new Trouble('Say which backup: npm run restore -- FILE');
  const { args, env, schema } = clientOf(process.env.NP_DATABASE);
  const database = await createConnection({ uri: process.env.NP_DATABASE });
  const [tables] = await database.query('show tables');
  if (tables.length > 0)
    throw new Trouble(`${schema} has ${tables.length} tables already. Restore into an empty database.`);
  const tool = spawn('mariadb', [...args, schema], { env, stdio: ['pipe', 'ignore', 'pipe'] });
  let wrong = '';
  tool.stderr.on('data', chunk => {
    wrong += chunk;
  });
  const ended = new Promise((done, fail) => {
    tool.once('error', fault => fail(new Trouble(`mariadb cannot be run: ${fault.message}`)));
    tool.once('close', done);
  });
  tool.stdin.on('error', () => {});
  let counts = null;
  const lines = createReadStream(file).pipe(createGunzip());
  for await (const line of createInterface({ input: lines, crlfDelay: Number.POSITIVE_INFINITY })) {
    if (line.startsWith('-- counts ')) counts = JSON.parse(line.slice(10));
    else if (!tool.stdin.write(`${line}\n`)) await new Promise(done => tool.stdin.once('drain', done));
  }
  tool.stdin.end();
  if ((await ended) !== 0) throw new Trouble(`Restoring failed: ${wrong.trim().split('\n').at(-1)}`);
  if (!counts) throw new Trouble('The backup has no end: it was broken off. Take another.');
  for (const [table, wanted] of Object.entries(counts)) {
    const [[{ n }]] = await database.query(`select count(*) as n from \`${table}\``);
    if (Number(n) !== wanted) throw new Trouble(`${table} has ${n} rows, and ${wanted} were backed up.`);
  }
  await database.end();
  say('As many rows as were backed up. Checking the sealed chains …');
  // The ends of the chains that were written down since are ahead of what is restored.
  const told = { stdio: 'inherit', env: { ...process.env, NP_HEADS: devNull } };
  const source = join(root, 'server', 'audit', 'main.ts');
  const checked = existsSync(source)
    ? spawnSync(process.execPath, ['--import', 'tsx', source], { ...told, cwd: root })
    : spawnSync(process.execPath, [join(root, 'build', 'audit.mjs')], told);
  if (checked.status !== 0) throw new Trouble('The trail does not bear out. Do not go on with this database.');
  say('Restored.');
});
