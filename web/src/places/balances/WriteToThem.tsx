/** Writing to those who are found what they have left: looked at before it is sent, and sent once. */
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { StandingsView } from '@north-pebble/contract';
import { leftWords, type StandingFilter } from '@north-pebble/core/leave';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { call, commandId } from '../../api/client.ts';
import { useYear } from '../../parts/frame/session.ts';
import { FailureNote } from '../../parts/Notes.tsx';

type Props = { view: StandingsView; rows: StandingsView['rows']; find: StandingFilter };

export function WriteToThem({ view, rows, find }: Props) {
  const year = useYear();
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState('');
  const [sent, setSent] = useState<number | null>(null);
  // One id for these letters: pressing twice sends them once.
  const id = useRef(commandId());
  const send = useMutation({
    mutationFn: () =>
      call('POST /leave/letters', {
        body: { ...find, id: id.current, type: view.type, people: rows.length, note } as never,
      }),
    onSuccess: ({ letters }) => {
      setSent(letters);
      setOpen(false);
      setNote('');
      id.current = commandId();
    },
  });
  const [first] = rows;
  const type = view.types.find(one => one.id === view.type)?.name.toLowerCase() ?? 'leave';
  const people = rows.length === 1 ? 'one person' : `${rows.length.toLocaleString('en-GB')} people`;
  return (
    <>
      {sent !== null && (
        <Typography variant="body2" role="status" color="textSecondary">
          {sent === 1 ? 'One letter is' : `${sent.toLocaleString('en-GB')} letters are`} on the way.
        </Typography>
      )}
      <Button size="small" disabled={rows.length === 0} onClick={() => setOpen(true)}>
        Write to them
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} fullWidth maxWidth="sm">
        <DialogTitle>Write to {people}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2 }}>
          {first && (
            <Typography variant="body2">
              Each of them gets a letter with their own figures, as this one to {first.name}:
            </Typography>
          )}
          {first && (
            <Typography variant="body2" component="blockquote" sx={{ whiteSpace: 'pre-line', m: 0, pl: 2 }}>
              {leftWords(first, type, note.trim(), year)}
            </Typography>
          )}
          <TextField
            label="What you want to say besides (may stay empty)"
            value={note}
            multiline
            minRows={3}
            onChange={event => setNote(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 2000 } }}
          />
          <FailureNote fault={send.error} />
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Leave it</Button>
          <Button
            variant="contained"
            color="primary"
            disabled={send.isPending || rows.length === 0}
            onClick={() => send.mutate()}
          >
            Send {rows.length === 1 ? 'one letter' : `${rows.length.toLocaleString('en-GB')} letters`}
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
