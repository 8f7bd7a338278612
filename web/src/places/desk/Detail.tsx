/** One item of the desk: where it stands, the facts to decide by, a note, and the outcomes with their keys. */

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { RequestView } from '@north-pebble/contract';
import { momentWords } from '@north-pebble/core/time';
import { stepNumber } from '@north-pebble/core/workflow';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink } from 'react-router';
import { requestQuery } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { GuestPanel } from '../../parts/guest/GuestPanel.tsx';
import { Note } from '../../parts/Notes.tsx';
import { Loaded } from '../../parts/Page.tsx';
import { Delegation } from '../../parts/request/Delegation.tsx';
import { Outcomes } from '../../parts/request/deciding/Outcomes.tsx';
import type { Decision } from '../../parts/request/deciding/pending.ts';
import { AgainstRules, Restated } from '../../parts/request/leave/Restated.tsx';
import { Progress } from '../../parts/request/Progress.tsx';
import { Remedies } from '../../parts/request/Remedies.tsx';
import { RequestFacts } from '../../parts/request/requestFacts.tsx';
import { useUnsent } from '../../parts/request/unsent.ts';
import { Work } from '../../parts/request/Work.tsx';
import { Why } from '../../parts/Why.tsx';

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
        {view.askerName}
        {view.subject === view.asker ? '' : ` for ${view.subjectName}`},{' '}
        {view.title.charAt(0).toLowerCase() + view.title.slice(1)}
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
