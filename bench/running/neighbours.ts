/**
 * What one caller does to the others: each cheap call is sent again and again, as many at once as may hurt, while the health
 * of the house and the desk of somebody else are timed against the same two when nothing else is asked.
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { gzipSync } from 'node:zlib';
import type { Row } from '../measure.ts';
import type { Served } from '../served.ts';

/** Looks at each, as many as make a 95th. */
const looks = 100;
const mostTimes = 5;

const p95 = (times: readonly number[]): number => times.toSorted((a, b) => a - b)[Math.floor(times.length * 0.95)];

/** A call as another process sends it, as many at once; `{id}` in its body is a new one each time. */
type Call = {
  readonly what: string;
  readonly atOnce: number;
  readonly path: string;
  readonly method?: 'POST';
  readonly cookie?: string;
  readonly body?: string;
  /** The body packed, in base 64. */
  readonly packed?: string;
};

/** The program that sends: a process of its own, so that what is timed here waits for the house and not for the sender. */
const sender = `
const { setPriority } = require('node:os');
setPriority(10);
const { base, atOnce, path, method, cookie, body, packed } = JSON.parse(require('node:fs').readFileSync(0, 'utf8'));
const statuses = {};
let isOver = false;
process.on('SIGTERM', () => { isOver = true; });
const again = async () => {
  while (!isOver) {
    const sent = packed ? Buffer.from(packed, 'base64') : body && body.replace('{id}', crypto.randomUUID());
    const headers = { 'X-North-Pebble': '1', ...(method ? { 'Content-Type': 'application/json' } : {}),
      ...(cookie ? { Cookie: cookie } : {}), ...(packed ? { 'Content-Encoding': 'gzip' } : {}) };
    const answer = await fetch(base + '/api' + path, { method: method || 'GET', headers, body: sent }).catch(() => null);
    if (answer) await answer.arrayBuffer().catch(() => null);
    const status = answer ? answer.status : 'broken off';
    statuses[status] = (statuses[status] || 0) + 1;
  }
};
process.stdout.write('sending\\n');
Promise.all(Array.from({ length: atOnce }, again)).then(() => {
  process.stdout.write(JSON.stringify(statuses) + '\\n');
  process.exit(0);
});`;

/** Sends a call again and again until it is told to stop; what was answered comes back then. */
async function sending(base: string, call: Call): Promise<() => Promise<string>> {
  const child = spawn(process.execPath, ['-e', sender], { stdio: ['pipe', 'pipe', 'inherit'] });
  child.stdin.end(JSON.stringify({ base, ...call }));
  let said = '';
  child.stdout.on('data', chunk => {
    said += chunk;
  });
  await once(child.stdout, 'data');
  await new Promise(done => setTimeout(done, 500));
  return async () => {
    child.kill('SIGTERM');
    if (child.exitCode === null) await once(child, 'exit');
    const statuses = JSON.parse(said.trim().split('\n').at(-1) ?? '{}') as Record<string, number>;
    return Object.entries(statuses)
      .map(([status, n]) => `${n} of ${status}`)
      .join(', ');
  };
}

export async function neighbourRows({ base, signIn }: Served): Promise<Row[]> {
  const [kofi, tobias, wren] = [await signIn('kofi'), await signIn('tobias'), await signIn('wren')];
  const packed = gzipSync(Buffer.alloc(24 * 1024 * 1024, 32), { level: 9 }).toString('base64');
  const span = { from: { date: '2026-03-09', half: 'am' }, to: { date: '2026-03-13', half: 'pm' } };
  const answers = { kind: 'annual', dates: span };
  const preview = (more: object) =>
    JSON.stringify({ workflow: 'annual-leave', request: null, answers: { ...answers, ...more } });
  const leave = JSON.stringify({ id: '{id}', workflow: 'annual-leave', subject: null, answers });
  const calls: Call[] = [
    { what: 'a packed body, signed out', atOnce: 14, path: '/session', method: 'POST', packed },
    { what: 'a long body, signed out', atOnce: 14, path: '/session', method: 'POST', body: ' '.repeat(250_000) },
    { what: 'the description of the API', atOnce: 20, path: '/openapi.json' },
    {
      ...{ what: 'a preview of 1.9 MB', atOnce: 20, path: '/preview', method: 'POST', cookie: kofi },
      body: preview({ remark: 'a'.repeat(1_900_000) }),
    },
    { what: 'a preview of leave', atOnce: 60, path: '/preview', method: 'POST', cookie: kofi, body: preview({}) },
    { what: 'one leave asked for', atOnce: 300, path: '/requests', method: 'POST', cookie: kofi, body: leave },
    { what: 'a statement as a PDF', atOnce: 60, path: '/balances/kofi/statement.pdf?type=annual', cookie: kofi },
    { what: 'people as a table', atOnce: 10, path: '/records/file.csv', cookie: wren },
    { what: 'all requests found', atOnce: 30, path: '/requests/find?whose=all&words=leave', cookie: wren },
  ];
  const timed = async (path: string, cookie: string): Promise<number> => {
    const began = performance.now();
    const answer = await fetch(`${base}/api${path}`, { headers: { Cookie: cookie } });
    await answer.arrayBuffer();
    if (answer.status !== 200) throw new Error(`a neighbour got ${answer.status} of ${path}`);
    return performance.now() - began;
  };
  const looked = async () => {
    const [health, desk]: number[][] = [[], []];
    for (let n = 0; n < looks; n++) {
      health.push(await timed('/health', ''));
      desk.push(await timed('/desk', tobias));
    }
    return { health: p95(health), desk: p95(desk) };
  };
  await looked();
  const idle = await looked();
  const rows: Row[] = [];
  for (const call of calls) {
    const stop = await sending(base, call);
    const busy = await looked();
    const told = await stop();
    for (const name of ['health', 'desk'] as const)
      rows.push({
        what: `${call.what}, ${call.atOnce} at once: ${name} of somebody else, 95th in ms (${told})`,
        ...{ ours: busy[name], theirs: idle[name], baseline: 'idle', ratio: busy[name] / idle[name] },
        ...{ bar: mostTimes, better: 'less' },
      });
  }
  return rows;
}
