/** What whoever asked from outside has on their page besides: its number, what they are asked, and that they may withdraw. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { GuestView } from '@north-pebble/contract';
import { momentThere } from '@north-pebble/core/time';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { FailureNote, Note } from '../Notes.tsx';
import { ownZone } from './ownZone.ts';

type Own = NonNullable<GuestView['own']>;
type Props = { view: GuestView; own: Own; token: string | null; onView: (view: GuestView) => void };

function Asked({ ask, view, token, onView }: Omit<Props, 'own'> & { ask: Own['asks'][number] }) {
  const [text, setText] = useState('');
  const reply = useMutation({
    mutationFn: () =>
      call('POST /guest/:token/replies', { params: { token: token ?? '' }, body: { task: ask.task, text } }),
    onSuccess: onView,
  });
  return (
    <Box
      component="form"
      noValidate
      aria-label={`A question of ${ask.who}`}
      onSubmit={event => {
        event.preventDefault();
        if (text.trim() !== '') reply.mutate();
      }}
      sx={{ display: 'grid', gap: 1, mt: 2 }}
    >
      <Note
        tone="now"
        title={`${ask.who} asks you, ${momentThere(ask.at, view.zone, ownZone(), Number(view.now.slice(0, 4)))}`}
      >
        <Box component="span" sx={{ whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' }}>
          {ask.text}
        </Box>
      </Note>
      <TextField
        multiline
        minRows={2}
        label="Your reply"
        value={text}
        disabled={token === null}
        onChange={event => setText(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
      />
      <FailureNote fault={reply.error} />
      <Button
        type="submit"
        variant="contained"
        color="primary"
        disabled={token === null || reply.isPending || text.trim() === ''}
        sx={{ justifySelf: 'start', minHeight: 44 }}
      >
        Send the reply
      </Button>
    </Box>
  );
}

export function Asks({ view, own, token, onView }: Props) {
  return own.asks.map(ask => (
    <Asked key={`${ask.task}${ask.at}`} ask={ask} view={view} token={token} onView={onView} />
  ));
}

export function Withdrawing({ view, own, token, onView }: Props) {
  const [asked, setAsked] = useState(false);
  const withdraw = useMutation({
    mutationFn: () => call('POST /guest/:token/withdrawal', { params: { token: token ?? '' } }),
    onSuccess: onView,
  });
  return (
    <Box
      component="section"
      aria-label="Withdraw"
      sx={{ mt: 4, pt: 1.5, borderTop: '1px solid', borderColor: 'divider' }}
    >
      {asked ? (
        <>
          <Typography variant="body2">
            {view.about} {own.number} ends then, and nobody works on it any more. It cannot be taken up again.
          </Typography>
          <FailureNote fault={withdraw.error} />
          <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
            <Button variant="contained" color="error" disabled={withdraw.isPending} onClick={() => withdraw.mutate()}>
              Yes, withdraw it
            </Button>
            <Button onClick={() => setAsked(false)}>Keep it</Button>
          </Box>
        </>
      ) : (
        <Button size="small" disabled={token === null} onClick={() => setAsked(true)}>
          Withdraw {own.number}
        </Button>
      )}
    </Box>
  );
}
