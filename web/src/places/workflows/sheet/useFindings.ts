/** The findings of a definition while it is being edited, and how its kept checks come out; nothing until the first round is done. */
import type { RehearsalView, SurroundingsView } from '@north-pebble/contract';
import type { Directory } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import type { Definition } from '@north-pebble/core/workflow';
import { useQueries } from '@tanstack/react-query';
import { startTransition, useEffect, useRef, useState } from 'react';
import { personFactsQuery } from '../../../api/queries.ts';
import type { FromWorker, ToWorker } from '../../../workers/findings.worker.ts';

export type Found = Pick<FromWorker, 'findings' | 'checks'>;

export function useFindings(
  definition: Definition,
  directory: Directory | undefined,
  surroundings: SurroundingsView | undefined,
  days: readonly CivilDate[],
): Found | null {
  const [found, setFound] = useState<Found | null>(null);
  const worker = useRef<Worker | null>(null);
  const round = useRef(0);
  const people = [...new Set((definition.checks ?? []).map(c => c.subject ?? c.asker))];
  const known = useQueries({ queries: directory ? people.map(personFactsQuery) : [] });
  const facts = known.flatMap((query, i) => (query.data ? [[people[i], query.data] as [string, RehearsalView]] : []));
  const factsKey = known.map(query => query.dataUpdatedAt).join();
  const dayKey = days.join();

  useEffect(() => {
    const made = new Worker(new URL('../../../workers/findings.worker.ts', import.meta.url), { type: 'module' });
    made.onmessage = (event: MessageEvent<FromWorker>) => {
      // An answer to an older state of the sheet is not shown.
      if (event.data.round === round.current) startTransition(() => setFound(event.data));
    };
    worker.current = made;
    return () => {
      made.terminate();
      worker.current = null;
    };
  }, []);

  useEffect(() => {
    if (directory && surroundings)
      worker.current?.postMessage({ kind: 'house', directory, surroundings } satisfies ToWorker);
  }, [directory, surroundings]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: the keys stand for the days, the facts and the directory
  useEffect(() => {
    const send = (message: ToWorker) => worker.current?.postMessage(message);
    send({ kind: 'days', days: [...days] });
    for (const [person, about] of facts) send({ kind: 'facts', person, facts: about });
    round.current++;
    send({ kind: 'check', round: round.current, definition });
  }, [definition, directory, surroundings, dayKey, factsKey]);

  return found;
}
