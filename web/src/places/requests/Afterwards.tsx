/** A request after its approval: changed, cancelled, or set right by an administrator. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { RequestView } from '@north-pebble/contract';
import { type Answers, sameAnswer } from '@north-pebble/core/form';
import { afterwardsOf, type Command, levelAt } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { problemOf } from '../../api/client.ts';
import { useFilesComing } from '../../parts/form/FilesInput.tsx';
import { answersOf, FormFields, type Typed } from '../../parts/form/FormFields.tsx';
import { FailureNote } from '../../parts/Notes.tsx';
import { GiveUp } from '../../parts/request/GiveUp.tsx';
import { KeepLeave } from '../../parts/request/leave/KeepLeave.tsx';
import { useUnsent } from '../../parts/request/unsent.ts';
import { useCommand } from '../../parts/request/Work.tsx';
import { PreviewMargin, usePreview } from './RequestForm.tsx';

type Kind = 'change' | 'correct';

const words: Record<Kind, { title: string; note: string; send: string }> = {
  change: { title: 'Change what was approved', note: 'Why (may stay empty)', send: 'Ask for the change' },
  correct: { title: 'Correct what was answered', note: 'Reason, for the trail', send: 'Correct it' },
};

function ChangeForm({ request, kind, onDone }: { request: RequestView; kind: Kind; onDone: () => void }) {
  const [typed, setTyped, typedSent] = useUnsent<Typed>(request, `${kind} of ${request.closedAt}`, {
    ...request.answers,
  });
  const [note, setNote, noteSent] = useUnsent(request, words[kind].note, '');
  const filesComing = useFilesComing();
  const send = useCommand(request.id);
  const answers = answersOf(request.definition, typed);
  const preview = usePreview(request.workflow, request.id, { answers });
  const problem = problemOf(send.error);
  const changed = Object.keys(answers).filter(id => !sameAnswer(answers[id] as never, request.answers[id] as never));
  const [ask] = request.definition.steps;
  const open = request.definition.form.fields
    .filter(f => !request.closed.some(c => c.field === f.id))
    .filter(f => kind === 'correct' || ['editable', 'required'].includes(levelAt(request.definition, ask.id, f)))
    .map(f => f.id);
  const leave = () => {
    typedSent();
    noteSent();
    onDone();
  };
  const decided = afterwardsOf(request.definition).change === 'decided';
  const command = (): Command =>
    kind === 'change'
      ? { kind: 'change after approval', seen: request.version, answers, note: note.trim() || null }
      : {
          kind: 'correct',
          seen: request.version,
          answers: Object.fromEntries(changed.map(id => [id, answers[id]])) as Answers,
          reason: note,
        };
  return (
    <Box
      component="section"
      aria-label={words[kind].title}
      sx={{ display: 'grid', gap: 4, gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 560px) 320px' }, mb: 4 }}
    >
      <Box
        sx={{ bgcolor: 'background.paper', border: '1px solid', borderColor: 'divider', borderRadius: '14px', p: 3 }}
      >
        <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
          {words[kind].title}
        </Typography>
        <Typography variant="body2" color="textSecondary" sx={{ mb: 2 }}>
          {kind === 'correct'
            ? 'It takes effect at once; what was booked follows, and the trail keeps what it was.'
            : decided
              ? 'It is decided again. Until then what was approved stands, and only the difference is booked.'
              : 'It is booked at once; only the difference counts.'}
        </Typography>
        <FormFields
          definition={request.definition}
          house={request}
          typed={typed}
          open={open}
          faults={problem?.faults ?? (kind === 'change' ? (preview.data?.faults ?? []) : [])}
          refusal={send.error}
          onChange={next => {
            setTyped(next);
            send.reset();
          }}
        />
        <TextField
          fullWidth
          label={words[kind].note}
          value={note}
          onChange={event => setNote(event.target.value)}
          sx={{ my: 1.5 }}
        />
        {problem && !problem.faults?.some(f => f.field) && <FailureNote fault={send.error} />}
        <Box sx={{ display: 'flex', gap: 1 }}>
          <Button
            variant="contained"
            color="primary"
            disabled={send.isPending || filesComing || changed.length === 0 || (kind === 'correct' && !note.trim())}
            onClick={() => void send.mutateAsync(command()).then(leave, () => undefined)}
          >
            {words[kind].send}
          </Button>
          <Button onClick={leave}>Leave it as it is</Button>
        </Box>
      </Box>
      <Box component="aside" aria-live="polite">
        {kind === 'change' && <PreviewMargin preview={preview.data} definition={request.definition} />}
      </Box>
    </Box>
  );
}

/** The buttons, and the form that one of them opens. */
export function useAfterwards(request: RequestView) {
  const [kind, setKind] = useState<Kind | null>(null);
  const { change, cancel, correct } = request.may;
  return {
    actions: (
      <>
        {change && <Button onClick={() => setKind('change')}>Change it</Button>}
        {cancel && (
          <GiveUp
            request={request.id}
            title={`Cancel ${request.title}?`}
            words={
              afterwardsOf(request.definition).cancel === 'decided'
                ? 'Whoever approved it decides. Until then it stays booked.'
                : 'What is booked is given back at once, and whoever approved it is told.'
            }
            button="Cancel it"
            command={note => ({ kind: 'cancel after approval', seen: request.version, note })}
          />
        )}
        <KeepLeave request={request} />
        {correct && <Button onClick={() => setKind('correct')}>Correct it</Button>}
      </>
    ),
    form: kind && <ChangeForm key={kind} request={request} kind={kind} onDone={() => setKind(null)} />,
  };
}
