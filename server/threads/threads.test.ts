/** A thread that is ended or breaks leaves nobody waiting. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterAll, expect, test } from '@jest/globals';
import { Ended, Thread, TooLong } from './index.ts';

const folder = mkdtempSync(join(tmpdir(), 'np-thread-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const entry = join(folder, 'thread.mjs');
writeFileSync(
  entry,
  `import { parentPort, workerData } from 'node:worker_threads';
   Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, workerData.slow ?? 0);
   parentPort.postMessage({ thread: null });
   parentPort.on('message', ({ task, what }) => {
     if (what === 'nothing') return;
     if (what === 'far') parentPort.postMessage({ task, told: { done: 1, all: 2 } });
     if (what === 'far') return;
     if (what === 'fault') return parentPort.postMessage({ task, fault: 'away', code: 'ECONNREFUSED' });
     parentPort.postMessage({ task, done: workerData.word });
   });`,
);
const threadOf = (budget = 60_000, slow = 0) =>
  new Thread<{ what: string }, string>(pathToFileURL(entry), budget, () => {}, { word: 'pebble', slow });

test('answers with what it was given', async () => {
  const thread = threadOf();
  expect(await thread.ask(() => ({ what: 'word' }))).toBe('pebble');
  await thread.stop();
});

test('stopped while somebody waits, it tells them, and begins anew for the next', async () => {
  const thread = threadOf();
  const waiting = expect(thread.ask(() => ({ what: 'nothing' }))).rejects.toThrow(Ended);
  await new Promise(setImmediate);
  await thread.stop();
  await waiting;
  expect(await thread.ask(() => ({ what: 'word' }))).toBe('pebble');
  await thread.stop();
});

test('over its budget it is ended, and the next task has another', async () => {
  const thread = threadOf(50);
  await expect(thread.ask(() => ({ what: 'nothing' }))).rejects.toThrow(TooLong);
  await thread.stop();
});

test('how long it takes to begin is not counted against its task', async () => {
  const thread = threadOf(500, 1500);
  expect(await thread.ask(() => ({ what: 'word' }))).toBe('pebble');
  await thread.stop();
});

test('tells how far it is, and ends where whoever asked wants it no more', async () => {
  const thread = threadOf();
  const stopping = new AbortController();
  const heard: unknown[] = [];
  const told = (what: unknown) => {
    heard.push(what);
    stopping.abort();
  };
  await expect(thread.ask(() => ({ what: 'far' }), { told, signal: stopping.signal })).rejects.toThrow(Ended);
  expect(heard).toEqual([{ done: 1, all: 2 }]);
  // Stopped before its turn came, it is not begun; the next has a thread of its own.
  await expect(thread.ask(() => ({ what: 'word' }), { signal: stopping.signal })).rejects.toThrow(Ended);
  expect(await thread.ask(() => ({ what: 'word' }))).toBe('pebble');
  await thread.stop();
});

test('a fault keeps the code by which it is known', async () => {
  const thread = threadOf();
  await expect(thread.ask(() => ({ what: 'fault' }))).rejects.toMatchObject({ code: 'ECONNREFUSED' });
  await thread.stop();
});
