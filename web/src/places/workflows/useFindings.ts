/** The findings of a definition while it is being edited; `null` until the first round is done. */
import type { Directory } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import type { Definition, Finding } from '@north-pebble/core/workflow';
import { useEffect, useRef, useState } from 'react';
import type { FromWorker, ToWorker } from '../../workers/findings.worker.ts';

export function useFindings(
  definition: Definition,
  directory: Directory | undefined,
  day: CivilDate,
): Finding[] | null {
  const [found, setFound] = useState<Finding[] | null>(null);
  const worker = useRef<Worker | null>(null);
  const round = useRef(0);

  useEffect(() => {
    const made = new Worker(new URL('../../workers/findings.worker.ts', import.meta.url), { type: 'module' });
    made.onmessage = (event: MessageEvent<FromWorker>) => {
      // An answer to an older state of the sheet is not shown.
      if (event.data.round === round.current) setFound(event.data.findings);
    };
    worker.current = made;
    return () => {
      made.terminate();
      worker.current = null;
    };
  }, []);

  useEffect(() => {
    const send = (message: ToWorker) => worker.current?.postMessage(message);
    if (directory) send({ kind: 'people', directory, day });
    round.current++;
    send({ kind: 'check', round: round.current, definition });
  }, [definition, directory, day]);

  return found;
}
