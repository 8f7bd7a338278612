/** Who comes and who leaves, by date. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { MovesView } from '@north-pebble/contract';
import { dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link as RouterLink } from 'react-router';
import { movesQuery } from '../../api/queries.ts';
import { useYear } from '../../parts/frame/session.ts';
import { Loaded, Page } from '../../parts/Page.tsx';

type Person = MovesView['comes'][number]['person'];
function Move({ person, day, children }: { person: Person; day: string; children: ReactNode }) {
  return (
    <Box component="li" sx={{ py: 1, borderBottom: '1px solid', borderColor: 'divider' }}>
      <Typography variant="body2" color="textSecondary">
        {day}
      </Typography>
      <Link component={RouterLink} to={`/people/${person.id}`} sx={{ fontWeight: 600 }}>
        {person.name}
      </Link>
      <Typography variant="body2">{children}</Typography>
    </Box>
  );
}

export function MovesPlace() {
  const found = useQuery(movesQuery);
  const year = useYear();
  return (
    <Page
      title="Who comes and who leaves"
      sub="By first and last days: from two months ago to a year ahead."
      actions={
        <Button component={RouterLink} to="/people">
          People
        </Button>
      }
    >
      <Loaded query={found}>
        {({ comes, leaves, today }) => (
          <Box sx={{ display: 'grid', gap: 5, gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' } }}>
            <Box component="section" aria-label="Who comes">
              <Typography variant="h2">Who comes</Typography>
              {comes.length === 0 && (
                <Typography color="textSecondary">Nobody is on file who is still to come.</Typography>
              )}
              <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0 }}>
                {comes.map(one => (
                  <Move key={one.person.id} person={one.person} day={dateWords(one.day, year)}>
                    {[one.post ?? 'no post yet', one.place].join(', ')}
                  </Move>
                ))}
              </Box>
            </Box>
            <Box component="section" aria-label="Who leaves">
              <Typography variant="h2">Who leaves</Typography>
              {leaves.length === 0 && <Typography color="textSecondary">Nobody has a last day near by.</Typography>}
              <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0 }}>
                {leaves.map(one => (
                  <Move
                    key={one.person.id}
                    person={one.person}
                    day={`${dateWords(one.day, year)}${one.day < today ? ' (has left)' : ''}`}
                  >
                    {[one.post ?? 'no post', one.place].join(', ')};{' '}
                    {one.open === 0 ? (
                      'nothing is left to hand over'
                    ) : (
                      <Link component={RouterLink} to={`/people/${one.person.id}/hand-over`}>
                        {one.open === 1 ? 'one thing' : `${one.open} things`} to hand over
                      </Link>
                    )}
                  </Move>
                ))}
              </Box>
            </Box>
          </Box>
        )}
      </Loaded>
    </Page>
  );
}
