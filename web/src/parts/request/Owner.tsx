/** Who looks after a request is somebody else from now on: a dialog that asks whom, and why. */
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { RequestView } from '@north-pebble/contract';
import type { ToWhom } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { problemOf } from '../../api/client.ts';
import { PersonField } from '../form/PersonField.tsx';
import { FailureNote } from '../Notes.tsx';
import { useCommand } from './Work.tsx';

export function ChangeOwner({ request }: { request: RequestView }) {
  const [open, setOpen] = useState(false);
  const [to, setTo] = useState<ToWhom | null>(null);
  const [note, setNote] = useState('');
  const send = useCommand(request.id);
  const problem = problemOf(send.error);
  const fault = problem?.faults?.find(one => one.field === 'to')?.message;
  if (!request.may.changeOwner) return null;
  const person = to && 'person' in to ? to.person : null;
  const close = () => {
    setOpen(false);
    send.reset();
  };
  return (
    <>
      <Button onClick={() => setOpen(true)}>Change owner</Button>
      <Dialog open={open} onClose={close} fullWidth maxWidth="xs">
        <DialogTitle>Change the owner of {request.id}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2 }}>
          <Typography variant="body2">
            {request.ownerName} owns it now. The owner answers questions about it and may change or withdraw it. Both
            are told.
          </Typography>
          {send.error && fault === undefined && <FailureNote fault={send.error} />}
          <PersonField
            label="New owner"
            fault={fault}
            onChange={next => {
              setTo(next);
              send.reset();
            }}
          />
          <TextField
            multiline
            minRows={2}
            label="Note (optional)"
            value={note}
            onChange={event => setNote(event.target.value)}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={close}>Cancel</Button>
          <Button
            variant="contained"
            color="primary"
            disabled={!person || send.isPending}
            onClick={() => {
              if (person)
                send.mutate(
                  { kind: 'change owner', seen: request.version, to: person, note: note.trim() || null },
                  { onSuccess: close },
                );
            }}
          >
            Change owner
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
