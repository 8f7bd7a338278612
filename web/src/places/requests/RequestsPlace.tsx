/** What I may ask for, and the requests that are there. */

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { type AskableRow, may } from '@north-pebble/contract';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { askableQuery } from '../../api/queries.ts';
import { useHere } from '../../parts/frame/session.ts';
import { Loaded, Page } from '../../parts/Page.tsx';
import { Find } from './Find.tsx';

/** What may be asked for, by area, as a short list beside the requests. */
function Askable({ rows }: { rows: AskableRow[] }) {
  const areas = [...new Set(rows.map(row => row.area))];
  return areas.map(area => (
    <Box key={area} sx={{ mb: 1.75 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        {area}
      </Typography>
      {rows
        .filter(row => row.area === area)
        .map(row => (
          <Box
            key={row.id}
            component={RouterLink}
            to={`/ask/${row.id}`}
            sx={{
              display: 'block',
              py: 0.75,
              borderBottom: '1px solid',
              borderColor: 'divider',
              textDecoration: 'none',
              color: 'text.primary',
              '&:hover span:first-of-type': { textDecoration: 'underline' },
            }}
          >
            <Typography variant="h3" component="span" sx={{ display: 'block', color: 'primary.main', fontSize: 14.5 }}>
              Ask for {row.name.toLowerCase()}
            </Typography>
            <Typography variant="body2" component="span" color="textSecondary" sx={{ fontSize: 12.5 }}>
              {row.purpose}
            </Typography>
          </Box>
        ))}
    </Box>
  ));
}

export function RequestsPlace() {
  const { self } = useHere();
  const askable = useQuery(askableQuery);
  const helps = may(self, 'help requests on');
  // A list with columns of its own needs the whole page.
  const isWide = useSearchParams()[0].get('shown') !== null;
  return (
    <Page
      title="Requests"
      wide
      actions={
        <>
          <Button component={RouterLink} to="/requests/plans">
            Plans back from a date
          </Button>
          {may(self, 'read every record') && (
            <Button component={RouterLink} to="/requests/volume">
              Added up
            </Button>
          )}
          {helps && (
            <Button component={RouterLink} to="/stuck">
              What cannot go on
            </Button>
          )}
        </>
      }
    >
      <Box
        sx={{
          display: 'grid',
          gap: { xs: 3, lg: 5 },
          gridTemplateColumns: isWide ? '1fr' : { xs: '1fr', md: 'minmax(0, 1fr) 250px' },
        }}
      >
        <Box sx={{ minWidth: 0 }}>
          <Find />
        </Box>
        {!isWide && (
          <Box component="aside" aria-label="What you may ask for" sx={{ order: { xs: -1, md: 0 } }}>
            <Loaded query={askable}>{rows => <Askable rows={rows} />}</Loaded>
          </Box>
        )}
      </Box>
    </Page>
  );
}
