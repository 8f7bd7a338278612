/** My requests, and what I may ask for. */

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { AskableRow, RequestRow } from '@north-pebble/contract';
import { civilDateAt, dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink } from 'react-router';
import { askableQuery, requestsQuery } from '../../api/queries.ts';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { ScrollStrip } from '../../parts/ScrollStrip.tsx';
import { useHere } from '../../parts/session.ts';

const statusColour: Record<RequestRow['status'], string> = {
  new: 'text.secondary',
  open: 'primary.main',
  rework: 'secondary.main',
  stuck: 'error.main',
  closed: 'text.primary',
  withdrawn: 'text.secondary',
};

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

function Rows({ rows }: { rows: RequestRow[] }) {
  const { self, now } = useHere();
  if (rows.length === 0) {
    return (
      <Empty title="You have not asked for anything yet">
        What you ask for stands here, with where it is and who has it.
      </Empty>
    );
  }
  const year = Number(civilDateAt(now, self.zone).slice(0, 4));
  return (
    <ScrollStrip label="Your requests">
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          width: '100%',
          '& td, & th': {
            py: 0.9,
            pr: 2,
            borderBottom: '1px solid',
            borderColor: 'divider',
            textAlign: 'left',
            fontSize: 14,
          },
        }}
      >
        <thead>
          <Box component="tr" sx={{ color: 'text.secondary', '& th': { fontWeight: 500, fontSize: 13 } }}>
            <th scope="col">Request</th>
            <th scope="col">What</th>
            <th scope="col">Where it stands</th>
            <th scope="col">Asked</th>
          </Box>
        </thead>
        <tbody>
          {rows.map(row => (
            <tr key={row.id}>
              <td>{row.id}</td>
              <td>
                <Link component={RouterLink} to={`/requests/${row.id}`}>
                  {row.title}
                </Link>
              </td>
              <Box component="td" sx={{ color: statusColour[row.status] }}>
                {row.standing}
              </Box>
              <Box component="td" sx={{ whiteSpace: 'nowrap' }}>
                {dateWords(civilDateAt(row.askedAt, self.zone), year)}
              </Box>
            </tr>
          ))}
        </tbody>
      </Box>
    </ScrollStrip>
  );
}

export function RequestsPlace() {
  const askable = useQuery(askableQuery);
  const requests = useQuery(requestsQuery);
  return (
    <Page title="Requests">
      <Loaded query={askable}>{rows => <Askable rows={rows} />}</Loaded>
      <Typography variant="overline" component="h2" color="textSecondary" sx={{ display: 'block', mb: 0.5 }}>
        Yours
      </Typography>
      <Loaded query={requests}>{rows => <Rows rows={rows} />}</Loaded>
    </Page>
  );
}
