/** Where a least number is needed: on which days too few would be here, and otherwise that there are enough. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { PlannerView } from '@north-pebble/contract';
import { addDays, type CivilDate, dateWords, rangeWords } from '@north-pebble/core/time';
import { Fragment } from 'react';
import { Link as RouterLink } from 'react-router';
import { useYear } from '../../parts/frame/session.ts';

type One = PlannerView['presence'][number];

/** Days with too few, those next to one another with as many together. */
function shortages({ here, needed }: One, from: CivilDate): { on: CivilDate; here: number }[] {
  return here.flatMap((n, i) => (n !== null && n < needed ? [{ on: addDays(from, i), here: n }] : []));
}

const most = 6;

export function Needed({ view }: { view: PlannerView }) {
  const year = useYear();
  if (view.presence.length === 0) return null;
  return (
    <Box component="section" aria-label="Needed here" sx={{ mb: 3 }}>
      {view.presence.map(one => {
        const few = shortages(one, view.from);
        return (
          <Typography key={one.id} variant="body2">
            <Box component="span" sx={{ fontWeight: 650 }}>
              {one.name}
            </Box>
            , {one.needed} needed:{' '}
            {few.length === 0 ? (
              <Box component="span" sx={{ color: 'text.secondary' }}>
                enough on every day of work shown.
              </Box>
            ) : (
              <Box component="span" sx={{ color: 'error.main' }}>
                too few on{' '}
                {few
                  .slice(0, most)
                  .map(({ on, here }) => `${dateWords(on, year)} (${here})`)
                  .join(', ')}
                {few.length > most && ` and ${few.length - most} more days`}.
                {one.asked.length > 0 && ' Asked for on these days: '}
                {one.asked.map(({ request, name, from, to }, n) => (
                  <Fragment key={request}>
                    {n > 0 && ', '}
                    <Link component={RouterLink} to={`/requests/${request}`}>
                      {name}, {rangeWords(from, to, year)}
                    </Link>
                  </Fragment>
                ))}
              </Box>
            )}
          </Typography>
        );
      })}
    </Box>
  );
}
