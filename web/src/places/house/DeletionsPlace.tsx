/** What somebody outside gave and is deleted when its time is over: what goes next, and how much is gone. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { Forgetting } from '@north-pebble/contract';
import { civilDateAt, dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink } from 'react-router';
import { call } from '../../api/client.ts';
import { useHere } from '../../parts/frame/session.ts';
import { type LongColumn, LongTable } from '../../parts/LongTable.tsx';
import { Empty, Loaded } from '../../parts/Page.tsx';
import { HouseFrame } from './HouseFrame.tsx';

type Row = Forgetting['soon'][number];

const columns = (year: number): LongColumn<Row>[] => [
  { id: 'on', header: 'Deleted on', cell: ({ row }) => dateWords(row.original.on, year), meta: { width: '170px' } },
  {
    id: 'what',
    header: 'What',
    cell: ({ row }) => (
      <Link component={RouterLink} to={`/requests/${row.original.request}`}>
        {row.original.title}
      </Link>
    ),
    meta: { width: 'minmax(200px, 2fr)' },
  },
  { id: 'who', header: 'Asked by', cell: ({ row }) => row.original.who, meta: { width: 'minmax(130px, 1fr)' } },
  { id: 'request', header: 'Request', cell: ({ row }) => row.original.request, meta: { width: '90px' } },
  {
    id: 'closed',
    header: 'Ended',
    cell: ({ row }) => dateWords(civilDateAt(row.original.closedAt, 'UTC'), year),
    meta: { width: '170px' },
  },
];

export function DeletionsPlace() {
  const { now } = useHere();
  const found = useQuery({ queryKey: ['forgetting'], queryFn: () => call('GET /forgetting') });
  const year = Number(now.slice(0, 4));
  return (
    <HouseFrame
      title="What is deleted"
      sub="What was asked for from outside is deleted when its time is over: answers, papers, letters, links and the trail. That it was there stays, with the seal of its trail."
    >
      <Loaded query={found}>
        {({ soon, total, gone }) => (
          <Box sx={{ maxWidth: 900 }}>
            <Typography variant="body2" color="textSecondary" sx={{ mb: 1.5 }}>
              {gone.requests === 0
                ? 'Nothing was deleted yet.'
                : `${gone.requests} ${gone.requests === 1 ? 'request was' : 'requests were'} deleted${gone.last ? `, the last on ${dateWords(civilDateAt(gone.last, 'UTC'), year)}` : ''}.`}
            </Typography>
            {soon.length === 0 ? (
              <Empty title="Nothing is to be deleted">
                Workflows say under “About” how long what is asked for from outside is kept after its end.
              </Empty>
            ) : (
              <>
                <LongTable
                  label="What is deleted next"
                  columns={columns(year)}
                  rows={soon}
                  rowKey={row => row.request}
                />
                {total > soon.length && (
                  <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
                    And {total - soon.length} more after these.
                  </Typography>
                )}
              </>
            )}
            {gone.rows.length > 0 && (
              <Box component="section" aria-labelledby="deleted" sx={{ mt: 4 }}>
                <Typography id="deleted" variant="h3" component="h2" sx={{ mb: 1 }}>
                  What was deleted
                </Typography>
                <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
                  {gone.rows.map(row => (
                    <Typography key={row.request} component="li" variant="body2" sx={{ py: 0.5 }}>
                      {dateWords(civilDateAt(row.at, 'UTC'), year)}: {row.request}, {row.name}, which ended on{' '}
                      {dateWords(civilDateAt(row.closedAt, 'UTC'), year)}. {row.events} lines of its trail went with it;
                      their seal stays.
                    </Typography>
                  ))}
                </Box>
              </Box>
            )}
          </Box>
        )}
      </Loaded>
    </HouseFrame>
  );
}
