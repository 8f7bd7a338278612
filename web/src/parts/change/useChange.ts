/** A change that is previewed and then made; what was shown is of no use any more once something else is said. */
import type { HouseChange } from '@north-pebble/core/facts';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { call, commandId, problemOf } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';

/** @param change as it stands in the form; nothing while something is missing */
export function useChange(change: HouseChange | null, onDone: () => void) {
  const [reason, setReason] = useState('');
  const [id, setId] = useState(commandId);
  const preview = useMutation({
    mutationFn: ({ wanted, own }: { wanted: HouseChange; own: string }) =>
      call('POST /records/preview', { body: { change: wanted, id: own } }),
  });
  // Asked for only while one waits; most previews are there before it is asked for the first time.
  const far = useQuery({
    queryKey: ['records', 'preview', id],
    queryFn: () => call('GET /records/preview/:id', { params: { id } }),
    enabled: preview.isPending,
    refetchInterval: 500,
    staleTime: 500,
    initialData: { done: 0, all: 0 },
    initialDataUpdatedAt: Date.now,
  });
  const save = useMutation({
    mutationFn: (body: { change: HouseChange; digest: string; reason: string }) =>
      call('POST /records/changes', { body }),
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: ['records'] });
      onDone();
    },
  });
  const fault = save.error ?? preview.error;
  const faults = problemOf(fault)?.faults ?? [];
  const anew = () => {
    preview.reset();
    save.reset();
  };
  return {
    shown: preview.data,
    isBusy: preview.isPending || save.isPending,
    /** How many of all are counted, where what follows takes a while; nothing where it does not. */
    far: preview.isPending && far.data.all > 0 ? far.data : null,
    /** Whoever stops waits no longer, and is not shown what was there just before it was stopped. */
    stop: () => {
      preview.reset();
      call('DELETE /records/preview/:id', { params: { id } }).catch(() => {});
    },
    reason,
    setReason,
    mayGo: change !== null && (preview.data === undefined || reason.trim() !== ''),
    /** Shows what follows; once that is shown, makes the change. */
    send: (event: FormEvent) => {
      event.preventDefault();
      if (change && preview.data) save.mutate({ change, digest: preview.data.digest, reason });
      else if (change) {
        const own = commandId();
        setId(own);
        preview.mutate({ wanted: change, own });
      }
    },
    /** Said at its field, where a field is named. */
    faultOf: (...ends: string[]): string | undefined =>
      faults.find(one => ends.some(end => one.field === end || one.field.endsWith(`.${end}`)))?.message,
    /** What stands at no field. */
    fault: faults.length === 0 ? fault : null,
    anew,
    /** Sets part of the form; what was shown of it before holds no more. */
    put:
      <T>(set: (next: T) => void) =>
      (next: T) => {
        set(next);
        anew();
      },
  };
}
export type Changing = ReturnType<typeof useChange>;
