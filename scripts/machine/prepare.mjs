/** Makes a fresh machine ready: Debian's MariaDB server and Chromium, and the packages of package-lock.json. */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { accessSync, constants, existsSync, mkdirSync, readFileSync, statfsSync, writeFileSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { say, Trouble } from './say.mjs';

export const root = fileURLToPath(new URL('../..', import.meta.url));
export const dataRoot = join(root, '.data');

/** The full path of a program, looked for in PATH and in the folders where Debian puts servers. */
export function programPath(name) {
  const folders = [...(process.env.PATH ?? '').split(delimiter), '/usr/sbin', '/usr/bin', '/usr/local/bin'];
  return folders.map(folder => join(folder, name)).find(path => existsSync(path));
}

const debian = { mariadbd: 'mariadb-server', 'chromium-headless-shell': 'chromium-headless-shell' };

/**
 * Installs what is missing when it may.
 * @param {string[]} names of programs
 * @param {{ find?: (name: string) => string | undefined, isRoot?: boolean }} [machine] what the machine has and allows
 */
export function installPrograms(names, machine = {}) {
  const { find = programPath, isRoot = process.getuid?.() === 0 } = machine;
  const missing = names.filter(name => !find(name)).map(name => debian[name]);
  if (missing.length === 0) return;
  const line = `apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (!isRoot) {
    throw new Trouble(`${missing.join(' and ')} must be installed first; as root type: apt-get update && ${line}`);
  }
  if (!find('apt-get'))
    throw new Trouble(`${missing.join(' and ')} must be installed first; there is no apt-get here.`);
  say(`Installing ${missing.join(' and ')} …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  for (const args of [['update'], line.split(' ').slice(1)]) {
    const done = spawnSync('apt-get', args, { env, encoding: 'utf8' });
    if (done.status !== 0) throw new Trouble(`apt-get ${args.join(' ')} did not work: ${lastLine(done.stderr)}`);
  }
}

const lastLine = text => (text ?? '').trim().split('\n').at(-1) ?? '';

function installPackages() {
  const wanted = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const mark = join(root, 'node_modules', '.installed-for');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === wanted) return;
  say('Installing packages (npm ci) …');
  const done = spawnSync('npm', ['ci', '--no-audit', '--no-fund'], { cwd: root, encoding: 'utf8' });
  if (done.status !== 0) throw new Trouble(`npm ci did not work: ${lastLine(done.stderr)}`);
  writeFileSync(mark, wanted);
}

function checkDisk() {
  try {
    mkdirSync(dataRoot, { recursive: true });
    accessSync(dataRoot, constants.W_OK);
  } catch {
    throw new Trouble(`The folder ${dataRoot} cannot be written, and the database needs it.`);
  }
  const disk = statfsSync(dataRoot);
  const free = Math.floor((disk.bavail * disk.bsize) / 1_048_576);
  if (free < 600) throw new Trouble(`Only ${free} MB are free on the disk of ${dataRoot}; 600 MB are needed.`);
}

/** @param {{ browser?: boolean }} [needs] */
export function prepare(needs = {}) {
  checkDisk();
  installPrograms(needs.browser ? ['mariadbd', 'chromium-headless-shell'] : ['mariadbd']);
  installPackages();
}
