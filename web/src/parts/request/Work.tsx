/** What a doer or an asker does at a step: take it, tick its list, fill in its fields, say that it is done or could not be. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { RequestView } from '@north-pebble/contract';
import { type Command, isHandedIn, levelAt, ownFields, type StepOf, stepById } from '@north-pebble/core/workflow';
import { useMutation } from '@tanstack/react-query';
import { useContext, useState } from 'react';
import { call, commandId, problemOf } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';
import { useFilesComing } from '../form/FilesInput.tsx';
import { answersOf, FormFields, type Typed } from '../form/FormFields.tsx';
import { FailureNote } from '../Notes.tsx';
import { Finished } from './finished.ts';
import { useUnsent } from './unsent.ts';

/** After these it goes on waiting for whoever gave them. */
const staying: readonly Command['kind'][] = ['ask', 'set aside', 'bring back', 'take', 'comment'];

export function useCommand(request: string) {
  const finished = useContext(Finished);
  return useMutation({
    mutationFn: (command: Command) =>
      call('POST /requests/:id/commands', { params: { id: request }, body: { id: commandId(), command } }),
    onSuccess: (_, { kind }) => {
      if (!staying.includes(kind)) finished(request);
      return queryClient.invalidateQueries();
    },
  });
}

/**
 * The fields that a step leaves to its holder, with what is in them now. What is typed is kept for the task, and only what was
 * typed: when the request comes round to the same step again, or others change a field meanwhile, nothing old is put over it.
 */
export function useOwnFields(
  request: Pick<RequestView, 'id' | 'unsent' | 'definition' | 'answers'>,
  step: string | undefined,
  task: string | undefined,
) {
  const own = step ? ownFields(request.definition, step) : [];
  const before: Typed = Object.fromEntries(own.map(f => [f.id, request.answers[f.id]]));
  const [changed, setChanged, sent] = useUnsent<Typed>(request, `fields of ${task}`, {});
  const typed: Typed = { ...before, ...changed };
  const setTyped = (next: Typed) =>
    setChanged(Object.fromEntries(Object.entries(next).filter(([id, value]) => id in changed || value !== before[id])));
  const all = answersOf(request.definition, typed);
  // What was emptied is sent as nothing, or it would stay as it was.
  const answers = Object.fromEntries(own.map(f => [f.id, all[f.id] ?? null]));
  return { own, typed, setTyped, answers, sent };
}

export function OwnFields({
  request,
  step,
  fields,
  faults,
  refusal,
}: {
  request: RequestView;
  step: string;
  fields: ReturnType<typeof useOwnFields>;
  faults: readonly { field: string; message: string }[];
  refusal?: unknown;
}) {
  const [isOpen, setIsOpen] = useState(false);
  if (fields.own.length === 0) return null;
  // Leave is granted as it was asked for, as a rule: what would make other leave of it comes when it is wanted.
  const isLeave = fields.own.every(
    field => field.kind === 'leave span' || (field.kind === 'choice' && field.options === 'leave types'),
  );
  const isAsAsked = Object.entries(fields.typed).every(
    ([id, typed]) => JSON.stringify(typed) === JSON.stringify(request.answers[id]),
  );
  if (isLeave && !isOpen && isAsAsked && faults.length === 0)
    return (
      <Button size="small" onClick={() => setIsOpen(true)} sx={{ mt: 1.5 }}>
        Grant it otherwise
      </Button>
    );
  return (
    <Box sx={{ mt: 2 }}>
      <FormFields
        definition={request.definition}
        house={request}
        typed={{ ...request.answers, ...fields.typed }}
        onChange={(next, field) => fields.setTyped({ ...fields.typed, [field]: next[field] })}
        faults={faults}
        refusal={refusal}
        shown={fields.own.map(f => ({ id: f.id, level: levelAt(request.definition, step, f) }))}
      />
    </Box>
  );
}

