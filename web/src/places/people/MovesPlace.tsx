/** Who comes and who leaves, by date. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink } from 'react-router';
import { movesQuery } from '../../api/queries.ts';
import { useYear } from '../../parts/frame/session.ts';
import { Loaded, Page } from '../../parts/Page.tsx';

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
                  <Box
                    component="li"
                    key={one.person.id}
                    sx={{ py: 1, borderBottom: '1px solid', borderColor: 'divider' }}
                  >
                    <Typography variant="body2" color="textSecondary">
                      {dateWords(one.day, year)}
                    </Typography>
                    <Link component={RouterLink} to={`/people/${one.person.id}`} sx={{ fontWeight: 600 }}>
                      {one.person.name}
                    </Link>
                    <Typography variant="body2">{[one.post ?? 'no post yet', one.place].join(', ')}</Typography>
                  </Box>
                ))}
              </Box>
            </Box>
            <Box component="section" aria-label="Who leaves">
              <Typography variant="h2">Who leaves</Typography>
              {leaves.length === 0 && <Typography color="textSecondary">Nobody has a last day near by.</Typography>}
              <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0 }}>
                {leaves.map(one => (
                  <Box
                    component="li"
                    key={one.person.id}
                    sx={{ py: 1, borderBottom: '1px solid', borderColor: 'divider' }}
                  >
                    <Typography variant="body2" color="textSecondary">
                      {dateWords(one.day, year)}
                      {one.day < today && ' (has left)'}
                    </Typography>
                    <Link component={RouterLink} to={`/people/${one.person.id}`} sx={{ fontWeight: 600 }}>
                      {one.person.name}
                    </Link>
                    <Typography variant="body2">
                      {[one.post ?? 'no post', one.place].join(', ')};{' '}
                      {one.open === 0 ? (
                        'nothing is left to hand over'
                      ) : (
                        <Link component={RouterLink} to={`/people/${one.person.id}/hand-over`}>
                          {one.open === 1 ? 'one thing' : `${one.open} things`} to hand over
                        </Link>
                      )}
                    </Typography>
                  </Box>
                ))}
              </Box>
            </Box>
          </Box>
        )}
      </Loaded>
    </Page>
  );
}
