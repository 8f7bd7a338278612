/** What HR does with leave: books it for somebody, changes its dates, takes it back; each with a reason, also afterwards. */
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { LeaveTypeChoice, RequestView } from '@north-pebble/contract';
import type { LeaveSpan } from '@north-pebble/core/leave';
import type { PersonId } from '@north-pebble/core/people';
import type { Command } from '@north-pebble/core/workflow';
import { useMutation } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { call, commandId, problemOf } from '../../../api/client.ts';
import { queryClient } from '../../../api/queries.ts';
import { asTyped, isWholeSpan, SpanField, type SpanTyped } from '../../form/SpanField.tsx';
import { FailureNote } from '../../Notes.tsx';
import { useCommand } from '../Work.tsx';

type Keeping = {
  button: string;
  title: string;
  words: string;
  ready: boolean;
  pending: boolean;
  fault: unknown;
  /** Whether the fault stands at a field already. */
  isPlaced?: boolean;
  onSend: (reason: string, done: () => void) => void;
  children?: ReactNode;
};

function KeepDialog({ button, title, words, ready, pending, fault, isPlaced = false, onSend, children }: Keeping) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState('');
  const close = () => setOpen(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>{button}</Button>
      <Dialog open={open} onClose={close} fullWidth maxWidth="sm">
        <DialogTitle>{title}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2 }}>
          <Typography variant="body2">{words}</Typography>
          {children}
          <TextField
            label="Reason, for the trail and the statement"
            value={reason}
            required
            multiline
            onChange={event => setReason(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 1000 } }}
          />
          {fault !== null && fault !== undefined && !isPlaced && <FailureNote fault={fault} />}
        </DialogContent>
        <DialogActions>
          <Button onClick={close}>Leave it as it is</Button>
          <Button
            variant="contained"
            disabled={!ready || !reason.trim() || pending}
            onClick={() => onSend(reason.trim(), close)}
          >
            {button}
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}

/** The fault of the dates, where the dates are what is wrong. */
function spanFault(fault: unknown): string | undefined {
  const found = problemOf(fault)?.faults?.[0];
  return found && found.field !== 'type' ? found.message : undefined;
}

/** Changing the dates of booked leave, and voiding it. */
export function KeepLeave({ request }: { request: RequestView }) {
  const field = request.definition.form.fields.find(f => f.kind === 'leave span');
  const [span, setSpan] = useState<SpanTyped>(asTyped(field && request.answers[field.id]));
  const send = useCommand(request.id);
  const give = (command: Command, done: () => void) => send.mutate(command, { onSuccess: done });
  if (!request.may.keepLeave || !field) return null;
  const shared = { pending: send.isPending, fault: send.error };
  return (
    <>
      <KeepDialog
        {...shared}
        button="Change the dates"
        title={`Change ${request.title}`}
        words={`It takes effect at once, also for days that have passed. ${request.subjectName} is told why.`}
        ready={isWholeSpan(span)}
        isPlaced={spanFault(send.error) !== undefined}
        onSend={(reason, done) =>
          give({ kind: 'change leave', seen: request.version, span: span as LeaveSpan, reason }, done)
        }
      >
        <SpanField label={field.label} value={span} onChange={setSpan} times fault={spanFault(send.error)} />
      </KeepDialog>
      <KeepDialog
        {...shared}
        button="Void the leave"
        title={`Void ${request.title}?`}
        words={`Its days are free again, also those that have passed. ${request.subjectName} is told why. It stays on the trail.`}
        ready
        onSend={(reason, done) => give({ kind: 'void leave', seen: request.version, reason }, done)}
      />
    </>
  );
}

/** Booking leave for somebody, without anybody deciding. */
export function BookLeave({ person, name, types }: { person: PersonId; name: string; types: LeaveTypeChoice[] }) {
  const [type, setType] = useState(types[0]?.id ?? '');
  const [span, setSpan] = useState<SpanTyped>(asTyped(null));
  const book = useMutation({
    mutationFn: (reason: string) => call('POST /leave', { body: { id: commandId(), person, type, span, reason } }),
    onSuccess: () => queryClient.invalidateQueries(),
  });
  return (
    <KeepDialog
      button="Book leave"
      title={`Book leave for ${name}`}
      words={`It is booked at once, without a decision, also for days that have passed. ${name} is told why.`}
      ready={isWholeSpan(span)}
      pending={book.isPending}
      fault={book.error}
      isPlaced={spanFault(book.error) !== undefined}
      onSend={(reason, done) =>
        book.mutate(reason, {
          onSuccess: () => {
            setSpan(asTyped(null));
            done();
          },
        })
      }
    >
      <TextField select label="Kind of leave" value={type} onChange={event => setType(event.target.value)}>
        {types.map(one => (
          <MenuItem key={one.id} value={one.id}>
            {one.name}
          </MenuItem>
        ))}
      </TextField>
      <SpanField label="Dates" value={span} onChange={setSpan} times fault={spanFault(book.error)} />
    </KeepDialog>
  );
}
