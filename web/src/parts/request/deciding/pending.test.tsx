/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import { type Decision, usePendingDecisions } from './pending.ts';

type Sent = { url: string; body: { id: string; command: Decision['command'] }; keepalive: boolean };
let sent: Sent[];
let status = 200;
/** Requests for which what was typed is still kept. */
let kept: Set<string>;
const realFetch = globalThis.fetch;

beforeEach(() => {
  jest.useFakeTimers();
  sent = [];
  status = 200;
  kept = new Set(['R-1', 'R-2', 'R-3']);
  globalThis.fetch = (async (url: string, options: { body: string; keepalive: boolean }) => {
    sent.push({ url, body: JSON.parse(options.body) as Sent['body'], keepalive: options.keepalive });
    const body =
      status === 200
        ? { request: 'R-1', version: 9 }
        : { title: 'Somebody was faster', detail: 'Tom answered this.', status, code: 'stale' };
    const type = status === 200 ? 'application/json' : 'application/problem+json';
    return { ok: status === 200, status, headers: new Map([['Content-Type', type]]), json: async () => body };
  }) as never;
});
afterEach(() => {
  jest.useRealTimers();
  globalThis.fetch = realFetch;
});

const decision = (request: string): Omit<Decision, 'id'> => ({
  request,
  words: `Approve: ${request}`,
  note: 'Enjoy.',
  onSent: () => kept.delete(request),
  command: { kind: 'answer', seen: 8, task: `${request}.1`, outcome: 'approve', note: 'Enjoy.' },
});

const desk = () => {
  const failed = jest.fn<(decision: Decision, fault: unknown) => void>();
  return { failed, ...renderHook(() => usePendingDecisions(failed)) };
};
const pass = (ms: number) => act(() => jest.advanceTimersByTimeAsync(ms));

describe('a decision that can still be undone', () => {
  test('is sent when its seconds are up, once', async () => {
    const { result } = desk();
    act(() => result.current.decide([decision('R-1')]));
    expect(result.current.pending?.decisions[0].request).toBe('R-1');
    await pass(4900);
    expect(sent).toEqual([]);
    await pass(200);
    expect(sent).toMatchObject([
      { url: '/api/requests/R-1/commands', body: { command: { outcome: 'approve', seen: 8 } } },
    ]);
    expect(result.current.pending).toBeNull();
    expect(kept.has('R-1')).toBe(false);
    await pass(20_000);
    expect(sent).toHaveLength(1);
  });

  test('undone, it is never sent', async () => {
    const { result } = desk();
    act(() => result.current.decide([decision('R-1')]));
    act(() => result.current.undo());
    await pass(20_000);
    expect(sent).toEqual([]);
    expect(result.current.pending).toBeNull();
  });

  test('the next decision sends the one before at once', async () => {
    const { result } = desk();
    act(() => result.current.decide([decision('R-1')]));
    act(() => result.current.decide([decision('R-2')]));
    await pass(0);
    expect(sent.map(s => s.url)).toEqual(['/api/requests/R-1/commands']);
    expect(result.current.pending?.decisions[0].request).toBe('R-2');
    await pass(6000);
    expect(sent).toHaveLength(2);
    expect(new Set(sent.map(s => s.body.id)).size).toBe(2);
  });

  test('leaving the desk, or the page, sends it at once', async () => {
    const first = desk();
    act(() => first.result.current.decide([decision('R-1')]));
    first.unmount();
    await pass(0);
    expect(sent).toHaveLength(1);
    const second = desk();
    act(() => second.result.current.decide([decision('R-2')]));
    act(() => void window.dispatchEvent(new Event('pagehide')));
    await pass(0);
    expect(sent[1]).toMatchObject({ url: '/api/requests/R-2/commands', keepalive: true });
  });

  test('several wait together, are undone together, and are sent one after another; what is refused is told for itself', async () => {
    const { result, failed } = desk();
    const both = [decision('R-1'), decision('R-2')];
    act(() => result.current.decide(both, 'Approve: 2 at once'));
    expect(result.current.pending?.words).toBe('Approve: 2 at once');
    act(() => result.current.undo());
    await pass(20_000);
    expect(sent).toEqual([]);
    act(() => result.current.decide(both));
    await pass(5100);
    expect(sent.map(s => s.url)).toEqual(['/api/requests/R-1/commands', '/api/requests/R-2/commands']);
    expect([...kept]).toEqual(['R-3']);
    status = 409;
    act(() => result.current.decide(both));
    act(() => void window.dispatchEvent(new Event('pagehide')));
    await pass(10);
    expect(failed.mock.calls.map(([back]) => back.request)).toEqual(['R-1', 'R-2']);
  });

  test('refused, it comes back with its note and the reason', async () => {
    status = 409;
    const { result, failed } = desk();
    act(() => result.current.decide([decision('R-1')]));
    act(() => result.current.flush());
    await pass(10);
    expect(failed).toHaveBeenCalledTimes(1);
    const [back, fault] = failed.mock.calls[0];
    expect(back).toMatchObject({ request: 'R-1', note: 'Enjoy.' });
    expect(String(fault)).toContain('Tom answered this.');
    expect(result.current.pending).toBeNull();
  });
});
