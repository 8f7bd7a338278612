/** One caller never stops the others: bodies, how many calls at once, and how long the house takes to answer somebody else. */
import type { AddressInfo } from 'node:net';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Problem } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import express from 'express';
import { Browser, eventually, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { setCaller } from './caller.ts';
import { fewAtOnce } from './fair.ts';

let small: Small;
let ina: Browser;
let kay: Browser;
beforeAll(async () => {
  small = await startSmall();
  ina = await signedIn(small.base, 'ina');
  kay = await signedIn(small.base, 'kay');
});
afterAll(() => small.stop());

async function send(path: string, body: Buffer | string, headers: Record<string, string> = {}, cookie = '') {
  const response = await fetch(`${small.base}/api${path}`, {
    method: 'POST',
    headers: {
      'X-North-Pebble': '1',
      'Content-Type': 'application/json',
      ...(cookie ? { Cookie: cookie } : {}),
      ...headers,
    },
    body,
  });
  return { status: response.status, problem: (await response.json()) as Problem };
}

describe('what is sent', () => {
  test('is never unpacked, however short it is', async () => {
    const packed = gzipSync(JSON.stringify({ mail: 'x'.repeat(5_000_000), password: 'x' }));
    for (const cookie of ['', ina.cookie]) {
      const { status, problem } = await send('/session', packed, { 'Content-Encoding': 'gzip' }, cookie);
      expect(status).toBe(400);
      expect(problem.detail).toContain('encoding');
    }
  });

  test('is small before somebody is known, and as long as the call may need it afterwards', async () => {
    const long = (n: number) => JSON.stringify({ mail: 'x'.repeat(n) });
    expect((await send('/session', long(300_000))).problem.detail).toBe('This is too large.');
    expect((await send('/preview', long(300_000), {}, ina.cookie)).problem.detail).not.toBe('This is too large.');
    expect((await send('/preview', long(600_000), {}, ina.cookie)).problem.detail).toBe('This is too large.');
    expect((await send('/workflows', long(1_900_000), {}, kay.cookie)).problem.detail).not.toBe('This is too large.');
    const deep = '['.repeat(200) + ']'.repeat(200);
    expect((await send('/preview', deep, {}, ina.cookie)).problem.detail).toContain('nested too deeply');
  });
});

describe('many calls of one person', () => {
  test('are all answered, a few at a time, and somebody else is answered beside them', async () => {
    const asks = Array.from({ length: 120 }, (_, n) => {
      const day = `2027-${String(1 + (n % 12)).padStart(2, '0')}-${String(1 + Math.floor(n / 12) * 2).padStart(2, '0')}`;
      return ina.ask(day, day);
    });
    const begun = performance.now();
    expect((await kay.get('/desk')).status).toBe(200);
    const beside = performance.now() - begun;
    const statuses = (await Promise.all(asks)).map(one => one.status);
    const all = performance.now() - begun;
    expect(statuses.filter(status => status >= 500)).toEqual([]);
    // Somebody else does not wait for the end of it.
    expect(beside / all).toBeLessThan(0.5);
  });

  test('beyond all measure are refused in their own words, and nobody else’s are', async () => {
    const app = express();
    const waiting: (() => void)[] = [];
    let arrived = 0;
    app.use((request, _response, next) => {
      arrived += 1;
      const id = String(request.headers['x-who']) as PersonId;
      setCaller(request, { id, rights: [] }, async () => null);
      next();
    });
    app.use(fewAtOnce({ alone: 2, besideOthers: 1, waiting: 3 }));
    app.all('/', (_request, response) => void waiting.push(() => response.json({})));
    const server = app.listen(0, '127.0.0.1');
    await new Promise(done => server.once('listening', done));
    const { port } = server.address() as AddressInfo;
    const call = async (who: string) => {
      const response = await fetch(`http://127.0.0.1:${port}/`, { headers: { 'X-Who': who } });
      return { status: response.status, problem: (await response.json()) as Problem };
    };
    const first = Array.from({ length: 5 }, () => call('ina'));
    await eventually(async () => waiting.length === 2);
    // Of so many more at once, at most the places that are left are taken.
    const more = Array.from({ length: 4 }, () => call('ina'));
    const refused = await Promise.race(more);
    expect(refused.status).toBe(429);
    expect(refused.problem.detail).toContain('calls are under way at once');
    const other = call('tom');
    await eventually(async () => waiting.length === 3);
    const answers = Promise.all([...first, ...more, other]);
    const timer = setInterval(() => waiting.splice(0).forEach(answer => answer()), 5);
    const statuses = (await answers).map(one => one.status);
    expect(statuses.filter(status => status === 200)).toHaveLength(6);
    expect(statuses.filter(status => status === 429)).toHaveLength(4);
    expect(statuses.at(-1)).toBe(200);
    clearInterval(timer);
    // Beside others one has fewer under way: the second waits until the first is answered.
    const beside = [call('tom'), call('tom')];
    await eventually(async () => waiting.length === 1);
    const third = call('ina');
    await eventually(async () => waiting.length === 2);
    waiting.splice(0).forEach(answer => answer());
    await eventually(async () => waiting.length === 1);
    waiting.splice(0).forEach(answer => answer());
    expect((await Promise.all([...beside, third])).map(one => one.status)).toEqual([200, 200, 200]);
    // What they do goes before what their pages read, however many of those wait.
    const done: string[] = [];
    const before = arrived;
    const doing = async (method: string) => {
      await fetch(`http://127.0.0.1:${port}/`, { method, headers: { 'X-Who': 'tom' } });
      done.push(method);
    };
    const held = [doing('GET'), doing('GET'), doing('GET')];
    await eventually(async () => waiting.length >= 1);
    held.push(doing('POST'));
    await eventually(async () => arrived === before + 4);
    while (done.length < 4) {
      waiting.splice(0, 1).forEach(answer => answer());
      await new Promise(setImmediate);
    }
    await Promise.all(held);
    expect(done.indexOf('POST')).toBeLessThan(3);
    server.closeAllConnections();
    server.close();
  });
});

describe('the description of the API', () => {
  test('is the same packed and plain', async () => {
    const read = async (encoding: string) => {
      const response = await fetch(`${small.base}/api/openapi.json`, { headers: { 'Accept-Encoding': encoding } });
      return [response.headers.get('content-encoding'), await response.json()];
    };
    const [plain, packed] = [await read('identity'), await read('gzip')];
    expect([plain[0], packed[0]]).toEqual([null, 'gzip']);
    expect(packed[1]).toEqual(plain[1]);
    expect((plain[1] as { openapi: string }).openapi).toMatch(/^3\./);
  });
});

test('a stranger who calls without end is told to wait, before anything of it is read', async () => {
  const strict = await startSmall({ NP_SIGN_IN_TRIES: '1' });
  const stranger = new Browser(strict.base);
  const statuses: number[] = [];
  for (let n = 0; n < 40; n++) statuses.push((await stranger.get('/links/no-such-link-of-twenty')).status);
  expect(statuses.at(-1)).toBe(429);
  await strict.stop();
});
