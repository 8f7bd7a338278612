/**
 * What somebody types for a request and has not sent yet. It is kept by the server a moment after it is typed, so that
 * whoever leaves the page, closes the browser or goes on at another machine finds it again.
 */
import type { RequestView } from '@north-pebble/contract';
import { useState } from 'react';
import { call, problemOf } from '../../api/client.ts';

type Kept = Pick<RequestView, 'id' | 'unsent'>;

/** As it stands in this browser; newer than what was loaded with the request. */
const here = new Map<string, unknown>();
const waiting = new Map<string, ReturnType<typeof setTimeout>>();
const pause = 600;
const again = 5000;

const keyOf = (request: string, what: string): string => `${request}/${what}`;
const partsOf = (key: string) => ({ id: key.slice(0, key.indexOf('/')), what: key.slice(key.indexOf('/') + 1) });

async function save(key: string, keepalive = false): Promise<void> {
  clearTimeout(waiting.get(key));
  waiting.delete(key);
  const value = here.get(key) ?? null;
  try {
    await call('PUT /requests/:id/unsent/:what', { params: partsOf(key), body: { value }, keepalive });
  } catch (fault) {
    // What was refused stays refused. While the house is away, what stands here is kept here, and tried again.
    if (problemOf(fault)?.code !== 'database away') return;
    if (!waiting.has(key))
      waiting.set(
        key,
        setTimeout(() => void save(key), again),
      );
  }
}

function keep(key: string, value: unknown): void {
  here.set(key, value);
  clearTimeout(waiting.get(key));
  waiting.set(
    key,
    setTimeout(() => void save(key), pause),
  );
}

/** Saves at once what waits to be saved. */
export function saveUnsent(): void {
  for (const key of [...waiting.keys()]) void save(key, true);
}
if (typeof window !== 'undefined') window.addEventListener('pagehide', saveUnsent);

/** Begins anew, as a freshly loaded page does. */
export function forgetUnsent(): void {
  for (const timer of waiting.values()) clearTimeout(timer);
  waiting.clear();
  here.clear();
}

/**
 * @param what it is for: the note of an answer, a question, a comment
 * @param initial what stands there when nothing was typed
 * @returns what is typed, how to change it, and how to say that it was sent
 */
export function useUnsent<T>(
  { id, unsent }: Kept,
  what: string,
  initial: T,
): readonly [value: T, change: (value: T) => void, sent: () => void] {
  const key = keyOf(id, what);
  const [value, setValue] = useState<T>(() => {
    const kept = here.has(key) ? here.get(key) : unsent[what];
    return (kept ?? initial) as T;
  });
  const change = (next: T) => {
    setValue(next);
    keep(key, next === '' ? null : next);
  };
  const sent = () => {
    setValue(initial);
    if (here.get(key) === undefined && unsent[what] === undefined) return;
    here.set(key, null);
    void save(key);
  };
  return [value, change, sent];
}
