/** The running house: database, stand-in mail and server, started together and stopped together. */
import { spawn, spawnSync } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { freePort, isAlive, portIsFree, startDatabase } from './database.mjs';
import { root } from './prepare.mjs';
import { say, Trouble } from './say.mjs';

const tsx = ['--import', 'tsx'];
/** A server answers many short calls; with room for what they leave behind it seldom stops to clear it away. */
const serverFlags = JSON.parse(readFileSync(join(root, 'server', 'package.json'), 'utf8')).config.node.split(' ');

/** Starts a process of ours and waits for its first line of JSON. */
function startProcess(file, env, logFile, flags = [], words = []) {
  const child = spawn(process.execPath, [...flags, ...tsx, file, ...words], {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let log = '';
  const ready = new Promise((done, fail) => {
    const take = chunk => {
      log += chunk;
      if (logFile) writeFileSync(logFile, chunk, { flag: 'a' });
      const line = log.split('\n').find(l => l.startsWith('{"listening"') || l.startsWith('{"url"'));
      if (line) done(JSON.parse(line));
      if (log.length > 100_000) log = '';
    };
    child.stdout.on('data', take);
    child.stderr.on('data', take);
    child.once('exit', code => fail(new Trouble(`${file} ended (${code}) before it was ready: ${lastWords(log)}`)));
  });
  const stop = () =>
    new Promise(done => {
      if (child.exitCode !== null || child.signalCode !== null) return done();
      child.once('exit', done);
      child.kill('SIGTERM');
      setTimeout(() => child.kill('SIGKILL'), 8000).unref();
    });
  return { ready, stop, child };
}

const lastWords = log => log.trim().split('\n').slice(-3).join(' ').slice(0, 400);

function* sources(folder) {
  for (const entry of readdirSync(join(root, folder), { withFileTypes: true })) {
    if (['node_modules', 'dist', 'migrations'].includes(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* sources(path);
    else yield path;
  }
}

/** Builds the pages when a source of theirs has changed since. */
export function buildPages() {
  const hash = createHash('sha256');
  for (const folder of ['core', 'contract', 'web']) {
    for (const file of sources(folder)) hash.update(file).update(readFileSync(join(root, file)));
  }
  const wanted = hash.digest('hex');
  const stamp = join(root, 'web', 'dist', '.built-from');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('Building the pages …');
  // The pages for people outside are built after those of the house, into the same folder.
  for (const pages of ['house', 'outside']) {
    const built = spawnSync('npx', ['vite', 'build', '--logLevel', 'error'], {
      cwd: join(root, 'web'),
      encoding: 'utf8',
      env: { ...process.env, NP_PAGES: pages },
    });
    if (built.status !== 0)
      throw new Trouble(`The pages could not be built: ${lastWords(built.stderr || built.stdout)}`);
  }
  writeFileSync(stamp, wanted);
}

/**
 * @param {{ folder: string, port: number, fresh?: boolean, quiet?: boolean }} options
 * @returns {Promise<{ address: string, stop: () => Promise<void>, server: import('node:child_process').ChildProcess }>}
 */
export async function startStack({ folder, port, fresh = false, quiet = false }) {
  const tell = quiet ? () => {} : say;
  if (!(await portIsFree(port))) {
    throw new Trouble(`Port ${port} on 127.0.0.1 is taken. Free it, or choose another with NP_PORT.`);
  }
  if (fresh) {
    const pidFile = join(folder, 'db', 'pid');
    if (existsSync(pidFile) && isAlive(Number(readFileSync(pidFile, 'utf8')))) {
      throw new Trouble(`The database in ${folder} is running; stop the other demo first.`);
    }
    rmSync(folder, { recursive: true, force: true });
  }
  mkdirSync(folder, { recursive: true });
  const stops = [];
  const stop = async () => {
    for (const end of stops.splice(0).reverse()) await end();
  };
  try {
    tell('Starting the database …');
    const database = await startDatabase(join(folder, 'db'));
    stops.push(database.stop);

    if (!existsSync(join(folder, 'loaded'))) tell('Loading the demo organisation …');
    const directoryPort = await freePort();
    const token = randomBytes(24).toString('hex');
    const loading = startProcess('demo/main.ts', {
      NP_DATABASE: database.url,
      NP_SEAL_KEYS: join(folder, 'seal.keys'),
      NP_DIRECTORY: `http://127.0.0.1:${directoryPort}/scim/v2`,
      NP_DIRECTORY_TOKEN: token,
      NP_DIRECTORY_FOLDER: join(folder, 'directory'),
    });
    const { url, loaded } = await loading.ready;
    await new Promise(done => {
      if (loading.child.exitCode !== null) done();
      else loading.child.once('exit', done);
    });
    if (loaded) tell(`Loaded ${loaded.people} people and ${loaded.requests} requests.`);
    writeFileSync(join(folder, 'loaded'), '');
    const smtpPort = await freePort();
    const mailsPort = await freePort();
    const inPort = await freePort();
    const mail = startProcess('standins/mail/main.ts', {
      NP_SMTP_PORT: String(smtpPort),
      NP_MAILS_PORT: String(mailsPort),
      NP_MAILS_FILE: join(folder, 'mails.jsonl'),
      NP_SMTP_IN: String(inPort),
    });
    stops.push(mail.stop);
    await mail.ready;
    const directory = startProcess(
      'standins/directory/main.ts',
      {},
      undefined,
      [],
      ['--port', String(directoryPort), '--token', token, '--data', join(folder, 'directory')],
    );
    stops.push(directory.stop);
    await directory.ready;
    const server = startProcess(
      'server/main.ts',
      {
        NP_DATABASE: url,
        NP_SEAL_KEYS: join(folder, 'seal.keys'),
        NP_PORT: String(port),
        NP_ADDRESS: `http://127.0.0.1:${port}`,
        NP_SMTP: `smtp://127.0.0.1:${smtpPort}`,
        NP_MAILROOM: `http://127.0.0.1:${mailsPort}/mails`,
        NP_SMTP_IN: String(inPort),
        NP_DIRECTORY: `http://127.0.0.1:${directoryPort}`,
        NP_DIRECTORY_TOKEN: token,
        NP_DEMO: '1',
        NP_MAIL_DOMAIN: 'selkie.example',
        NP_PAGES: join(root, 'web', 'dist'),
        NP_LOG: 'warn',
      },
      join(folder, 'server.log'),
      serverFlags,
    );
    stops.push(server.stop);
    await server.ready;
    return { address: `http://127.0.0.1:${port}`, stop, server: server.child };
  } catch (fault) {
    await stop();
    throw fault;
  }
}
