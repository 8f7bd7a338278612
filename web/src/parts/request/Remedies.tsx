/** What helps a stuck request on: trying again once its cause is mended, or naming somebody for a step that finds nobody. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
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
  const [reason, setReason] = useState('');
  const { appoint, tryAgain, decidePast } = request.may;
  if (!appoint && !tryAgain && !decidePast) return null;
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
      {decidePast && (
        <>
          <TextField
            label="Reason"
            value={reason}
            onChange={event => {
              setReason(event.target.value);
              send.reset();
            }}
            helperText="It stands on the trail, and they are told."
            autoComplete="off"
          />
          <Box sx={{ display: 'flex', gap: 1 }}>
            {(['book past', 'let end'] as const).map(kind => (
              <Button
                key={kind}
                variant={kind === 'book past' ? 'contained' : 'text'}
                disabled={send.isPending || reason.trim() === ''}
                onClick={() => send.mutate({ kind, seen: request.version, reason: reason.trim() })}
              >
                {kind === 'book past' ? 'Book it' : 'Let it end'}
              </Button>
            ))}
          </Box>
        </>
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
