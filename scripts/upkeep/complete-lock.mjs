/**
 * Completes package-lock.json for registries that do not serve every platform's binary packages: `npm install` leaves
 * those out of the lock, and `npm ci` then refuses it. Run it after changing dependencies: `node scripts/upkeep/complete-lock.mjs`.
 * The added entries name packages of other platforms only, which are never fetched here.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '../machine/prepare.mjs';
import { say } from '../machine/say.mjs';

const systems = [
  'android',
  'darwin',
  'win32',
  'linux',
  'freebsd',
  'openbsd',
  'netbsd',
  'sunos',
  'aix',
  'openharmony',
  'wasi',
];
const processors = ['arm64', 'x64', 'ia32', 'arm', 'ppc64', 's390x', 'riscv64', 'loong64', 'mips64el', 'wasm32'];

const file = join(root, 'package-lock.json');
const lock = JSON.parse(readFileSync(file, 'utf8'));
const { packages } = lock;
const added = [];
for (const [place, entry] of Object.entries(packages)) {
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    const top = packages[`node_modules/${name}`];
    const own = `${place}/node_modules/${name}`;
    if (packages[own] || (top && top.version === version) || !/^\d/.test(version)) continue;
    const words = name.split('/').at(-1).split(/[-.]/);
    const system = words.find(word => systems.includes(word));
    const processor = processors.find(cpu =>
      words.some(word => word === cpu || word.startsWith(`${cpu}e`) || word === `${cpu}v7`),
    );
    const libc = words.some(word => word.startsWith('musl')) ? ['musl'] : undefined;
    const at = top ? own : `node_modules/${name}`;
    packages[at] = {
      version,
      cpu: [processor ?? 'none'],
      ...(entry.dev ? { dev: true } : {}),
      ...(libc ? { libc } : {}),
      optional: true,
      os: [system === 'wasi' || !system ? 'none' : system],
    };
    added.push(at);
  }
}
lock.packages = Object.fromEntries(Object.entries(packages).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync(file, `${JSON.stringify(lock, null, 2)}\n`);
say(added.length > 0 ? `Added ${added.length} packages of other platforms.` : 'The lock is complete.');
