/** One item of the desk: where it stands, the facts to decide by, a note, and the outcomes with their keys. */

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { RequestView } from '@north-pebble/contract';
import { type Answers, type FieldFault, isEmptyAnswer } from '@north-pebble/core/form';
import { momentWords } from '@north-pebble/core/time';
import { fieldById, type Outcome, stepById, stepNumber } from '@north-pebble/core/workflow';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { requestQuery } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { GuestPanel } from '../../parts/guest/GuestPanel.tsx';
import { Key } from '../../parts/Key.tsx';
import { Note } from '../../parts/Notes.tsx';
import { Loaded } from '../../parts/Page.tsx';
import { Delegation } from '../../parts/request/Delegation.tsx';
import { AgainstRules, Restated } from '../../parts/request/leave/Restated.tsx';
import { Progress } from '../../parts/request/Progress.tsx';
import { Remedies } from '../../parts/request/Remedies.tsx';
import { RequestFacts } from '../../parts/request/requestFacts.tsx';
import { useUnsent } from '../../parts/request/unsent.ts';
import { OwnFields, useOwnFields, Work } from '../../parts/request/Work.tsx';
import { isTyping } from '../../parts/typing.ts';
import { Why } from '../../parts/Why.tsx';
import type { Decision } from './pending.ts';

const toneColour = { good: 'success', rework: 'secondary', bad: 'error' } as const;

function Outcomes({
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
      words: `${outcome.label}: ${request.askerName}, ${request.title}`,
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

function Standing({ request }: { request: RequestView }) {
  const { self } = useHere();
  const year = useYear();
  const task = request.tasks.find(t => t.id === (request.may.answer ?? request.may.work?.task));
  const at = task?.step ?? request.at[0];
  const number = at ? stepNumber(request.definition, at) : '';
  const returned = request.returned ? ` · came back after ${request.returned.byName} sent it back` : '';
  return (
    <Typography variant="body2" color="textSecondary">
      {number && `Step ${number} of `}
      {request.definition.name}, version {request.workflowVersion}
      {request.status === 'open' && returned}
      {task?.due && !task.question && (
        <>
          {' · due '}
          {momentWords(task.due, self.zone, year)}
          <Why about={`due ${momentWords(task.due, self.zone, year)}, and why you`}>
            <Typography variant="body2">{task.dueReason}.</Typography>
            {task.reasons.map(reason => (
              <Typography key={reason} variant="body2" sx={{ mt: 0.5 }}>
                {reason}.
              </Typography>
            ))}
          </Why>
        </>
      )}
    </Typography>
  );
}

/** What became of a request that was open here, and what had been typed for it. */
function Gone({ request, note, onGoOn }: { request: RequestView | undefined; note: string; onGoOn: () => void }) {
  const last = request?.trail.findLast(line => line.by !== null);
  return (
    <Note tone="waiting" title="It does not wait for you any more" role="status">
      {last && `${last.who} ${last.text}. `}
      {note && `Your note was: “${note}” `}
      <Button size="small" onClick={onGoOn}>
        Go on
      </Button>
    </Note>
  );
}

type Props = {
  id: string;
  /** Somebody else has dealt with it while it was open here. */
  gone: boolean;
  onGoOn: () => void;
  onDecide: (decision: Omit<Decision, 'id'>) => void;
};

export function Detail({ id, gone, onGoOn, onDecide }: Props) {
  const request = useQuery(requestQuery(id));
  return (
    <>
      {gone && !request.data && <Gone request={undefined} note="" onGoOn={onGoOn} />}
      <Loaded query={request}>{view => <Opened view={view} gone={gone} onGoOn={onGoOn} onDecide={onDecide} />}</Loaded>
    </>
  );
}

function Opened({ view, gone, onGoOn, onDecide }: { view: RequestView } & Omit<Props, 'id'>) {
  const [note, setNote, noteSent] = useUnsent(view, `note of ${view.may.answer}`, '');
  return (
    <>
      {gone && <Gone request={view} note={note} onGoOn={onGoOn} />}
      <Typography variant="h2">
        {view.askerName}, {view.title.charAt(0).toLowerCase() + view.title.slice(1)}
      </Typography>
      <AgainstRules request={view} />
      <Restated request={view} />
      <Standing request={view} />
      <Progress request={view} />
      {view.afterwards && (
        <Note tone="rework" title={view.afterwards === 'change' ? 'A change after approval' : 'Wants to cancel it'}>
          {view.afterwards === 'change'
            ? 'What was approved stands until this is decided; only the difference is booked.'
            : 'It stays booked until this is decided.'}
        </Note>
      )}
      {view.stuck && (
        <Note tone="stop" title="It cannot go on by itself">
          {view.stuck}
        </Note>
      )}
      <RequestFacts request={view} />
      <Work request={view} />
      <GuestPanel request={view} />
      {view.may.answer && (
        <Outcomes
          request={view}
          note={note}
          setNote={setNote}
          onDecide={decision => {
            const onSent = () => {
              noteSent();
              decision.onSent();
            };
            onDecide({ ...decision, onSent });
          }}
        />
      )}
      {view.may.rework && (
        <Button component={RouterLink} to={`/requests/${view.id}`} variant="contained" color="secondary" sx={{ mt: 2 }}>
          Change it and send it again
        </Button>
      )}
      <Delegation request={view} />
      <Remedies request={view} />
      <Box sx={{ mt: 1.75, fontSize: 13.5 }}>
        <Link component={RouterLink} to={`/requests/${view.id}`}>
          Open the full request
        </Link>
      </Box>
    </>
  );
}
