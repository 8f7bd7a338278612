/**
 * `npm run backup -- FILE`: the whole house as one compressed file, as it stands at one moment, while it runs. Made by
 * MariaDB's own tool; how many rows each table has is written at its end, so that restoring can tell whether all is there.
 */
import { spawn } from 'node:child_process';
import { createWriteStream, renameSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { clientOf } from './machine/client.mjs';
import { main, say, Trouble } from './machine/say.mjs';

await main(async () => {
  const [file] = process.argv.slice(2);
  if (!file) throw new Trouble('Say where the backup goes: npm run backup -- FILE');
  const { args, env, schema } = clientOf(process.env.NP_DATABASE);
  const tool = spawn(
    'mariadb-dump',
    [...args, '--single-transaction', '--quick', '--skip-extended-insert', '--no-autocommit', '--hex-blob', schema],
    { env, stdio: ['ignore', 'pipe', 'pipe'] },
  );
  let wrong = '';
  tool.stderr.on('data', chunk => {
    wrong += chunk;
  });
  const ended = new Promise((done, fail) => {
    tool.once('error', fault => fail(new Trouble(`mariadb-dump cannot be run: ${fault.message}`)));
    tool.once('close', done);
  });
  const counts = {};
  // Written beside it first: a backup that was broken off is no backup.
  const part = `${file}.part`;
  const lines = createInterface({ input: tool.stdout, crlfDelay: Number.POSITIVE_INFINITY });
  await pipeline(
    async function* () {
      for await (const line of lines) {
        const table = /^INSERT INTO `(\w+)`/.exec(line)?.[1];
        if (table) counts[table] = (counts[table] ?? 0) + 1;
        yield `${line}\n`;
      }
      const code = await ended;
      if (code !== 0) throw new Trouble(`The backup failed: ${wrong.trim().split('\n').at(-1)}`);
      yield `-- counts ${JSON.stringify(counts)}\n`;
    },
    createGzip(),
    createWriteStream(part),
  );
  renameSync(part, file);
  const rows = Object.values(counts).reduce((sum, n) => sum + n, 0);
  say(`Backed up ${rows.toLocaleString('en-GB')} rows of ${Object.keys(counts).length} tables to ${file}`);
});
