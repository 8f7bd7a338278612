/** The shelf: workflows by area, with live facts. */

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { ShelfRow } from '@north-pebble/contract';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink } from 'react-router';
import { shelfQuery } from '../../api/queries.ts';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';

function facts(row: ShelfRow): string {
  const said = [
    row.liveVersion === null ? 'not published yet' : `version ${row.liveVersion} is live`,
    `${row.open} open`,
    row.typicalDays === null
      ? null
      : `${row.typicalDays} ${row.typicalDays === 1 ? 'day' : 'days'} from asking to the end, as a rule`,
  ];
  return said.filter(Boolean).join(' · ');
}

function Shelf({ rows }: { rows: ShelfRow[] }) {
  if (rows.length === 0) return <Empty title="No workflow yet">Workflows stand here once there are some.</Empty>;
  return [...new Set(rows.map(row => row.area))].map(area => (
    <Box component="section" key={area} sx={{ mb: 4, maxWidth: 860 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        {area}
      </Typography>
      {rows
        .filter(row => row.area === area)
        .map(row => (
          <Box key={row.id} sx={{ py: 1.5, borderBottom: '1px solid', borderColor: 'divider' }}>
            <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline', flexWrap: 'wrap' }}>
              <Link component={RouterLink} to={`/workflows/${row.id}`} variant="h2">
                {row.name}
              </Link>
              {row.hasDraft && (
                <Typography variant="body2" color="warning" sx={{ fontWeight: 600 }}>
                  draft in work
                </Typography>
              )}
              {row.stuck > 0 && (
                <Typography variant="body2" color="error" sx={{ fontWeight: 600 }}>
                  {row.stuck} stuck
                </Typography>
              )}
            </Box>
            <Typography>{row.purpose}</Typography>
            <Typography variant="body2" color="textSecondary">
              {facts(row)}
            </Typography>
          </Box>
        ))}
    </Box>
  ));
}

export function ShelfPlace() {
  const shelf = useQuery(shelfQuery);
  return (
    <Page title="Workflows">
      <Loaded query={shelf}>{rows => <Shelf rows={rows} />}</Loaded>
    </Page>
  );
}
