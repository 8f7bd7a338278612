/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import { saveAll } from '../../api/saving.ts';
import { Refusal, type Sent, serve, unserve } from '../../testing/page.tsx';
import { forgetUnsent, useUnsent } from './unsent.ts';

const path = '/requests/R-1/unsent/note';
let answer: unknown;
let seen: Sent[];
beforeEach(() => {
  jest.useFakeTimers();
  answer = {};
  seen = serve({ [`PUT ${path}`]: () => answer });
});
afterEach(() => {
  jest.useRealTimers();
  unserve();
});
const pass = (ms: number) => act(() => jest.advanceTimersByTimeAsync(ms));
const saved = () => seen.map(({ body }) => body?.value);
const note = (unsent: Record<string, unknown> = {}) => renderHook(() => useUnsent({ id: 'R-1', unsent }, 'note', ''));
const type = (hook: ReturnType<typeof note>, text: string) => act(() => hook.result.current[1](text));

describe('what is typed and not sent', () => {
  test('is saved a moment after the last key, and found again where it was typed', async () => {
    const first = note();
    type(first, 'So');
    type(first, 'So far');
    expect(saved()).toEqual([]);
    await pass(700);
    expect(saved()).toEqual(['So far']);
    first.unmount();
    expect(note().result.current[0]).toBe('So far');
  });

  test('comes with the request on another machine; what stands here is newer', () => {
    const other = note({ note: 'From the other machine' });
    expect(other.result.current[0]).toBe('From the other machine');
    type(other, 'Here');
    other.unmount();
    expect(note({ note: 'From the other machine' }).result.current[0]).toBe('Here');
  });

  test('is saved at once when the page is left', async () => {
    type(note(), 'Half a sen');
    saveAll();
    await pass(0);
    expect(saved()).toEqual(['Half a sen']);
    await pass(1000);
    expect(saved()).toHaveLength(1);
  });

  test('is gone once it was sent; what was never typed is not saved', async () => {
    const hook = note();
    act(() => hook.result.current[2]());
    await pass(1000);
    expect(saved()).toEqual([]);
    type(hook, 'Yes');
    act(() => hook.result.current[2]());
    await pass(1000);
    expect(saved()).toEqual([null]);
    expect(hook.result.current[0]).toBe('');
    hook.unmount();
    expect(note({ note: 'Yes' }).result.current[0]).toBe('');
  });

  test('while the house is away it stays here and is tried again; what is refused is not', async () => {
    const away = () => {
      throw new Error('away');
    };
    const real = globalThis.fetch;
    globalThis.fetch = away as never;
    type(note(), 'Kept');
    await pass(700);
    globalThis.fetch = real;
    await pass(5100);
    expect(saved()).toEqual(['Kept']);
    answer = new Refusal('That is too much to be kept.');
    type(note(), 'Much');
    await pass(20_000);
    expect(saved()).toEqual(['Kept', 'Much']);
  });
});

test('a freshly loaded page knows only what was saved', () => {
  type(note(), 'Gone');
  forgetUnsent();
  expect(note({ note: 'Saved' }).result.current[0]).toBe('Saved');
});
