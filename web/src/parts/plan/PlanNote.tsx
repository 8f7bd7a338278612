/** How a request stands to its date, with the way to its plan. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import type { RequestView } from '@north-pebble/contract';
import { dateWords } from '@north-pebble/core/time';
import { Link as RouterLink } from 'react-router';
import { Note, type NoteTone } from '../Notes.tsx';
import { planStanding } from './planWords.ts';

const tones = { late: 'stop', tight: 'waiting', fine: 'now', ready: 'good' } as const satisfies Record<
  string,
  NoteTone
>;

export function PlanNote({ request: { id, plan, planMissing, status } }: { request: RequestView }) {
  if (planMissing && status !== 'closed')
    return (
      <Box sx={{ maxWidth: 620 }}>
        <Note tone="waiting" title="It has no plan back from its date">
          {planMissing}.
        </Note>
      </Box>
    );
  if (!plan || status === 'closed') return null;
  const [first] = plan.says;
  return (
    <Box sx={{ maxWidth: 620 }}>
      <Note
        tone={tones[plan.state]}
        title={`${plan.label}, ${dateWords(plan.date, Number(plan.today.slice(0, 4)))}: ${planStanding(plan)}`}
      >
        {first && plan.state !== 'ready' && `${first.title}. `}
        <Link component={RouterLink} to={`/requests/${id}/plan`}>
          See the plan
        </Link>
      </Note>
    </Box>
  );
}
