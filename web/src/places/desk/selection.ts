/**
 * Which request is open beside the list. It stays open until its reader goes on, whatever news come in meanwhile: a
 * request that somebody else has answered must not give way to another one under the hand that is about to press a button.
 */
import { useCallback, useEffect, useState } from 'react';

export type Selection = {
  /** The request that is open; nothing when nothing waits. */
  open: string | null;
  /** It was open and waits no more, through no doing of the reader’s. */
  gone: boolean;
  show: (request: string) => void;
  /** The reader is done with these: when they go, the next one follows. */
  finish: (requests: readonly string[]) => void;
};

/**
 * @param waiting requests on the desk, in their order
 * @param asked the one that the address names
 * @param listed those of them that the filters let through
 */
export function useSelection(
  waiting: readonly string[],
  asked: string | null,
  listed: readonly string[] = waiting,
): Selection {
  const [shown, setShown] = useState(asked);
  const [finished, setFinished] = useState<readonly string[]>([]);
  const show = useCallback((request: string) => {
    setFinished(before => before.filter(one => one !== request));
    setShown(request);
  }, []);
  const finish = useCallback((requests: readonly string[]) => setFinished(before => [...before, ...requests]), []);
  useEffect(() => {
    if (asked) show(asked);
  }, [asked, show]);
  const gone = shown !== null && !waiting.includes(shown) && !finished.includes(shown);
  const open = shown !== null && (gone || listed.includes(shown)) ? shown : (listed[0] ?? null);
  // What is open stays open, also when something more urgent comes before it.
  useEffect(() => {
    if (open !== shown) setShown(open);
  }, [open, shown]);
  return { open, gone, show, finish };
}
