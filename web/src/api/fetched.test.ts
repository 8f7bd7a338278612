/** @jest-environment jsdom */
/** Parts that are fetched: waited for while there is no connection, given up only while there is one. */
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { fetched } from './fetched.ts';

let isOnline = true;
beforeEach(() => {
  jest.useFakeTimers();
  Object.defineProperty(navigator, 'onLine', { configurable: true, get: () => isOnline });
});
afterEach(() => {
  isOnline = true;
  jest.useRealTimers();
});

describe('a part', () => {
  test('is waited for without a connection, and fetched when there is one', async () => {
    isOnline = false;
    let asked = 0;
    const part = fetched(async () => {
      asked += 1;
      return 'part';
    });
    await jest.advanceTimersByTimeAsync(60_000);
    expect(asked).toBe(0);
    isOnline = true;
    window.dispatchEvent(new Event('online'));
    await expect(part).resolves.toBe('part');
  });

  test('that breaks off with the connection is asked for again', async () => {
    let asked = 0;
    const part = fetched(async () => {
      asked += 1;
      if (asked > 1) return asked;
      isOnline = false;
      throw new TypeError('Failed to fetch');
    });
    await jest.advanceTimersByTimeAsync(10);
    expect(asked).toBe(1);
    isOnline = true;
    window.dispatchEvent(new Event('online'));
    await expect(part).resolves.toBe(2);
  });

  test('that is not there is given up after a few tries', async () => {
    let asked = 0;
    const part = fetched(async () => {
      asked += 1;
      throw new TypeError('no such part');
    });
    const end = expect(part).rejects.toThrow('no such part');
    await jest.advanceTimersByTimeAsync(60_000);
    await end;
    expect(asked).toBe(5);
  });
});
