import { useCallback, useEffect, useRef, useState } from 'react';
import { call, commandId } from '../../../api/client.ts';
import { answeredQuery, queryClient } from '../../../api/queries.ts';

export type Decision = {
  id: string;
  request: string;
  words: string;
  note: string;
  /** What was typed for it is not needed any more. */
  onSent: () => void;
  command: {
    kind: 'answer';
    seen: number;
    task: string;
    outcome: string;
    note: string | null;
    answers?: Record<string, unknown>;
  };
};

/** What was answered a moment ago, one request or several together, with the words that say so. */
export type Pending = { words: string; decisions: readonly Decision[] };

const undoFor = 5000;

/** What was done, as it is said afterwards. */
export const answeredWords = (outcome: string, what: string): string => `Answered “${outcome}”: ${what}`;

const sendDecision = (decision: Decision, keepalive: boolean) =>
  call('POST /requests/:id/commands', {
    params: { id: decision.request },
    body: { id: decision.id, command: decision.command },
    keepalive,
  });

export function usePendingDecisions(onFailed: (decision: Decision, fault: unknown) => void) {
  const [pending, setPending] = useState<Pending | null>(null);
  const current = useRef<{ pending: Pending; timer: ReturnType<typeof setTimeout> } | null>(null);
  const failed = useRef(onFailed);
  failed.current = onFailed;

  const send = useCallback(async (all: Pending, keepalive: boolean) => {
    const one = async (decision: Decision) => {
      try {
        await sendDecision(decision, keepalive);
        decision.onSent();
      } catch (fault) {
        failed.current(decision, fault);
      }
    };
    // A page that is being left has no time to wait for one after another.
    if (keepalive) await Promise.all(all.decisions.map(one));
    else for (const decision of all.decisions) await one(decision);
    await queryClient.invalidateQueries();
    setPending(now => (now === all ? null : now));
  }, []);

  const flush = useCallback(
    (keepalive = false) => {
      const held = current.current;
      if (!held) return;
      clearTimeout(held.timer);
      current.current = null;
      void send(held.pending, keepalive);
    },
    [send],
  );

  const decide = useCallback(
    (parts: readonly Omit<Decision, 'id'>[], words = parts[0].words) => {
      flush();
      const next = { words, decisions: parts.map(part => ({ ...part, id: commandId() })) };
      setPending(next);
      current.current = { pending: next, timer: setTimeout(() => flush(), undoFor) };
    },
    [flush],
  );

  const undo = useCallback(() => {
    if (current.current) clearTimeout(current.current.timer);
    current.current = null;
    setPending(null);
  }, []);

  useEffect(() => {
    queryClient.setQueryData(answeredQuery.queryKey, pending?.decisions.map(one => one.request) ?? []);
  }, [pending]);

  useEffect(() => {
    const leave = () => flush(true);
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      flush();
    };
  }, [flush]);

  return { pending, decide, undo, flush };
}
