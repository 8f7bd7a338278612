/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { type Away, call, onAway, problemOf, RefusedCall } from './client.ts';

type Options = { method: string; headers: Record<string, string>; body?: string; keepalive: boolean };
let answer: () => unknown;
let asked: { url: string; options: Options }[];
const realFetch = globalThis.fetch;

beforeEach(() => {
  asked = [];
  globalThis.fetch = (async (url: string, options: Options) => {
    asked.push({ url, options });
    return answer();
  }) as never;
});
afterEach(() => {
  globalThis.fetch = realFetch;
});

const reply =
  (status: number, body: unknown, type = 'application/json') =>
  () => ({
    ok: status < 400,
    status,
    headers: new Map([['Content-Type', type]]),
    json: async () => body,
  });
const problem = (status: number, code: string) =>
  reply(
    status,
    { type: 'about:blank', title: 'T', status, detail: 'D', code },
    'application/problem+json; charset=utf-8',
  );

describe('calls to the server', () => {
  test('carry the header of our own pages, and a body only when there is one', async () => {
    answer = reply(200, { a: 1 });
    expect(await call('GET /desk')).toEqual({ a: 1 });
    await call('POST /sets', { body: { name: 'n', query: 'q', shared: true } });
    expect(asked.map(a => [a.url, a.options.method, a.options.body])).toEqual([
      ['/api/desk', 'GET', undefined],
      ['/api/sets', 'POST', '{"name":"n","query":"q","shared":true}'],
    ]);
    expect(asked.every(a => a.options.headers['X-North-Pebble'] === '1')).toBe(true);
  });

  test('fill the parts of a path and a query in, whatever stands in them', async () => {
    answer = reply(200, {});
    await call('GET /workflows/:id/versions/:version', { params: { id: 'a/b?', version: 3 } });
    await call('GET /covers', { query: { person: 'å & ø' } });
    await call('GET /covers', { query: { person: undefined } });
    expect(asked.map(a => a.url)).toEqual([
      '/api/workflows/a%2Fb%3F/versions/3',
      '/api/covers?person=%C3%A5+%26+%C3%B8',
      '/api/covers',
    ]);
  });

  test('an empty answer is nothing', async () => {
    answer = reply(204, null);
    expect(await call('DELETE /session')).toBeUndefined();
  });

  test('a refusal becomes the problem that the server described', async () => {
    answer = problem(409, 'stale');
    const refused = await call('GET /desk').catch((fault: unknown) => fault);
    expect(refused).toBeInstanceOf(RefusedCall);
    expect(problemOf(refused)).toMatchObject({ code: 'stale', detail: 'D' });
  });

  test('a house that is away is told to whoever listens, and that it is back', async () => {
    const heard = jest.fn<(away: Away | null) => void>();
    const stop = onAway(heard);
    answer = problem(503, 'database away');
    await call('GET /desk').catch(() => {});
    answer = () => {
      throw new TypeError('failed to fetch');
    };
    await call('GET /desk').catch(() => {});
    answer = reply(200, {});
    await call('GET /desk');
    expect(heard.mock.calls.map(([away]) => away)).toEqual(['database', 'unreachable', null]);
    stop();
    await call('GET /desk');
    expect(heard).toHaveBeenCalledTimes(3);
  });

  test('a call that was given up is no fault of the house', async () => {
    const heard = jest.fn<(away: Away | null) => void>();
    const stop = onAway(heard);
    answer = () => {
      throw new DOMException('stopped', 'AbortError');
    };
    await expect(call('GET /session')).rejects.toThrow('stopped');
    expect(heard).not.toHaveBeenCalled();
    stop();
  });

  test('an answer that is no problem of ours is still said in words', async () => {
    answer = reply(502, '<html>', 'text/html');
    const refused = await call('GET /desk').catch((fault: unknown) => fault);
    expect(problemOf(refused)?.detail).toContain('What you typed is kept');
    expect(problemOf(null)).toBeNull();
    expect(problemOf(new Error('odd'))?.detail).toBe('Error: odd');
  });
});
