/**
 * Starts the houses of the browser tests side by side, and answers on a port of its own once each of them answers.
 * HOUSES: a list of `{ port, folder }`; READY: the port.
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createServer } from 'node:http';
import { prepare } from './prepare.mjs';
import { buildPages } from './stack.mjs';

// Once for both, before either looks whether it is done.
prepare({ browser: true });
buildPages();
const houses = JSON.parse(process.env.HOUSES ?? '[]');
const children = houses.map(({ port, folder }) =>
  spawn(process.execPath, ['scripts/demo.mjs', '--fresh'], {
    env: { ...process.env, NP_PORT: String(port), NP_DATA: folder },
    stdio: 'inherit',
  }),
);

const cookies = new Map();
/** Signs in once, as the demo's own readers do. */
async function signedIn(address) {
  if (!cookies.has(address)) {
    const answer = await fetch(`${address}/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'X-North-Pebble': '1' },
      body: JSON.stringify({ card: 'wren' }),
    });
    if (!answer.ok) return '';
    cookies.set(
      address,
      answer.headers
        .getSetCookie()
        .map(one => one.split(';')[0])
        .join('; '),
    );
  }
  return cookies.get(address);
}

/** Whether a house answers, and the letters that it began with have gone out: those of the tests would stand behind them. */
const answers = async ({ port }) => {
  const address = `http://127.0.0.1:${port}/api`;
  try {
    if (!(await fetch(`${address}/health`)).ok) return false;
    const room = await fetch(`${address}/mailroom`, { headers: { Cookie: await signedIn(address) } });
    return room.ok && (await room.json()).waiting.length === 0;
  } catch {
    return false;
  }
};
createServer(async (_, response) => {
  response.statusCode = (await Promise.all(houses.map(answers))).every(Boolean) ? 200 : 503;
  response.end();
}).listen(Number(process.env.READY), '127.0.0.1');

const ended = children.map(child => once(child, 'exit'));
let isEnding = false;
const end = () => {
  if (isEnding) return;
  isEnding = true;
  for (const child of children) child.kill('SIGTERM');
};
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, end);
// A house that ends by itself takes the other with it: whoever waits for both is told.
for (const one of ended) one.then(end);
await Promise.all(ended);
process.exit(0);
