/** What helps a stuck request on: trying again once its cause is mended, or naming somebody for a step that finds nobody. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { RequestView } from '@north-pebble/contract';
import { stepNumber, type ToWhom } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { problemOf } from '../../api/client.ts';
import { PersonField } from '../form/PersonField.tsx';
import { FailureNote } from '../Notes.tsx';
import { useCommand } from './Work.tsx';

export function Remedies({ request }: { request: RequestView }) {
  const [to, setTo] = useState<ToWhom | null>(null);
  const send = useCommand(request.id);
  const problem = problemOf(send.error);
  const { appoint, tryAgain } = request.may;
  if (!appoint && !tryAgain) return null;
  const person = to && 'person' in to ? to.person : null;
  return (
    <Box sx={{ display: 'grid', gap: 1.5, mt: 2 }}>
      {problem && !problem.faults?.some(f => f.field === 'to') && <FailureNote fault={send.error} />}
      {appoint && (
        <Box sx={{ display: 'grid', gap: 1, gridTemplateColumns: '1fr auto', alignItems: 'start' }}>
          <PersonField
            label={`Who does step ${stepNumber(request.definition, appoint)}`}
            fault={problem?.faults?.find(f => f.field === 'to')?.message}
            onChange={next => {
              setTo(next);
              send.reset();
            }}
          />
          <Button
            variant="contained"
            color="primary"
            disabled={!person || send.isPending}
            onClick={() => {
              if (person) send.mutate({ kind: 'appoint', seen: request.version, step: appoint, to: person });
            }}
            sx={{ mt: 0.25 }}
          >
            Assign it to them
          </Button>
        </Box>
      )}
      {tryAgain && (
        <Box>
          <Button disabled={send.isPending} onClick={() => send.mutate({ kind: 'try again', seen: request.version })}>
            Try again
          </Button>
        </Box>
      )}
    </Box>
  );
}
