/** How the built pages are served: made small before, kept for long where their name says what they hold. */
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync, brotliDecompressSync } from 'node:zlib';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { type Small, startSmall } from './testing/serving.ts';

const code = `export const words = '${'tide '.repeat(900)}';`;
let small: Small;
beforeAll(async () => {
  const pages = mkdtempSync(join(tmpdir(), 'np-pages-'));
  mkdirSync(join(pages, 'assets'));
  writeFileSync(join(pages, 'index.html'), '<!doctype html><title>North Pebble</title>');
  writeFileSync(join(pages, 'assets', 'index-abc.js'), code);
  writeFileSync(join(pages, 'assets', 'index-abc.js.br'), brotliCompressSync(code));
  writeFileSync(join(pages, 'assets', 'plain-abc.js'), code);
  small = await startSmall({ NP_PAGES: pages });
});
afterAll(() => small.stop());

/** As it comes over the line, before anybody unpacks it. */
const fetched = (path: string, encoding?: string) =>
  new Promise<{ headers: Record<string, unknown>; status: number; bytes: Buffer }>((done, fail) => {
    const headers = encoding ? { 'Accept-Encoding': encoding } : {};
    request(`${small.base}${path}`, { headers }, response => {
      const parts: Buffer[] = [];
      response.on('data', part => parts.push(part));
      response.on('end', () =>
        done({ headers: response.headers, status: response.statusCode ?? 0, bytes: Buffer.concat(parts) }),
      );
    })
      .on('error', fail)
      .end();
  });

test('what was made small before goes out as it is, and is kept', async () => {
  const { headers, bytes } = await fetched('/assets/index-abc.js', 'gzip, deflate, br');
  expect(headers['content-encoding']).toBe('br');
  expect(bytes).toEqual(brotliCompressSync(code));
  expect(brotliDecompressSync(bytes).toString()).toBe(code);
  expect(headers['content-type']).toContain('javascript');
  expect(headers['cache-control']).toBe('public, max-age=31536000, immutable');
  expect(headers.vary).toContain('Accept-Encoding');
  expect(headers['content-security-policy']).toContain("script-src 'self'");
});

test('whoever does not unpack it gets it whole', async () => {
  const { headers, bytes } = await fetched('/assets/index-abc.js');
  expect(headers['content-encoding']).toBeUndefined();
  expect(bytes.toString()).toBe(code);
});

test('what was not made small before is made so on the way; the page itself is not kept for long', async () => {
  const plain = await fetched('/assets/plain-abc.js', 'br');
  expect(plain.headers['content-encoding']).toBe('br');
  expect(brotliDecompressSync(plain.bytes).toString()).toBe(code);
  const page = await fetched('/desk', 'br');
  expect(page.status).toBe(200);
  expect(page.headers['cache-control']).not.toContain('immutable');
});

test('there is no way out of the folder', async () => {
  for (const path of [
    '/assets/../../package.json',
    '/assets/..%2f..%2fpackage.json',
    '/assets/%2e%2e/%2e%2e/etc/passwd',
  ])
    expect((await fetched(path)).bytes.toString()).not.toMatch(/root:|"name"/);
});
