/** What somebody holds who leaves: to be handed over, taken away, given back. It is there where a request takes an account away. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { HoldsView, RequestView } from '@north-pebble/contract';
import { dateWords, momentWords } from '@north-pebble/core/time';
import type { Step } from '@north-pebble/core/workflow';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link as RouterLink } from 'react-router';
import { holdsQuery } from '../../api/queries.ts';
import { AccessWords } from '../../parts/AccessWords.tsx';
import { useHere, useYear } from '../../parts/frame/session.ts';

const takesAccountAway = (steps: readonly Step[]): boolean =>
  steps.some(
    step =>
      (step.verb === 'Provision' && step.action === 'disable account') ||
      (step.verb === 'Split' && step.lanes.some(lane => takesAccountAway(lane.steps))),
  );

const Line = ({ children }: { children: ReactNode }) => (
  <Box component="li" sx={{ py: 0.5, borderBottom: '1px solid', borderColor: 'divider', fontSize: 14 }}>
    {children}
  </Box>
);
const RequestLink = ({ id }: { id: string }) => (
  <Link component={RouterLink} to={`/requests/${id}`}>
    {id}
  </Link>
);

function Held({ holds }: { holds: HoldsView }) {
  const { self } = useHere();
  const year = useYear();
  const { tasks, taskRows, access, papers, reviews } = holds;
  return (
    <Box component="section" aria-label={`What ${holds.person} holds`} sx={{ mt: 3 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        What {holds.person} holds
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {tasks > taskRows.length && (
          <Line>{tasks === 1 ? 'One task waits for them.' : `${tasks} tasks wait for them.`}</Line>
        )}
        {taskRows.map(row => (
          <Line key={`${row.request}${row.due}`}>
            Task in <RequestLink id={row.request} />: {row.title}
            {row.due && `, due ${momentWords(row.due, self.zone, year)}`}
          </Line>
        ))}
        {access.map(one => (
          <Line key={`${one.connection}${one.what}${one.request}`}>
            <AccessWords one={one} year={year} />
          </Line>
        ))}
        {papers.map(one => (
          <Line key={`${one.kind}${one.expires}`}>
            Paper on file: {one.kind}
            {one.expires && `, valid until ${dateWords(one.expires, year)}`}
          </Line>
        ))}
        {reviews > 0 && (
          <Line>{reviews === 1 ? 'One access waits for their word.' : `${reviews} accesses wait for their word.`}</Line>
        )}
        {tasks + access.length + papers.length + reviews === 0 && <Line>Nothing that is on file here.</Line>}
      </Box>
    </Box>
  );
}

export function Holds({ request }: { request: RequestView }) {
  const isOpen = request.status === 'open' || request.status === 'stuck' || request.status === 'rework';
  const holds = useQuery({
    ...holdsQuery(request.id, request.version),
    enabled: isOpen && takesAccountAway(request.definition.steps),
    retry: false,
  });
  return holds.data ? <Held holds={holds.data} /> : null;
}
