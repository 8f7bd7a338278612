/** What the guest asked and was answered, and a place to ask. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { GuestView } from '@north-pebble/contract';
import { momentThere } from '@north-pebble/core/time';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { FailureNote } from '../Notes.tsx';
import { ownZone } from './ownZone.ts';

type Props = { view: GuestView; token: string | null; onView: (view: GuestView) => void };

export function Questions({ view, token, onView }: Props) {
  const [text, setText] = useState('');
  const ask = useMutation({
    mutationFn: () => call('POST /guest/:token/questions', { params: { token: token ?? '' }, body: { text } }),
    onSuccess: next => {
      setText('');
      onView(next);
    },
  });
  const first = view.contact.split(' ')[0];
  const year = Number(view.now.slice(0, 4));
  return (
    <Box component="section" aria-label="Questions" sx={{ mt: 3 }}>
      <Typography variant="h2" sx={{ fontSize: 17, mb: 1 }}>
        A question?
      </Typography>
      {view.words.map(word => (
        <Box
          key={`${word.at}${word.text}`}
          sx={{ borderLeft: '3px solid', borderColor: word.mine ? 'divider' : 'primary.main', pl: 1.5, mb: 1.5 }}
        >
          <Typography variant="body2" color="textSecondary">
            {word.mine ? 'You' : word.who}, {momentThere(word.at, view.zone, ownZone(), year)}
          </Typography>
          <Typography sx={{ whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' }}>{word.text}</Typography>
        </Box>
      ))}
      {token !== null && (
        <Box
          component="form"
          noValidate
          onSubmit={event => {
            event.preventDefault();
            if (text.trim() !== '') ask.mutate();
          }}
          sx={{ display: 'grid', gap: 1 }}
        >
          <TextField
            multiline
            minRows={2}
            label={first ? `Ask ${first}` : 'Ask'}
            value={text}
            onChange={event => setText(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 2000 } }}
          />
          <FailureNote fault={ask.error} />
          <Button
            type="submit"
            disabled={ask.isPending || text.trim() === ''}
            sx={{ justifySelf: 'start', minHeight: 40 }}
          >
            Send the question
          </Button>
        </Box>
      )}
    </Box>
  );
}
