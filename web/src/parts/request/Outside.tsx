/** What systems outside were asked for and have not done: how it stands, and what HR operations can do about it. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { OutsideView, RequestView } from '@north-pebble/contract';
import { useState } from 'react';
import { FailureNote, Note } from '../Notes.tsx';
import { useCommand } from './Work.tsx';

const titles: Record<OutsideView['state'], string> = {
  'on its way': 'Asked for, not done yet',
  refused: 'It was refused',
  'given up': 'It was given up',
};
const tones = { 'on its way': 'waiting', refused: 'stop', 'given up': 'waiting' } as const;

function One({ request, one }: { request: RequestView; one: OutsideView }) {
  const [note, setNote] = useState('');
  const send = useCommand(request.id);
  const { key } = one;
  const helps = request.may.helpOutside && key !== null && one.state !== 'given up';
  return (
    <Note tone={tones[one.state]} title={titles[one.state]}>
      Step {one.number}, {one.what}
      {one.reason ? `: ${one.reason}.` : '.'}
      {helps && (
        <Box sx={{ display: 'grid', gap: 1, mt: 1 }}>
          <TextField
            size="small"
            label="Note: who did it, or why it is not needed"
            value={note}
            onChange={event => setNote(event.target.value)}
          />
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
            {one.state === 'refused' && (
              <Button
                size="small"
                disabled={send.isPending}
                onClick={() => send.mutate({ kind: 'ask again', seen: request.version, key })}
              >
                Ask again
              </Button>
            )}
            {(['done by hand', 'go on without'] as const).map(kind => (
              <Button
                key={kind}
                size="small"
                disabled={send.isPending || note.trim() === ''}
                onClick={() => send.mutate({ kind, seen: request.version, key, note: note.trim() })}
              >
                {kind === 'done by hand' ? 'It is done by hand' : 'Go on without it'}
              </Button>
            ))}
          </Box>
          <FailureNote fault={send.error} />
        </Box>
      )}
    </Note>
  );
}

export function Outside({ request }: { request: RequestView }) {
  if (request.outside.length === 0) return null;
  return (
    <Box component="section" aria-label="Asked of systems outside" sx={{ mt: 2.5 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        Asked of systems outside
      </Typography>
      {request.outside.map(one => (
        <One key={one.key ?? one.number} request={request} one={one} />
      ))}
    </Box>
  );
}
