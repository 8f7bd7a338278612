/** That access waits for one’s word; it goes by itself once all of it is answered. */
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { Link as RouterLink } from 'react-router';
import { reviewsQuery } from '../../api/queries.ts';
import { useYear } from '../../parts/frame/session.ts';

export function AccessWaits() {
  const year = useYear();
  const { data } = useQuery({ ...reviewsQuery, refetchInterval: 60_000 });
  if (!data || data.mine.length === 0) return null;
  const n = data.mine.length;
  return (
    <Typography sx={{ mb: 2 }}>
      <Link component={RouterLink} to="/reviews">
        {n === 1 ? 'One access waits for your word' : `${n} accesses wait for your word`}
      </Link>
      , until {dateWords(data.mine[0].due, year)}.
    </Typography>
  );
}
