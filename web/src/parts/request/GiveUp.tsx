/** Giving something up for good, with a note: a dialog that says first what will happen. */
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { Command } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { FailureNote } from '../Notes.tsx';
import { useCommand } from './Work.tsx';

export function GiveUp({
  request,
  title,
  words,
  button,
  needsNote = false,
  command,
}: {
  request: string;
  title: string;
  /** What will happen. */
  words: string;
  button: string;
  /** Nothing happens without one. */
  needsNote?: boolean;
  command: (note: string | null) => Command;
}) {
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState('');
  const send = useCommand(request);
  return (
    <>
      <Button onClick={() => setOpen(true)}>{button}</Button>
      <Dialog open={open} onClose={() => setOpen(false)} fullWidth maxWidth="xs">
        <DialogTitle>{title}</DialogTitle>
        <DialogContent>
          <Typography variant="body2" sx={{ mb: 2 }}>
            {words}
          </Typography>
          {send.error && <FailureNote fault={send.error} />}
          <TextField
            fullWidth
            label={needsNote ? 'Reason' : 'Note (optional)'}
            required={needsNote}
            helperText={needsNote ? 'Whoever asked reads it.' : undefined}
            value={note}
            onChange={event => setNote(event.target.value)}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Cancel</Button>
          <Button
            color="error"
            variant="contained"
            disabled={send.isPending || (needsNote && note.trim() === '')}
            onClick={() => send.mutate(command(note.trim() || null), { onSuccess: () => setOpen(false) })}
          >
            {button}
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