function Task({ request, step, task }: { request: RequestView; step: StepOf<'Do'>; task: string }) {
  const [ticked, setTicked, ticksSent] = useUnsent<string[]>(request, `ticks of ${task}`, []);
  const [note, setNote, noteSent] = useUnsent(request, `note of ${task}`, '');
  const fields = useOwnFields(request, step.id, task);
  const send = useCommand(request.id);
  // What was typed is given up once it is sent, also where the task has left the page by then.
  const give = (command: Command) => void send.mutateAsync(command).then(sent, () => undefined);
  const sent = () => {
    ticksSent();
    noteSent();
    fields.sent();
  };
  const filesComing = useFilesComing();
  const problem = problemOf(send.error);
  const open = (step.checklist ?? []).filter(item => !ticked.includes(item.id));
  return (
    <Box component="section" aria-label="To be done" sx={{ mt: 2 }}>
      <Typography variant="h3" component="h2">
        {step.task}
      </Typography>
      {(step.checklist ?? []).map(item => (
        <Box key={item.id}>
          <FormControlLabel
            control={
              <Checkbox
                checked={ticked.includes(item.id)}
                onChange={(_, on) => setTicked(on ? [...ticked, item.id] : ticked.filter(t => t !== item.id))}
              />
            }
            label={item.label}
          />
        </Box>
      ))}
      <OwnFields request={request} step={step.id} fields={fields} faults={problem?.faults ?? []} refusal={send.error} />
      <TextField
        fullWidth
        multiline
        label={step.couldNot ? 'Note, needed if it could not be done' : 'Note'}
        value={note}
        onChange={event => setNote(event.target.value)}
        sx={{ mt: 1.5 }}
      />
      {problem && <FailureNote fault={send.error} />}
      <Box sx={{ display: 'flex', gap: 1, mt: 1.5, flexWrap: 'wrap' }}>
        <Button
          variant="contained"
          color="success"
          disabled={send.isPending || filesComing || open.length > 0}
          onClick={() =>
            give({
              kind: 'complete',
              seen: request.version,
              task,
              ticked,
              answers: fields.answers,
              note: note.trim() || null,
            })
          }
        >
          {open.length > 0 ? `Done (${open.length} still open)` : 'Done'}
        </Button>
        {step.couldNot && (
          <Button
            variant="outlined"
            color="error"
            disabled={send.isPending}
            onClick={() => give({ kind: 'could not', seen: request.version, task, note: note.trim() || null })}
          >
            Could not
          </Button>
        )}
        {step.pool && (
          <Button
            disabled={send.isPending}
            onClick={() => send.mutate({ kind: 'put back', seen: request.version, task })}
          >
            Put it back
          </Button>
        )}
      </Box>
    </Box>
  );
}

function HandIn({ request, step }: { request: RequestView; step: string }) {
  const found = stepById(request.definition, step);
  const until = found?.verb === 'Hold' ? found.until : undefined;
  const isBack = until?.kind === 'last day';
  const field = until && isHandedIn(until) ? until.field : '';
  const [typed, setTyped] = useState<Typed>({});
  const send = useCommand(request.id);
  const filesComing = useFilesComing();
  const answers = answersOf(request.definition, typed);
  const problem = problemOf(send.error);
  return (
    <Box component="section" aria-label={isBack ? 'When you are back' : 'Still needed'} sx={{ mt: 2 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        {isBack ? 'Back, or known when?' : 'It waits for this'}
      </Typography>
      <FormFields
        definition={request.definition}
        house={request}
        typed={{ ...request.answers, ...typed }}
        onChange={(next, id) => setTyped({ [id]: next[id] })}
        faults={problem?.faults ?? []}
        refusal={send.error}
        shown={[{ id: field, level: 'required' }]}
      />
      <Button
        variant="contained"
        color="primary"
        disabled={send.isPending || filesComing || !(field in answers)}
        onClick={() =>
          send.mutate({ kind: 'hand in', seen: request.version, step, answers: { [field]: answers[field] } })
        }
      >
        {isBack ? 'Say the last day' : 'Hand it in'}
      </Button>
    </Box>
  );
}

/** Whatever the reader can do at the step where a request stands, besides deciding. */
export function Work({ request }: { request: RequestView }) {
  const send = useCommand(request.id);
  const { work, handIn } = request.may;
  const task = request.tasks.find(t => t.id === work?.task);
  const step = task && stepById(request.definition, task.step);
  return (
    <>
      {work?.free && step?.verb === 'Do' && (
        <Box sx={{ mt: 2 }}>
          <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
            {step.task}
          </Typography>
          {send.error && <FailureNote fault={send.error} />}
          <Button
            variant="contained"
            color="primary"
            disabled={send.isPending}
            onClick={() => send.mutate({ kind: 'take', seen: request.version, task: work.task })}
          >
            Take it
          </Button>
        </Box>
      )}
      {work && !work.free && step?.verb === 'Do' && (
        <Task key={work.task} request={request} step={step} task={work.task} />
      )}
      {handIn.map(one => (
        <HandIn key={one} request={request} step={one} />
      ))}
    </>
  );
}
