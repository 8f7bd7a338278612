/** A change that is previewed and then made; what was shown is of no use any more once something else is said. */
import type { PeopleChange } from '@north-pebble/core/people';
import { useMutation } from '@tanstack/react-query';
import { call, problemOf } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';

export function useChange(onDone: () => void) {
  const preview = useMutation({
    mutationFn: (change: PeopleChange) => call('POST /records/preview', { body: { change } }),
  });
  const save = useMutation({
    mutationFn: (body: { change: PeopleChange; digest: string; reason: string }) =>
      call('POST /records/changes', { body }),
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: ['records'] });
      onDone();
    },
  });
  const fault = save.error ?? preview.error;
  const faults = problemOf(fault)?.faults ?? [];
  return {
    preview,
    save,
    /** Said at its field, where a field is named. */
    faultOf: (...ends: string[]): string | undefined =>
      faults.find(one => ends.some(end => one.field === end || one.field.endsWith(`.${end}`)))?.message,
    /** What stands at no field. */
    fault: faults.length === 0 ? fault : null,
    anew: () => {
      preview.reset();
      save.reset();
    },
  };
}
