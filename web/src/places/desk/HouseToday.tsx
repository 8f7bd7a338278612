/** The first screen of HR operations: what needs a hand in the house today, and what comes by itself. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { civilDateAt, dateWords, momentWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink } from 'react-router';
import { comingQuery, papersQuery, plansQuery, stuckQuery } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';

const few = 4;

const times = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

export function HouseToday() {
  const { self, now } = useHere();
  const year = useYear();
  const stuck = useQuery(stuckQuery);
  const coming = useQuery(comingQuery);
  const today = civilDateAt(now, self.zone);
  const limits = coming.data?.days.find(day => day.day === today)?.limits ?? 0;
  const rows = stuck.data ?? [];
  const plans = useQuery(plansQuery);
  // The nearest dates first, as they come.
  const late = (plans.data?.rows ?? []).filter(row => row.state === 'late');
  const next = (coming.data?.next ?? []).filter(one => one.what === 'limit').slice(0, few);
  const papers = useQuery(papersQuery(''));
  const running = papers.data?.rows.filter(row => row.state === 'runs out' || row.state === 'ran out').length ?? 0;
  return (
    <Box
      component="section"
      aria-label="The house today"
      sx={{ mt: 3, pt: 2, borderTop: '1px solid', borderColor: 'divider' }}
    >
      <Typography variant="overline" component="h2" color="textSecondary">
        The house today
      </Typography>
      <Typography sx={{ mb: 1 }}>
        {stuck.data === undefined ? (
          'Looking …'
        ) : rows.length === 0 ? (
          'No request needs a hand.'
        ) : (
          <>
            <Link component={RouterLink} to="/stuck">
              {times(rows.length, 'request needs a hand', 'requests need a hand')}
            </Link>
            .
          </>
        )}
        {limits > 0 && ` ${times(limits, 'limit passes', 'limits pass')} today.`}
        {running > 0 && (
          <>
            {' '}
            <Link component={RouterLink} to="/papers">
              {times(running, 'paper runs out', 'papers run out')}
            </Link>{' '}
            soon.
          </>
        )}
        {late.length > 0 && (
          <>
            {' '}
            <Link component={RouterLink} to="/requests/plans?state=late">
              {times(late.length, 'is not ready for its date', 'are not ready for their dates')}
            </Link>
            .
          </>
        )}
      </Typography>
      {rows.slice(0, few).map(row => (
        <Box key={`${row.cause}-${row.request}-${row.outbox ?? row.timer ?? row.task ?? row.step}`} sx={{ mb: 0.75 }}>
          <Link component={RouterLink} to={`/requests/${row.request}`}>
            {row.askerName}: {row.title}
          </Link>
          <Typography variant="body2" color="textSecondary">
            {row.words}
          </Typography>
        </Box>
      ))}
      {late.slice(0, few).map(row => (
        <Box key={`plan ${row.request}`} sx={{ mb: 0.75 }}>
          <Link component={RouterLink} to={`/requests/${row.request}/plan`}>
            {row.title}
          </Link>
          <Typography variant="body2" color="textSecondary">
            {row.label} {dateWords(row.date, year)}. {row.decides}.
          </Typography>
        </Box>
      ))}
      {next.length > 0 && (
        <>
          <Typography variant="overline" component="h3" color="textSecondary" sx={{ display: 'block', mt: 1.5 }}>
            Limits that pass next
          </Typography>
          {next.map(one => (
            <Box key={`${one.request}-${one.at}-${one.holderName}`} sx={{ mb: 0.75 }}>
              <Link component={RouterLink} to={`/requests/${one.request}`}>
                {one.askerName}: {one.title}
              </Link>
              <Typography variant="body2" color="textSecondary">
                {momentWords(one.at, self.zone, year)}, with {one.holderName}: {one.words}
              </Typography>
            </Box>
          ))}
        </>
      )}
    </Box>
  );
}
