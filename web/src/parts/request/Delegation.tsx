/** What a holder can do with a task besides answering it: ask about it, hand it over, set it aside; and the asker's reply. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { RequestView } from '@north-pebble/contract';
import { type CivilDate, civilDateAt, fullDate } from '@north-pebble/core/time';
import type { Command, ToWhom } from '@north-pebble/core/workflow';
import { type FormEvent, lazy, Suspense, useState } from 'react';
import { problemOf } from '../../api/client.ts';
import { fetched } from '../../api/fetched.ts';
import { PersonField } from '../form/PersonField.tsx';
import { useHere } from '../frame/session.ts';
import { FailureNote, Note } from '../Notes.tsx';
import { useUnsent } from './unsent.ts';
import { useCommand } from './Work.tsx';

// The calendar is loaded when somebody first needs a day.
const DayField = lazy(async () => ({ default: (await fetched(() => import('../form/DayField.tsx'))).DayField }));

type What = 'ask' | 'hand over' | 'set aside';

const words: Record<What, { button: string; note: string; send: string; help: string }> = {
  ask: {
    button: 'Ask',
    note: 'Your question',
    send: 'Send the question',
    help: 'The clock stands still until the reply.',
  },
  'hand over': {
    button: 'Hand over',
    note: 'Note for whoever has it then',
    send: 'Hand it over',
    help: 'The limit goes on as it is.',
  },
  'set aside': {
    button: 'Set aside',
    note: 'Note (may stay empty)',
    send: 'Set it aside',
    help: 'It is back on your desk on the morning of that day. The limit goes on.',
  },
};

function PassingForm({
  request,
  task,
  what,
  onDone,
}: {
  request: RequestView;
  task: string;
  what: What;
  onDone: () => void;
}) {
  const { self, now } = useHere();
  const [note, setNote, noteSent] = useUnsent(request, words[what].note, '');
  const [to, setTo] = useState<ToWhom | null>(null);
  const [until, setUntil] = useState('');
  const send = useCommand(request.id);
  const problem = problemOf(send.error);
  const faultOf = (field: string) => problem?.faults?.find(f => f.field === field)?.message;
  const own = { seen: request.version, task };
  const ready = what === 'ask' ? note.trim() : what === 'hand over' ? to && note.trim() : until;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!ready) return;
    const command: Command =
      what === 'ask'
        ? { kind: 'ask', ...own, question: note }
        : what === 'hand over'
          ? { kind: 'hand over', ...own, to: to as ToWhom, note }
          : { kind: 'set aside', ...own, until: until as CivilDate, to, note: note.trim() || null };
    const sent = () => {
      noteSent();
      onDone();
    };
    void send.mutateAsync(command).then(sent, () => undefined);
  };
  return (
    <Box component="form" aria-label={words[what].button} onSubmit={submit} sx={{ display: 'grid', gap: 1.5, mt: 1.5 }}>
      {what === 'set aside' && (
        <Suspense fallback={<Box sx={{ height: 40 }} />}>
          <DayField
            label="Until"
            date={until}
            autoFocus
            onDate={setUntil}
            start={civilDateAt(now, self.zone)}
            fault={faultOf('until') !== undefined}
            help={faultOf('until')}
          />
        </Suspense>
      )}
      {what !== 'ask' && (
        <PersonField
          label={what === 'hand over' ? 'To' : 'With whom meanwhile (nobody: with you)'}
          roles
          fault={faultOf('to')}
          onChange={setTo}
        />
      )}
      <TextField
        multiline
        minRows={2}
        autoFocus={what === 'ask'}
        label={words[what].note}
        value={note}
        onChange={event => setNote(event.target.value)}
      />
      {problem && !problem.faults?.length && <FailureNote fault={send.error} />}
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <Button type="submit" variant="contained" color="primary" disabled={!ready || send.isPending}>
          {words[what].send}
        </Button>
        <Button onClick={onDone}>Not now</Button>
        <Typography variant="body2" color="textSecondary">
          {words[what].help}
        </Typography>
      </Box>
    </Box>
  );
}

function Reply({ request, task }: { request: RequestView; task: string }) {
  const [reply, setReply, replySent] = useUnsent(request, 'reply', '');
  const send = useCommand(request.id);
  const question = request.tasks.find(t => t.id === task)?.question;
  if (!question) return null;
  return (
    <Box
      component="form"
      aria-label="Reply"
      sx={{ mt: 2 }}
      onSubmit={event => {
        event.preventDefault();
        if (!reply.trim()) return;
        send.mutate({ kind: 'reply', seen: request.version, task, reply }, { onSuccess: replySent });
      }}
    >
      <Note tone="waiting" title={`${request.tasks.find(t => t.id === task)?.holderName} asks you`}>
        “{question.text}”
      </Note>
      <TextField
        fullWidth
        multiline
        minRows={2}
        label="Your reply"
        value={reply}
        onChange={event => setReply(event.target.value)}
        sx={{ mb: 1 }}
      />
      {send.error && <FailureNote fault={send.error} />}
      <Button type="submit" variant="contained" color="primary" disabled={!reply.trim() || send.isPending}>
        Send the reply
      </Button>
    </Box>
  );
}

export function Delegation({ request }: { request: RequestView }) {
  const [what, setWhat] = useState<What | null>(null);
  const back = useCommand(request.id);
  const { pass, reply, bringBack } = request.may;
  const task = request.tasks.find(t => t.id === pass);
  return (
    <Box sx={{ mt: 1.5 }}>
      {task?.question && (
        <Note
          tone="waiting"
          title={`You asked ${request.owner === request.asker ? request.askerName : request.ownerName}`}
        >
          “{task.question.text}” The clock stands still until the reply.
        </Note>
      )}
      {bringBack && task && (
        <Note
          tone="now"
          title={
            task.lentBy ? 'With you for a time' : `Set aside until ${task.aside ? fullDate(task.aside.until) : 'later'}`
          }
        >
          {task.aside?.note && `“${task.aside.note}” `}
          <Button
            size="small"
            disabled={back.isPending}
            onClick={() => back.mutate({ kind: 'bring back', seen: request.version, task: bringBack })}
          >
            {task.lentBy ? 'Give it back now' : 'Bring it back now'}
          </Button>
        </Note>
      )}
      {reply && <Reply request={request} task={reply} />}
      {pass && (
        <Box>
          <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap' }}>
            {(Object.keys(words) as What[])
              .filter(key => key !== 'ask' || !task?.question)
              .map(key => (
                <Button
                  key={key}
                  size="small"
                  aria-expanded={what === key}
                  onClick={() => setWhat(what === key ? null : key)}
                >
                  {words[key].button}
                </Button>
              ))}
          </Box>
          {what && <PassingForm key={what} request={request} task={pass} what={what} onDone={() => setWhat(null)} />}
        </Box>
      )}
    </Box>
  );
}
