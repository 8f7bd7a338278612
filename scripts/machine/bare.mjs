/**
 * A house without the demo, for trying how one begins: an empty database, the stand-in for mail, and the server as it is
 * built. `node scripts/machine/bare.mjs FOLDER` says where it is as one line of JSON, and when it is told to end, how it ended.
 */
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { createConnection } from 'mysql2/promise';
import { freePort, startDatabase } from './database.mjs';
import { root } from './prepare.mjs';

/** @returns the first line of a child's output that a test holds for */
function line(child, holds) {
  return new Promise((done, fail) => {
    let text = '';
    const take = chunk => {
      text += chunk;
      const found = text.split('\n').find(holds);
      if (found) done(found);
    };
    child.stdout.on('data', take);
    child.stderr.on('data', take);
    child.once('exit', code => fail(new Error(`ended with ${code}: ${text.slice(-600)}`)));
  });
}

const ended = child =>
  new Promise(done => {
    if (child.exitCode !== null || child.signalCode !== null) return done(child.exitCode);
    child.once('exit', done);
    child.kill('SIGTERM');
  });

/** @param {string} folder for the database and the mails */
async function startBare(folder) {
  if (!existsSync(join(root, 'build', 'main.mjs'))) throw new Error('It is not built: npm run build');
  const database = await startDatabase(join(folder, 'db'));
  const connection = await createConnection({ uri: database.url });
  await connection.query('CREATE DATABASE house CHARACTER SET utf8mb4 COLLATE utf8mb4_bin');
  await connection.end();
  const address = new URL(database.url);
  address.pathname = '/house';
  const [port, smtp, mails] = [await freePort(), await freePort(), await freePort()];
  const mail = spawn(process.execPath, ['--import', 'tsx', 'standins/mail/main.ts'], {
    cwd: root,
    env: {
      ...process.env,
      NP_SMTP_PORT: String(smtp),
      NP_MAILS_PORT: String(mails),
      NP_MAILS_FILE: join(folder, 'mails.jsonl'),
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  await line(mail, text => text.includes('listening'));
  const environment = {
    PATH: process.env.PATH,
    NP_DATABASE: address.toString(),
    NP_PORT: String(port),
    NP_ADDRESS: `http://127.0.0.1:${port}`,
    NP_SMTP: `smtp://127.0.0.1:${smtp}`,
    NP_MAIL_DOMAIN: 'house.example',
    NP_LOG: 'warn',
  };
  const server = spawn(process.execPath, [join(root, 'build', 'main.mjs')], {
    cwd: folder,
    env: environment,
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const said = await line(server, text => text.includes('/setup#'));
  return {
    address: `http://127.0.0.1:${port}`,
    setup: said.slice(said.indexOf('http')),
    database: address.toString(),
    mails: `http://127.0.0.1:${mails}/mails`,
    /** @returns the exit code of the server, and after how many milliseconds it ended */
    stop: async () => {
      const before = Date.now();
      const code = await ended(server);
      const took = Date.now() - before;
      await ended(mail);
      await database.stop();
      return { code, took };
    },
  };
}

const { stop, ...where } = await startBare(process.argv[2]);
process.stdout.write(`${JSON.stringify(where)}\n`);
for (const signal of ['SIGINT', 'SIGTERM'])
  process.once(signal, async () => {
    process.stdout.write(`${JSON.stringify(await stop())}\n`);
    process.exit(0);
  });
