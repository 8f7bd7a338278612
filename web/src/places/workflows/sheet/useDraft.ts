/**
 * The draft of a sheet: changed at once on the page, saved after a short rest, never over somebody else's.
 * While the house is away it goes on trying; leaving the page sends what is not saved yet.
 */
import type { SheetView } from '@north-pebble/contract';
import type { Definition } from '@north-pebble/core/workflow';
import { useCallback, useEffect, useRef, useState } from 'react';
import { call, RefusedCall } from '../../../api/client.ts';
import { begin, change as changed, type History, redo as redone, undo as undone } from './history.ts';

const rest = 600;
const again = 1500;

export type SaveState =
  | { kind: 'clean' }
  | { kind: 'saving' }
  | { kind: 'saved'; at: string }
  | { kind: 'waiting' }
  | { kind: 'refused'; fault: unknown };

/** What stands on the server instead of what this page began from: another window's or another designer's. */
export type Overtaken = { definition: Definition; revision: number; savedBy: string | null; savedAt: string | null };

/** @param thrownAway what was drafted before, to which *Undo* goes back */
export function useDraft(sheet: SheetView, thrownAway: Definition | null = null) {
  const start = sheet.draft?.definition ?? sheet.live?.definition;
  if (!start) throw new Error('a workflow has a draft or a live version');
  const [history, setHistory] = useState<History<Definition>>(() =>
    thrownAway ? { ...begin(start), past: [thrownAway] } : begin(start),
  );
  const [overtaken, setOvertaken] = useState<Overtaken | null>(null);
  const [state, setState] = useState<SaveState>(
    sheet.draft ? { kind: 'saved', at: sheet.draft.savedAt } : { kind: 'clean' },
  );
  const [revision, setRevision] = useState(sheet.draft?.revision ?? null);
  const seen = useRef<number | null>(sheet.draft?.revision ?? null);
  const toSave = useRef<Definition | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const running = useRef<Promise<void> | null>(null);
  // Nothing is sent while it is open whose draft it is to be.
  const held = useRef(false);
  held.current = overtaken !== null;

  const mark = useRef(sheet.revision);
  const look = useRef(async (): Promise<void> => {});
  look.current = async () => {
    const now = await call('GET /workflows/:id', { params: { id: sheet.id } }).catch(() => null);
    const definition = now?.draft?.definition ?? now?.live?.definition;
    if (!now || !definition || now.revision === (seen.current ?? mark.current)) return;
    clearTimeout(timer.current);
    setOvertaken({
      definition,
      revision: now.revision,
      savedBy: now.draft?.savedBy ?? null,
      savedAt: now.draft?.savedAt ?? null,
    });
  };

  const saveNow = useCallback(async (): Promise<void> => {
    clearTimeout(timer.current);
    if (running.current) await running.current;
    const definition = toSave.current;
    if (!definition || held.current) return;
    setState({ kind: 'saving' });
    running.current = (async () => {
      try {
        const saved = await call('PUT /workflows/:id/draft', {
          params: { id: sheet.id },
          body: { revision: seen.current ?? sheet.revision, definition },
        });
        seen.current = saved.revision;
        setRevision(saved.revision);
        if (toSave.current === definition) {
          toSave.current = null;
          setState({ kind: 'saved', at: saved.savedAt });
        }
      } catch (fault) {
        if (fault instanceof RefusedCall && fault.problem.code === 'database away') {
          setState({ kind: 'waiting' });
          timer.current = setTimeout(() => void saveNow(), again);
        } else {
          setState({ kind: 'refused', fault });
          if (fault instanceof RefusedCall && fault.problem.code === 'stale') await look.current();
        }
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

  /** Goes on from what the server has; what stands here can be had back with *Undo*. */
  const takeTheirs = useCallback(() => {
    if (!overtaken) return;
    clearTimeout(timer.current);
    toSave.current = null;
    seen.current = overtaken.revision;
    setRevision(overtaken.savedAt === null ? null : overtaken.revision);
    mark.current = overtaken.revision;
    setHistory(before => changed(before, overtaken.definition));
    setState(overtaken.savedAt === null ? { kind: 'clean' } : { kind: 'saved', at: overtaken.savedAt });
    setOvertaken(null);
  }, [overtaken]);

  /** Saves what stands here over it; what the server had can be had back with *Undo*. */
  const keepMine = useCallback(() => {
    if (!overtaken) return;
    seen.current = overtaken.revision;
    held.current = false;
    setHistory(before => ({ ...before, past: [...before.past, overtaken.definition] }));
    setOvertaken(null);
    schedule(history.now);
  }, [overtaken, history.now, schedule]);

  /** Told how far the server's draft has come; when it is not what was saved from here, it is looked at. */
  const heard = useCallback((revisionThere: number) => {
    if (running.current || held.current || revisionThere <= (seen.current ?? mark.current)) return;
    void look.current();
  }, []);

  return {
    overtaken,
    takeTheirs,
    keepMine,
    heard,
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
