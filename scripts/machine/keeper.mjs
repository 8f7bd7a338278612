/**
 * Stays beside a database for as long as whoever started it, and ends it when they are gone, however they went.
 * `node scripts/machine/keeper.mjs OWNER SERVER [FOLDER]`: process numbers, and a folder that goes with it.
 */
import { rmSync } from 'node:fs';

const [owner, server] = process.argv.slice(2, 4).map(Number);
const folder = process.argv[4];
const isAlive = pid => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};
const signal = name => {
  if (isAlive(server)) process.kill(server, name);
};

// A signal to the whole group of a terminal is for the owner; this one outlives it to put things away.
for (const name of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(name, () => {});
const watch = setInterval(() => {
  if (!isAlive(server)) return process.exit();
  if (isAlive(owner)) return;
  clearInterval(watch);
  // What goes with its folder need not be put in order first.
  signal(folder ? 'SIGKILL' : 'SIGTERM');
  const ending = setInterval(() => {
    if (isAlive(server)) return;
    clearInterval(ending);
    if (folder) rmSync(folder, { recursive: true, force: true });
  }, 100);
}, 300);
