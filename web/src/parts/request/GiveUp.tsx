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
  command,
}: {
  request: string;
  title: string;
  /** What will happen. */
  words: string;
  button: string;
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
            label="Note (may stay empty)"
            value={note}
            onChange={event => setNote(event.target.value)}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Keep it</Button>
          <Button
            color="error"
            variant="contained"
            disabled={send.isPending}
            onClick={() => send.mutate(command(note.trim() || null), { onSuccess: () => setOpen(false) })}
          >
            {button}
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
