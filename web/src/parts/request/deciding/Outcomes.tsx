/** The outcomes of a decision with their keys, the note for the asker, and the fields that whoever decides fills in. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { RequestView } from '@north-pebble/contract';
import { type Answers, type FieldFault, isEmptyAnswer } from '@north-pebble/core/form';
import { fieldById, type Outcome, stepById } from '@north-pebble/core/workflow';
import { useEffect, useRef, useState } from 'react';
import { Key } from '../../Key.tsx';
import { isTyping } from '../../typing.ts';
import { OwnFields, useOwnFields } from '../Work.tsx';
import { answeredWords, type Decision } from './pending.ts';

const toneColour = { good: 'success', rework: 'secondary', bad: 'error' } as const;

export function Outcomes({
  request,
  note,
  setNote,
  onDecide,
}: {
  request: RequestView;
  note: string;
  setNote: (note: string) => void;
  onDecide: (decision: Omit<Decision, 'id'>) => void;
}) {
  const [missing, setMissing] = useState<Outcome | null>(null);
  const [empty, setEmpty] = useState<readonly FieldFault[]>([]);
  const field = useRef<HTMLInputElement>(null);
  const task = request.tasks.find(t => t.id === request.may.answer);
  const step = task && stepById(request.definition, task.step);
  const fields = useOwnFields(request, task?.step, task?.id);
  const outcomes = step?.verb === 'Decide' ? step.outcomes : [];
  const first = request.askerName.split(' ')[0];
  const isSpent = (outcome: Outcome) => request.may.spent.includes(outcome.id);
  const spent = outcomes.filter(isSpent).map(o => `“${o.label}”`);
  const needing = outcomes.filter(o => o.note === 'must').map(o => o.label.toLowerCase());

  const choose = (outcome: Outcome) => {
    if (!task || isSpent(outcome)) return;
    if (outcome.note === 'must' && note.trim() === '') {
      setMissing(outcome);
      field.current?.focus();
      return;
    }
    // Said at once, before the desk goes on to the next: the server would refuse it too.
    const answers: Answers = { ...request.answers, ...(fields.answers as Answers) };
    const needs = (outcome.needs ?? []).filter(id => isEmptyAnswer(answers[id]));
    setEmpty(
      needs.map(id => ({
        field: id,
        message: `“${outcome.label}” needs ${fieldById(request.definition, id)?.label ?? id}.`,
      })),
    );
    if (needs.length > 0) return;
    onDecide({
      request: request.id,
      onSent: fields.sent,
      words: answeredWords(outcome.label, `${request.askerName}, ${request.title}`),
      note,
      command: {
        kind: 'answer',
        seen: request.version,
        task: task.id,
        outcome: outcome.id,
        note: note.trim() || null,
        ...(fields.own.length > 0 ? { answers: fields.answers } : {}),
      },
    });
  };

  const chooseNow = useRef(choose);
  chooseNow.current = choose;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (isTyping(event.target)) return;
      const outcome = outcomes[Number(event.key) - 1];
      if (!outcome) return;
      event.preventDefault();
      chooseNow.current(outcome);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [outcomes]);

  return (
    <>
      {task && <OwnFields request={request} step={task.step} fields={fields} faults={empty} />}
      <TextField
        inputRef={field}
        multiline
        minRows={2}
        fullWidth
        label={`Note for ${first}`}
        placeholder={needing.length > 0 ? `Needed only to ${needing.join(' or ')}` : ''}
        value={note}
        onChange={event => {
          setNote(event.target.value);
          setMissing(null);
        }}
        error={missing !== null}
        helperText={missing ? `“${missing.label}” needs a short note.` : note ? 'Kept for you until you answer.' : ' '}
        sx={{ mt: 2 }}
      />
      {empty.length > 0 && (
        <Typography role="alert" variant="body2" color="error">
          {empty.map(fault => fault.message).join(' ')}
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 1, mt: 0.5 }}>
        {outcomes.map((outcome, i) => (
          <Button
            key={outcome.id}
            color={toneColour[outcome.tone]}
            variant={outcome.tone === 'good' ? 'contained' : 'outlined'}
            disabled={isSpent(outcome)}
            onClick={() => choose(outcome)}
            endIcon={<Key>{i + 1}</Key>}
            sx={{ flex: 1, justifyContent: 'space-between', py: 1 }}
          >
            {outcome.label}
          </Button>
        ))}
      </Box>
      {spent.length > 0 && (
        <Typography variant="body2" color="textSecondary" sx={{ mt: 0.75 }}>
          {spent.join(', ')} was chosen as often as this workflow allows.
        </Typography>
      )}
    </>
  );
}
