/**
 * Which request is open beside the list. It stays open until its reader goes on, whatever news come in meanwhile: a
 * request that somebody else has answered must not give way to another one under the hand that is about to press a button.
 */
import { useCallback, useEffect, useRef, useState } from 'react';

export type Selection = {
  /** The request that is open; nothing when nothing waits. */
  open: string | null;
  /** It was open and waits no more, through no doing of the reader’s. */
  gone: boolean;
  show: (request: string) => void;
  /** The reader is done with these: when they go, the next one follows. */
  finish: (requests: readonly string[]) => void;
};

/** The one that stood behind another and is still there, else the one before it, else the first. */
function nextTo(request: string | null, order: readonly string[], listed: readonly string[]): string | null {
  const at = request === null ? -1 : order.indexOf(request);
  const isThere = (one: string) => listed.includes(one);
  const behind = at < 0 ? undefined : order.slice(at + 1).find(isThere);
  const before = at < 0 ? undefined : order.slice(0, at).findLast(isThere);
  return behind ?? before ?? listed[0] ?? null;
}

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
  // The order in which the open one stood last: whoever is done with it goes on from there, and not from the top.
  const order = useRef(listed);
  if (shown !== null && listed.includes(shown)) order.current = listed;
  const open = shown !== null && (gone || listed.includes(shown)) ? shown : nextTo(shown, order.current, listed);
  // What is open stays open, also when something more urgent comes before it.
  useEffect(() => {
    if (open !== shown) setShown(open);
  }, [open, shown]);
  return { open, gone, show, finish };
}
