/** What is written down of a call, and what never is. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { pino } from 'pino';
import { createApp } from './app.ts';
import { Live } from './live/index.ts';
import { Browser, type Small, startSmall } from './testing/serving.ts';

let small: Small;
beforeAll(async () => {
  small = await startSmall();
});
afterAll(() => small.stop());

test('a call by its path and how it ended; no session, no password, no one-time address, nothing that was looked for', async () => {
  let written = '';
  const log = pino(
    { level: 'info' },
    {
      write(line: string) {
        written += line;
      },
    },
  );
  const house = Object.assign(Object.create(small.serving.house), { log }) as typeof small.serving.house;
  const live = new Live(house);
  const app = createApp(house, live, {
    pages: null,
    mailReceived: 'http://127.0.0.1:1',
    proxies: 0,
    signInTriesPerMinute: 9,
  });
  const server = app.listen(0, '127.0.0.1');
  await new Promise(done => server.once('listening', done));
  const browser = new Browser(`http://127.0.0.1:${(server.address() as { port: number }).port}`);
  expect((await browser.call('POST', '/session', { mail: 'ina@selkie.example', password: 'low-tide' })).status).toBe(
    201,
  );
  expect((await browser.get('/people?words=Okell')).status).toBe(200);
  expect((await browser.get('/links/abcdefghijklmnopqrstuvwxyz')).status).toBe(404);
  live.stop();
  await new Promise(done => server.close(done));
  const lines = written.split('\n').filter(Boolean);
  expect(lines.map(line => JSON.parse(line)).map(({ req, res }) => [req.method, req.path, res.status])).toEqual([
    ['POST', '/api/session', 201],
    ['GET', '/api/people', 200],
    ['GET', '/api/links/…', 404],
  ]);
  const token = browser.cookie.split('=')[1];
  expect(token.length).toBeGreaterThan(20);
  for (const secret of [token, 'low-tide', 'Okell', 'abcdefghijkl', 'cookie']) expect(written).not.toContain(secret);
});
