/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import type { GuestSectionView } from '@north-pebble/contract';
import { act, cleanup, renderHook } from '@testing-library/react';
import { useTyping } from './useTyping.ts';

const section = {
  id: 'about',
  title: 'About you',
  answers: {},
  fields: [],
  typed: null,
} as unknown as GuestSectionView;

/** A house that keeps one section and answers when it is let: a save on another base than the newest is refused. */
let kept: { base: number; value: object };
let waiting: (() => void)[];
const realFetch = globalThis.fetch;

beforeEach(() => {
  jest.useFakeTimers();
  kept = { base: 0, value: {} };
  waiting = [];
  globalThis.fetch = (async (_: string, { body }: { body: string }) => {
    const asked = JSON.parse(body) as typeof kept;
    await new Promise<void>(done => waiting.push(done));
    const isNewest = asked.base === kept.base;
    if (isNewest) kept = { base: asked.base + 1, value: asked.value };
    return {
      ok: isNewest,
      status: isNewest ? 200 : 409,
      headers: new Map([['Content-Type', isNewest ? 'application/json' : 'application/problem+json']]),
      json: async () => (isNewest ? { base: kept.base, fields: [] } : { code: 'stale', status: 409 }),
    };
  }) as never;
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
  globalThis.fetch = realFetch;
});

const answered = async () => {
  await act(async () => {
    waiting.shift()?.();
    await jest.advanceTimersByTimeAsync(0);
  });
};
const pauses = () => act(() => jest.advanceTimersByTimeAsync(600));

describe('what is typed in a section', () => {
  test('is kept in its order when several saves wait for a slow house, and is handed in after the last', async () => {
    const { result } = renderHook(() => useTyping('token', section));
    act(() => result.current.type('name', 'S'));
    await pauses();
    act(() => result.current.type('name', 'Sö'));
    await pauses();
    act(() => result.current.type('name', 'Söl'));
    let isFlushed = false;
    act(() => {
      void result.current.flush().then(() => {
        isFlushed = true;
      });
    });
    await answered();
    expect(isFlushed).toBe(false);
    while (waiting.length > 0) await answered();
    expect(isFlushed).toBe(true);
    expect(kept.value).toEqual({ name: 'Söl' });
    expect(result.current.keeping).toBe('kept');
  });

  test('is told where another device was there first', async () => {
    const { result } = renderHook(() => useTyping('token', section));
    kept = { base: 4, value: { name: 'Theirs' } };
    act(() => result.current.type('name', 'Mine'));
    await pauses();
    await answered();
    expect(result.current.keeping).toBe('other');
    expect(kept.value).toEqual({ name: 'Theirs' });
  });
});
