/**
 * The draft of a sheet: changed at once on the page, saved after a short rest, never over somebody else's.
 * While the house is away it goes on trying; leaving the page sends what is not saved yet.
 */
import type { SheetView } from '@north-pebble/contract';
import type { Definition } from '@north-pebble/core/workflow';
import { useCallback, useEffect, useRef, useState } from 'react';
import { call, problemOf } from '../../../api/client.ts';
import { Saver } from '../../../api/saving.ts';
import { begin, change as changed, type History, redo as redone, undo as undone } from './history.ts';

export type SaveState =
  | { kind: 'clean' }
  | { kind: 'saving' }
  | { kind: 'saved'; at: string }
  /** The house is away; it is tried again. */
  | { kind: 'away' }
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

  const mark = useRef(sheet.revision);
  const look = useRef(async (): Promise<void> => {});
  const [saver] = useState(
    () =>
      new Saver<Definition, { revision: number; savedAt: string }>({
        async save(definition) {
          const body = { revision: seen.current ?? mark.current, definition };
          const saved = await call('PUT /workflows/:id/draft', { params: { id: sheet.id }, body });
          seen.current = saved.revision;
          setRevision(saved.revision);
          return saved;
        },
        onState(saving) {
          if (saving.kind === 'saved') setState({ kind: 'saved', at: saving.saved.savedAt });
          else setState(saving);
          if (saving.kind === 'refused' && problemOf(saving.fault)?.code === 'stale') void look.current();
        },
      }),
  );
  look.current = async () => {
    const now = await call('GET /workflows/:id', { params: { id: sheet.id } }).catch(() => null);
    const definition = now?.draft?.definition ?? now?.live?.definition;
    if (!now || !definition || now.revision === (seen.current ?? mark.current)) return;
    saver.hold(true);
    setOvertaken({
      definition,
      revision: now.revision,
      savedBy: now.draft?.savedBy ?? null,
      savedAt: now.draft?.savedAt ?? null,
    });
  };

  const saveNow = useCallback(() => saver.flush(), [saver]);

  const apply = useCallback(
    (next: (before: History<Definition>) => History<Definition>) => {
      setHistory(before => {
        const after = next(before);
        if (after.now !== before.now) saver.change(after.now);
        return after;
      });
    },
    [saver],
  );

  // Whoever goes to another place has it saved too.
  useEffect(() => () => void saver.flush(), [saver]);

  /** Goes on from what the server has; what stands here can be had back with *Undo*. */
  const takeTheirs = useCallback(() => {
    if (!overtaken) return;
    saver.drop();
    saver.hold(false);
    seen.current = overtaken.revision;
    setRevision(overtaken.savedAt === null ? null : overtaken.revision);
    mark.current = overtaken.revision;
    setHistory(before => changed(before, overtaken.definition));
    setState(overtaken.savedAt === null ? { kind: 'clean' } : { kind: 'saved', at: overtaken.savedAt });
    setOvertaken(null);
  }, [overtaken, saver]);

  /** Saves what stands here over it; what the server had can be had back with *Undo*. */
  const keepMine = useCallback(() => {
    if (!overtaken) return;
    seen.current = overtaken.revision;
    saver.hold(false);
    setHistory(before => ({ ...before, past: [...before.past, overtaken.definition] }));
    setOvertaken(null);
    saver.change(history.now);
  }, [overtaken, history.now, saver]);

  /** Told how far the server's draft has come; when it is not what was saved from here, it is looked at. */
  const isOvertaken = overtaken !== null;
  const heard = useCallback(
    (revisionThere: number) => {
      if (saver.isRunning || isOvertaken || revisionThere <= (seen.current ?? mark.current)) return;
      void look.current();
    },
    [saver, isOvertaken],
  );

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
