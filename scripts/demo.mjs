/**
 * Starts North Pebble with its demo: `npm run demo`; `npm run demo -- --fresh` begins again with new data.
 * Settings: NP_PORT (8420), NP_DATA (.data/demo).
 */
import { join, resolve } from 'node:path';
import { dataRoot, prepare } from './machine/prepare.mjs';
import { main, say, Trouble } from './machine/say.mjs';

await main(async () => {
  const unknown = process.argv.slice(2).find(word => word !== '--fresh');
  if (unknown) throw new Trouble(`The demo does not know “${unknown}”; it knows --fresh.`);
  const port = Number(process.env.NP_PORT ?? 8420);
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new Trouble(`NP_PORT is not a port: ${process.env.NP_PORT}.`);
  prepare();
  const { buildPages, startStack } = await import('./machine/stack.mjs');
  const { stopDatabase } = await import('./machine/database.mjs');
  buildPages();
  const folder = process.env.NP_DATA ? resolve(process.env.NP_DATA) : join(dataRoot, 'demo');

  let stack;
  let starting = false;
  let ending = false;
  const end = async () => {
    if (ending) return;
    ending = true;
    await stack?.stop();
    // Stopped while still starting: the database may be up already.
    if (starting) await stopDatabase(join(folder, 'db'));
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, end);

  starting = true;
  stack = await startStack({ folder, port, fresh: process.argv.includes('--fresh') });
  starting = false;
  if (ending) return;
  say(`North Pebble is at ${stack.address} — sign in with a card. Ctrl+C stops it.`);
  stack.server.once('exit', async code => {
    if (ending) return;
    say(`The server ended (${code}); its words are in ${join(folder, 'server.log')}.`);
    ending = true;
    await stack.stop();
    process.exit(1);
  });
});
