/** What HR does with leave: books it for somebody, changes its dates, takes it back; each with a reason, also afterwards. */
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { LeaveTypeChoice, RequestView } from '@north-pebble/contract';
import { spanWords } from '@north-pebble/core/form';
import { type HalfSpan, isOpen, isTimed, type LeaveSpan, leftOfLeave } from '@north-pebble/core/leave';
import type { PersonId } from '@north-pebble/core/people';
import { amountOfUnit, rangeWords } from '@north-pebble/core/time';
import type { Command } from '@north-pebble/core/workflow';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { call, commandId, problemOf } from '../../../api/client.ts';
import { passesQuery, queryClient } from '../../../api/queries.ts';
import { DayField } from '../../form/DayField.tsx';
import { asTyped, isWholeSpan, SpanField, type SpanTyped } from '../../form/SpanField.tsx';
import { useYear } from '../../frame/session.ts';
import { FailureNote, Note } from '../../Notes.tsx';
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
            color="primary"
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
        <SpanField label={field.label} value={span} onChange={setSpan} times openEnd fault={spanFault(send.error)} />
      </KeepDialog>
      <CallBack request={request} {...shared} onSend={give} />
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

type Sending = {
  request: RequestView;
  pending: boolean;
  fault: unknown;
  onSend: (command: Command, done: () => void) => void;
};

/** Calling somebody back to work for some days of their leave; for leave by whole and half days with a last day. */
function CallBack({ request, pending, fault, onSend }: Sending) {
  const year = useYear();
  const [days, setDays] = useState<SpanTyped>(asTyped(null));
  const { fields } = request.definition.form;
  const field = fields.find(f => f.kind === 'leave span');
  const typeField = fields.find(f => f.kind === 'choice' && f.options === 'leave types');
  const leave = field && (request.answers[field.id] as LeaveSpan | null);
  const isByHalves = leave && !isTimed(leave) && !isOpen(leave);
  const whole = isWholeSpan(days) ? (days as LeaveSpan) : null;
  const left = whole && isByHalves && !isTimed(whole) ? leftOfLeave(leave, whole) : undefined;
  const rests = [left?.before, left?.after].flatMap(span => (span ? [span] : []));
  const type = typeField && (request.answers[typeField.id] as string | null);
  // What of it is leave hangs on what is scheduled then, which is known where it is worked out.
  const tried = useQuery({
    queryKey: ['leave', 'rests', request.subject, type, rests],
    queryFn: () =>
      call('POST /balances/:person/try', {
        params: { person: request.subject },
        body: { type: type ?? '', spans: rests },
      }),
    enabled: rests.length > 0 && Boolean(type),
  });
  if (!isByHalves) return null;
  const stays = (tried.data ?? []).flatMap(({ amount, unit }, n) =>
    amount ? [`${spanWords(rests[n] as HalfSpan, year)}, ${amountOfUnit(amount, unit)}`] : [],
  );
  return (
    <KeepDialog
      button="Call back"
      title={`Call ${request.subjectName} back from ${request.title}`}
      words={`Say on which days of it ${request.subjectName} works: those are no leave any more. What is left after them becomes a request of its own. ${request.subjectName} is told why.`}
      ready={whole !== null}
      pending={pending}
      fault={fault}
      isPlaced={spanFault(fault) !== undefined}
      onSend={(reason, done) =>
        onSend({ kind: 'call back', seen: request.version, days: whole as HalfSpan, reason }, done)
      }
    >
      <SpanField label="Days of work" value={days} onChange={setDays} fault={spanFault(fault)} />
      {stays.length > 0 && (
        <Typography variant="body2" role="status">
          {`Leave stays: ${stays.join('; and ')}.`}
        </Typography>
      )}
    </KeepDialog>
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
      <SpanField label="Dates" value={span} onChange={setSpan} times openEnd fault={spanFault(book.error)} />
    </KeepDialog>
  );
}

/** Lets leave of somebody pass that a rule of its type would stop: they ask for it themselves then. */
export function LetPass({ person, name, types }: { person: PersonId; name: string; types: LeaveTypeChoice[] }) {
  const [type, setType] = useState(types[0]?.id ?? '');
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const pass = useMutation({
    mutationFn: (reason: string) => call('POST /leave/passes', { body: { person, type, from, to, reason } as never }),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['leave', 'passes', person] }),
  });
  return (
    <KeepDialog
      button="Let leave pass"
      title={`Let leave of ${name} pass`}
      words={`In these days no rule of the leave type stops ${name}, who asks as ever. Who let it pass and why stands on the request.`}
      ready={from !== '' && to !== ''}
      pending={pass.isPending}
      fault={pass.error}
      onSend={(reason, done) => pass.mutate(reason, { onSuccess: done })}
    >
      <TextField select label="Kind of leave" value={type} onChange={event => setType(event.target.value)}>
        {types.map(one => (
          <MenuItem key={one.id} value={one.id}>
            {one.name}
          </MenuItem>
        ))}
      </TextField>
      <DayField label="First day" date={from} onDate={setFrom} />
      <DayField label="Last day" date={to} onDate={setTo} />
    </KeepDialog>
  );
}

/** What HR lets pass for somebody, with taking it back. */
export function Passes({ person, types, may }: { person: PersonId; types: LeaveTypeChoice[]; may: boolean }) {
  const year = useYear();
  const found = useQuery(passesQuery(person));
  const back = useMutation({
    mutationFn: (id: number) => call('DELETE /leave/passes/:id', { params: { id } }),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['leave', 'passes', person] }),
  });
  return (found.data ?? []).map(({ id, type, from, to, by, reason }) => (
    <Note
      key={id}
      tone="now"
      title={`${types.find(one => one.id === type)?.name ?? type} ${rangeWords(from, to, year)} may pass`}
    >
      {by}: {reason}{' '}
      {may && (
        <Link component="button" type="button" onClick={() => back.mutate(id)}>
          Take it back
        </Link>
      )}
      <FailureNote fault={back.error} />
    </Note>
  ));
}
