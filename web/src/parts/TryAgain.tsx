/** Lets a stuck request try again, once its cause is mended. */

import Button from '@mui/material/Button';
import type { RequestView } from '@north-pebble/contract';
import { useMutation } from '@tanstack/react-query';
import { call, commandId } from '../api/client.ts';
import { queryClient } from '../api/queries.ts';
import { FailureNote } from './Notes.tsx';

export function TryAgain({ request }: { request: RequestView }) {
  const again = useMutation({
    mutationFn: () =>
      call(`/requests/${request.id}/commands`, {
        method: 'POST',
        body: { id: commandId(), command: { kind: 'try again', seen: request.version } },
      }),
    onSettled: () => queryClient.invalidateQueries(),
  });
  return (
    <>
      {again.error && <FailureNote fault={again.error} />}
      <Button onClick={() => again.mutate()} disabled={again.isPending} sx={{ mt: 2 }}>
        Try again
      </Button>
    </>
  );
}
