/** What I may ask for, and the requests that are there. */

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { AskableRow } from '@north-pebble/contract';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink } from 'react-router';
import { askableQuery } from '../../api/queries.ts';
import { Loaded, Page } from '../../parts/Page.tsx';
import { useHere } from '../../parts/session.ts';
import { Find } from './Find.tsx';

function Askable({ rows }: { rows: AskableRow[] }) {
  const areas = [...new Set(rows.map(row => row.area))];
  return areas.map(area => (
    <Box key={area} sx={{ mb: 3 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        {area}
      </Typography>
      <Box
        sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, mt: 0.75, maxWidth: 760 }}
      >
        {rows
          .filter(row => row.area === area)
          .map(row => (
            <Box
              key={row.id}
              component={RouterLink}
              to={`/ask/${row.id}`}
              sx={{
                display: 'block',
                px: 2,
                py: 1.5,
                borderRadius: '12px',
                border: '1px solid',
                borderColor: 'divider',
                bgcolor: 'background.paper',
                textDecoration: 'none',
                color: 'text.primary',
                '&:hover': { borderColor: 'primary.main' },
              }}
            >
              <Typography variant="h3" component="span" sx={{ display: 'block', color: 'primary.main' }}>
                Ask for {row.name.toLowerCase()}
              </Typography>
              <Typography variant="body2" component="span" color="textSecondary">
                {row.purpose}
              </Typography>
            </Box>
          ))}
      </Box>
    </Box>
  ));
}

export function RequestsPlace() {
  const { self } = useHere();
  const askable = useQuery(askableQuery);
  const helps = self.rights.some(right => right !== 'auditor');
  return (
    <Page
      title="Requests"
      actions={
        helps && (
          <Button component={RouterLink} to="/stuck">
            What cannot go on
          </Button>
        )
      }
    >
      <Loaded query={askable}>{rows => <Askable rows={rows} />}</Loaded>
      <Find />
    </Page>
  );
}
