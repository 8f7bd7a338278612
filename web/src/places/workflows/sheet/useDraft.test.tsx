/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import type { SheetView } from '@north-pebble/contract';
import type { Instant } from '@north-pebble/core/time';
import { type Definition, setAt } from '@north-pebble/core/workflow';
import { act, renderHook, waitFor } from '@testing-library/react';
import { annualLeave } from '../../../../../core/testing/house.ts';
import { useDraft } from './useDraft.ts';

type Sent = { revision: number; definition: Definition };
type Reply = { status: number; body: unknown };

const savedAt = '2026-02-02T09:40:00Z' as Instant;
const problem = (status: number, code: string) => ({
  status,
  body: { type: 'about:blank', title: 'No', status, detail: 'Somebody has changed this draft meanwhile.', code },
});

let sent: Sent[];
/** The sheet as the server has it when it is looked at. */
let there: SheetView;
let replies: ((n: number, body: Sent) => Reply)[];
const realFetch = globalThis.fetch;

beforeEach(() => {
  sent = [];
  there = sheet;
  replies = [];
  globalThis.fetch = (async (_url: string, options?: { body?: string }) => {
    if (!options?.body)
      return {
        ok: true,
        status: 200,
        headers: new Map([['Content-Type', 'application/json']]),
        json: async () => there,
      };
    const body = JSON.parse(options.body) as Sent;
    sent.push(body);
    const make = replies.shift() ?? ((n: number) => ({ status: 200, body: { revision: n, savedAt } }));
    const { status, body: answer } = make(body.revision + 1, body);
    return {
      ok: status < 400,
      status,
      headers: new Map([['Content-Type', status < 400 ? 'application/json' : 'application/problem+json']]),
      json: async () => answer,
    };
  }) as never;
});
afterEach(() => {
  globalThis.fetch = realFetch;
  jest.useRealTimers();
});

const sheet: SheetView = {
  id: 'annual',
  revision: 7,
  live: { version: 1, definition: annualLeave, publishedAt: savedAt, publishedBy: 'Kay Voss', open: 0 },
  draft: null,
  archivedAt: null,
  permissions: null,
  may: { edit: true, publish: true },
  versions: [],
};
const named = (name: string): Definition => setAt(annualLeave, ['name'], name);

