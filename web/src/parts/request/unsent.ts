/**
 * What somebody types for a request and has not sent yet. It is kept by the server a moment after it is typed, so that
 * whoever leaves the page, closes the browser or goes on at another machine finds it again.
 */
import type { RequestView } from '@north-pebble/contract';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { Saver } from '../../api/saving.ts';

type Kept = Pick<RequestView, 'id' | 'unsent'>;

/** As it stands in this browser; newer than what was loaded with the request. */
const here = new Map<string, unknown>();
const savers = new Map<string, Saver<unknown, unknown>>();

const keyOf = (request: string, what: string): string => `${request}/${what}`;
const partsOf = (key: string) => ({ id: key.slice(0, key.indexOf('/')), what: key.slice(key.indexOf('/') + 1) });

function saverOf(key: string): Saver<unknown, unknown> {
  const known = savers.get(key);
  if (known) return known;
  const saver = new Saver<unknown, unknown>({
    save: (value, keepalive) =>
      call('PUT /requests/:id/unsent/:what', { params: partsOf(key), body: { value }, keepalive }),
    // What was refused stays refused, and is kept in this browser alone.
    onState: ({ kind }) => void (kind === 'refused' && saver.drop()),
  });
  savers.set(key, saver);
  return saver;
}

function keep(key: string, value: unknown): void {
  here.set(key, value);
  saverOf(key).change(value);
}

/** Begins anew, as a freshly loaded page does. */
export function forgetUnsent(): void {
  for (const saver of savers.values()) saver.drop();
  savers.clear();
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
    keep(key, null);
    void saverOf(key).flush();
  };
  return [value, change, sent];
}
