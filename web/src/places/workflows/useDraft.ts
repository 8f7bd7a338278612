/**
 * The draft of a sheet: changed at once on the page, saved after a short rest, never over somebody else's.
 * While the house is away it goes on trying; leaving the page sends what is not saved yet.
 */
import type { SheetView } from '@north-pebble/contract';
import type { Definition } from '@north-pebble/core/workflow';
import { useCallback, useEffect, useRef, useState } from 'react';
import { call, Refused } from '../../api/client.ts';
import { begin, change as changed, type History, redo as redone, undo as undone } from './history.ts';

const rest = 600;
const again = 1500;

export type SaveState =
  | { kind: 'clean' }
  | { kind: 'saving' }
  | { kind: 'saved'; at: string }
  | { kind: 'waiting' }
  | { kind: 'refused'; fault: unknown };

export function useDraft(sheet: SheetView) {
  const start = sheet.draft?.definition ?? sheet.live?.definition;
  if (!start) throw new Error('a workflow has a draft or a live version');
  const [history, setHistory] = useState<History<Definition>>(() => begin(start));
  const [state, setState] = useState<SaveState>(
    sheet.draft ? { kind: 'saved', at: sheet.draft.savedAt } : { kind: 'clean' },
  );
  const [revision, setRevision] = useState(sheet.draft?.revision ?? null);
  const seen = useRef<number | null>(sheet.draft?.revision ?? null);
  const toSave = useRef<Definition | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const running = useRef<Promise<void> | null>(null);

  const saveNow = useCallback(async (): Promise<void> => {
    clearTimeout(timer.current);
    if (running.current) await running.current;
    const definition = toSave.current;
    if (!definition) return;
    setState({ kind: 'saving' });
    running.current = (async () => {
      try {
        const saved = await call<{ revision: number; savedAt: string }>(`/workflows/${sheet.id}/draft`, {
          method: 'PUT',
          body: { revision: seen.current ?? sheet.revision, definition },
        });
        seen.current = saved.revision;
        setRevision(saved.revision);
        if (toSave.current === definition) {
          toSave.current = null;
          setState({ kind: 'saved', at: saved.savedAt });
        }
      } catch (fault) {
        if (fault instanceof Refused && fault.problem.code === 'database away') {
          setState({ kind: 'waiting' });
          timer.current = setTimeout(() => void saveNow(), again);
        } else setState({ kind: 'refused', fault });
      }
    })();
    await running.current;
    running.current = null;
    if (toSave.current && toSave.current !== definition) await saveNow();
  }, [sheet.id, sheet.revision]);

  const schedule = useCallback(
    (definition: Definition) => {
      toSave.current = definition;
      setState({ kind: 'saving' });
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void saveNow(), rest);
    },
    [saveNow],
  );

  const apply = useCallback(
    (next: (before: History<Definition>) => History<Definition>) => {
      setHistory(before => {
        const after = next(before);
        if (after.now !== before.now) schedule(after.now);
        return after;
      });
    },
    [schedule],
  );

  useEffect(() => {
    const leave = () => {
      if (toSave.current) void saveNow();
    };
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [saveNow]);

  return {
    definition: history.now,
    mayUndo: history.past.length > 0,
    mayRedo: history.future.length > 0,
    state,
    revision,
    isDraft: revision !== null || state.kind !== 'clean',
    change: useCallback((next: Definition) => apply(before => changed(before, next)), [apply]),
    undo: useCallback(() => apply(undone), [apply]),
    redo: useCallback(() => apply(redone), [apply]),
    saveNow,
  };
}
