/** Checks that imports between the folders point one way, and that the core stays pure. */
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative, resolve } from 'node:path';
import { root } from './prepare.mjs';

/** What each folder may import from. */
const may = {
  core: [],
  contract: ['core'],
  server: ['core', 'contract'],
  standins: [],
  web: ['core', 'contract'],
  demo: ['core', 'server'],
  bench: ['core', 'server', 'demo'],
  e2e: [],
  scripts: ['core'],
};
/** Inside the core, rooms further down may use those above them. */
const coreOrder = ['time', 'people', 'leave', 'formula', 'form', 'workflow', 'proof', 'formats', 'starters', 'testing'];
const impure = /^(node:|fs$|path$|react|express|drizzle|mysql2|pino)/;

function* files(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist', 'migrations', 'cases'].includes(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* files(path);
    else if (/\.(ts|tsx|mjs)$/.test(entry.name)) yield path;
  }
}

const wrong = [];
for (const [layer, allowed] of Object.entries(may)) {
  for (const file of files(join(root, layer))) {
    const text = readFileSync(file, 'utf8');
    const name = relative(root, file);
    const isTest = /\.(test|spec)\.|\/testing\//.test(name);
    for (const [, from] of text.matchAll(/^(?:import|export|\}).*?from\s+'([^']+)'/gm)) {
      let target;
      if (from.startsWith('@north-pebble/')) target = from.split('/')[1];
      else if (from.startsWith('.')) target = relative(root, resolve(file, '..', from)).split('/')[0];
      if (target && target in may && target !== layer && !allowed.includes(target))
        wrong.push(`${name} imports ${from}`);
      if (layer === 'core' && !isTest && impure.test(from)) wrong.push(`${name} imports ${from}: the core is pure`);
      if (layer === 'core' && from.startsWith('.') && !isTest) {
        const here = name.split('/')[1];
        const there = relative(root, resolve(file, '..', from)).split('/')[1];
        if (coreOrder.indexOf(there) > coreOrder.indexOf(here))
          wrong.push(`${name} imports ${from}: ${here} comes before ${there}`);
      }
    }
    if (layer === 'core' && !isTest && /\bDate\.now\(|\bnew Date\(\)|\bMath\.random\(/.test(text)) {
      wrong.push(`${name} uses the clock or chance: the core is given both`);
    }
  }
}
for (const line of wrong) process.stdout.write(`${line}\n`);
process.stdout.write(wrong.length === 0 ? 'Layers hold.\n' : `${wrong.length} imports point the wrong way.\n`);
process.exit(wrong.length === 0 ? 0 : 1);
