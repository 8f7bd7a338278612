import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { type Small, signedIn, startSmall } from './testing/serving.ts';

let small: Small;
beforeAll(async () => {
  small = await startSmall({ NP_METRICS_PORT: '0' });
});
afterAll(() => small.stop());

const read = async (path = '/metrics') => {
  const response = await fetch(`http://127.0.0.1:${small.serving.metricsPort}${path}`);
  return { status: response.status, text: await response.text() };
};

test('tell what waits, how requests stand, and how long calls took, by route', async () => {
  const ina = await signedIn(small.base, 'ina');
  const { request } = (await ina.ask('2026-03-09', '2026-03-13')).body;
  await ina.get(`/requests/${request}`);
  await ina.get('/requests/R-999');
  const { status, text } = await read();
  expect(status).toBe(200);
  const lines = text.split('\n');
  const line = (words: string) => lines.find(one => one.startsWith(words));
  expect(line('north_pebble_requests{status="open"}')).toBe('north_pebble_requests{status="open"} 1');
  expect(line('north_pebble_effects_waiting{connection="mail"')).toMatch(/ 1$/);
  // No address of a record is told, only its route.
  expect(text).not.toContain(request);
  const counted = (route: string, code: string) =>
    lines.find(
      one =>
        one.startsWith('north_pebble_call_seconds_count') &&
        one.includes(`route="${route}"`) &&
        one.includes(`status="${code}"`),
    );
  expect(counted('/requests/:id', '200')).toMatch(/ 1$/);
  expect(counted('/requests/:id', '404')).toMatch(/ 1$/);
  expect(text).toContain('process_resident_memory_bytes');
});

test('stand on a port of their own and nowhere else', async () => {
  expect((await read('/')).status).toBe(404);
  expect((await fetch(`${small.base}/metrics`)).headers.get('Content-Type')).not.toContain('version=0.0.4');
  expect((await fetch(`${small.base}/api/metrics`)).status).toBe(404);
});
