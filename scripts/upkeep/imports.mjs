/** Reads who imports whom, and says what is not as the house is built. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';

/** What each folder may import from. */
const may = {
  core: [],
  contract: ['core'],
  server: ['core', 'contract'],
  standins: [],
  web: ['core', 'contract'],
  demo: ['core', 'server', 'standins'],
  bench: ['core', 'server', 'demo', 'standins'],
  e2e: [],
  scripts: ['core'],
};

/**
 * The rooms of a folder in their order: each may import from those before it. Several in one line stand side by side.
 * `inside` names the file by which a room is entered from other rooms, where there is one.
 */
const rooms = {
  core: {
    order: [
      'time',
      'countback',
      'papers',
      'access',
      'people',
      'leave',
      'formula',
      'form',
      'facts',
      'consequences',
      'movingIn',
      'workflow',
      'proof',
      'formats',
      'starters',
      'testing',
    ],
    enter: 'index.ts',
  },
  'core/workflow': {
    order: [
      'definition',
      'figures',
      'request',
      'mail',
      'language',
      'planning',
      'checking',
      'execution',
      'verbs',
      'procedure',
      'plain',
      'findings',
      'commands',
      'drafting',
    ],
  },
  server: {
    order: [
      'database',
      'http',
      'threads',
      'book',
      'proving papers reckoning',
      'house',
      'access',
      'wishes',
      'files accounts people records leave planner connections',
      'moving incoming session',
      'requests',
      'guests register reviews firstPasswords leaving',
      'audit timers live messages workflows differences',
      'outside',
      'clock outbox',
    ],
    enter: 'index.ts',
  },
  'server/requests': { order: ['commands', 'drafts', 'views'] },
  'web/src': { order: ['api', 'theme', 'workers', 'parts', 'places'] },
  'web/src/parts': { order: ['stones', 'frame', 'form', 'request plan guest change'] },
  'web/src/places': {
    order: [
      'accounts apply balances begin connections cover desk guest house mailroom mails papers people planner plans requests reviews signin stuck wishes workflows',
    ],
  },
  'web/src/places/workflows': {
    order: ['steps', 'form figures messages versions', 'rehearse shelf', 'sheet'],
  },
};
const impure = /^(node:|fs$|path$|react|express|drizzle|mysql2|pino)/;
const passedOver = new Set(['node_modules', 'dist', 'migrations', 'cases']);
const isTest = name => /\.(test|spec)\.|\/testing\//.test(name);

function* files(folder) {
  if (!existsSync(folder)) return;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (passedOver.has(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* files(path);
    else if (/\.(ts|tsx|mjs)$/.test(entry.name)) yield path;
  }
}

/** What a file imports, as written; types too. */
const importsOf = text =>
  [...text.matchAll(/^(?:import|export|\}).*?from\s+'([^']+)'|^import '([^']+)'|\bimport\('([^']+)'\)/gm)].map(
    found => found[1] ?? found[2] ?? found[3],
  );

/** The room that a file stands in below a folder; nothing for files of the folder itself. */
const roomOf = (name, folder) => {
  const [room, ...rest] = name.slice(folder.length + 1).split('/');
  return rest.length > 0 ? room : null;
};

/** Files that import one another in a circle, each circle once. */
function circles(imports) {
  const [number, lowest, stack, found] = [new Map(), new Map(), [], []];
  const visit = file => {
    number.set(file, number.size);
    lowest.set(file, number.get(file));
    stack.push(file);
    for (const next of imports.get(file) ?? []) {
      if (!imports.has(next)) continue;
      if (!number.has(next)) visit(next);
      if (stack.includes(next)) lowest.set(file, Math.min(lowest.get(file), lowest.get(next)));
    }
    if (lowest.get(file) !== number.get(file)) return;
    const circle = stack.splice(stack.indexOf(file));
    if (circle.length > 1 || imports.get(file).includes(file)) found.push(circle.reverse());
  };
  for (const file of imports.keys()) if (!number.has(file)) visit(file);
  return found;
}

/** @returns {string[]} what is wrong, a line each */
export function wrongImports(root) {
  const wrong = [];
  const imports = new Map();
  for (const [layer, allowed] of Object.entries(may)) {
    for (const file of files(join(root, layer))) {
      const text = readFileSync(file, 'utf8');
      const name = relative(root, file);
      const targets = [];
      for (const from of importsOf(text)) {
        const isOwn = from.startsWith('.');
        const path = isOwn ? relative(root, resolve(dirname(file), from)) : null;
        const target = path?.split('/')[0] ?? (from.startsWith('@north-pebble/') ? from.split('/')[1] : undefined);
        if (path) targets.push(path);
        // What tries a connection tries it on what stands in for the other side.
        const isTried = target === 'standins' && layer === 'server' && isTest(name);
        if (target && target in may && target !== layer && !allowed.includes(target) && !isTried)
          wrong.push(`${name} imports ${from}`);
        if (layer === 'core' && !isTest(name) && impure.test(from))
          wrong.push(`${name} imports ${from}: the core is pure`);
        if (path && !isTest(name)) wrong.push(...betweenRooms(name, path, from));
      }
      if (!isTest(name)) imports.set(name, targets);
      if (layer === 'core' && !isTest(name) && /\bDate\.now\(|\bnew Date\(\)|\bMath\.random\(/.test(text)) {
        wrong.push(`${name} uses the clock or chance: the core is given both`);
      }
    }
  }
  for (const circle of circles(imports)) wrong.push(`a circle: ${[...circle, circle[0]].join(' → ')}`);
  return wrong;
}

function betweenRooms(name, path, from) {
  const wrong = [];
  for (const [folder, { order, enter }] of Object.entries(rooms)) {
    if (!name.startsWith(`${folder}/`) || !path.startsWith(`${folder}/`)) continue;
    const [here, there] = [roomOf(name, folder), roomOf(path, folder)];
    if (here === there || here === null) continue;
    const place = room => order.findIndex(line => line.split(' ').includes(room));
    if (place(here) < 0) wrong.push(`${name}: the room ${here} has no place in the order of ${folder}`);
    else if (there === null) {
      // What stands in a folder itself is shared by its rooms.
      if (enter) wrong.push(`${name} imports ${from}: rooms do not look at what puts them together`);
    } else if (place(there) >= place(here)) wrong.push(`${name} imports ${from}: ${here} does not come after ${there}`);
    else if (enter && !path.endsWith(`/${there}/${enter}`))
      wrong.push(`${name} imports ${from}: ${there} is entered by its ${enter}`);
  }
  return wrong;
}