describe('the draft of a sheet', () => {
  test('begins as published, and the first change saves it over the revision that was seen', async () => {
    const { result } = renderHook(() => useDraft(sheet));
    expect(result.current).toMatchObject({ isDraft: false, mayUndo: false, state: { kind: 'clean' } });
    act(() => result.current.change(named('Leave')));
    expect(result.current).toMatchObject({ isDraft: true, mayUndo: true, definition: { name: 'Leave' } });
    await waitFor(() => expect(result.current.state).toEqual({ kind: 'saved', at: savedAt }), { timeout: 3000 });
    expect(sent).toMatchObject([{ revision: 7, definition: { name: 'Leave' } }]);
    expect(result.current.revision).toBe(8);
  });

  test('changes in quick succession are saved once, with the last of them', async () => {
    const { result } = renderHook(() => useDraft(sheet));
    for (const name of ['L', 'Le', 'Lea', 'Leav', 'Leave']) act(() => result.current.change(named(name)));
    await waitFor(() => expect(result.current.state.kind).toBe('saved'), { timeout: 3000 });
    expect(sent.map(s => s.definition.name)).toEqual(['Leave']);
    act(() => result.current.change(named('Time off')));
    await act(() => result.current.saveNow());
    expect(sent.at(-1)).toMatchObject({ revision: 8, definition: { name: 'Time off' } });
  });

  test('undo across many edits goes back to the start and is saved too', async () => {
    const { result } = renderHook(() => useDraft(sheet));
    for (let i = 1; i <= 20; i++) act(() => result.current.change(named(`Name ${i}`)));
    for (let i = 20; i > 0; i--) act(() => result.current.undo());
    expect(result.current.definition).toEqual(annualLeave);
    expect(result.current.mayUndo).toBe(false);
    act(() => result.current.redo());
    expect(result.current.definition.name).toBe('Name 1');
    await act(() => result.current.saveNow());
    expect(sent.at(-1)?.definition.name).toBe('Name 1');
  });

  test('while the house is away it waits and tries again, with nothing lost', async () => {
    replies = [() => problem(503, 'database away')];
    const { result } = renderHook(() => useDraft(sheet));
    act(() => result.current.change(named('Leave')));
    await waitFor(() => expect(result.current.state.kind).toBe('away'), { timeout: 3000 });
    await waitFor(() => expect(result.current.state.kind).toBe('saved'), { timeout: 5000 });
    expect(sent).toHaveLength(2);
    expect(sent[1]).toEqual(sent[0]);
  });

  test('another designer’s newer draft is told, and never overwritten', async () => {
    replies = [() => problem(409, 'stale')];
    const { result } = renderHook(() => useDraft(sheet));
    act(() => result.current.change(named('Mine')));
    await waitFor(() => expect(result.current.state.kind).toBe('refused'), { timeout: 3000 });
    expect(result.current.definition.name).toBe('Mine');
    expect(sent).toHaveLength(1);
  });

  describe('a draft saved in another window meanwhile', () => {
    const theirs = (revision: number): SheetView => ({
      ...sheet,
      revision,
      draft: { definition: named('Theirs'), revision, savedAt, savedBy: 'Kay Voss' },
    });
    const overtaken = async () => {
      const { result } = renderHook(() => useDraft(sheet));
      act(() => result.current.change(named('Mine')));
      await waitFor(() => expect(result.current.state.kind).toBe('saved'), { timeout: 3000 });
      there = theirs(9);
      act(() => result.current.heard(9));
      await waitFor(() => expect(result.current.overtaken).toMatchObject({ revision: 9, savedBy: 'Kay Voss' }));
      return result;
    };

    test('is told before anything is typed, and what is typed then waits', async () => {
      const result = await overtaken();
      act(() => result.current.change(named('Mine too')));
      await act(() => result.current.saveNow());
      expect(sent.map(s => s.definition.name)).toEqual(['Mine']);
      expect(result.current.definition.name).toBe('Mine too');
    });

    test('is gone on from, and mine can be had back', async () => {
      const result = await overtaken();
      act(() => result.current.takeTheirs());
      expect(result.current).toMatchObject({ overtaken: null, definition: { name: 'Theirs' }, revision: 9 });
      act(() => result.current.undo());
      await act(() => result.current.saveNow());
      expect(sent.at(-1)).toMatchObject({ revision: 9, definition: { name: 'Mine' } });
    });

    test('is saved over when that is chosen, and theirs can be had back', async () => {
      const result = await overtaken();
      act(() => result.current.keepMine());
      await act(() => result.current.saveNow());
      expect(sent.at(-1)).toMatchObject({ revision: 9, definition: { name: 'Mine' } });
      act(() => result.current.undo());
      expect(result.current.definition.name).toBe('Theirs');
    });

    test('is not taken for somebody else’s when it was saved from here', async () => {
      const { result } = renderHook(() => useDraft(sheet));
      act(() => result.current.change(named('Mine')));
      await waitFor(() => expect(result.current.state.kind).toBe('saved'), { timeout: 3000 });
      there = theirs(9);
      act(() => result.current.heard(8));
      expect(result.current.overtaken).toBeNull();
    });
  });

  test('a draft that was discarded comes back with undo', async () => {
    const { result } = renderHook(() => useDraft(sheet, named('Thrown away')));
    expect(result.current).toMatchObject({ isDraft: false, mayUndo: true, definition: { name: annualLeave.name } });
    act(() => result.current.undo());
    await act(() => result.current.saveNow());
    expect(sent.at(-1)?.definition.name).toBe('Thrown away');
  });

  test('leaving the page sends what is not saved yet', async () => {
    const { result, unmount } = renderHook(() => useDraft(sheet));
    act(() => result.current.change(named('Half typed')));
    expect(sent).toEqual([]);
    unmount();
    await waitFor(() => expect(sent.map(s => s.definition.name)).toEqual(['Half typed']));
  });
});
