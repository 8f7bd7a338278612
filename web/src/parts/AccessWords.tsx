/** One access that stands outside: where, what, with which request it was given, until when. */
import Link from '@mui/material/Link';
import type { HoldsView } from '@north-pebble/contract';
import { dateWords } from '@north-pebble/core/time';
import { Link as RouterLink } from 'react-router';

export function AccessWords({ one, year }: { one: HoldsView['access'][number]; year: number }) {
  return (
    <>
      {one.connection}: {one.what}
      {one.request && (
        <>
          , given with{' '}
          <Link component={RouterLink} to={`/requests/${one.request}`}>
            {one.request}
          </Link>
        </>
      )}
      {one.until && `, until ${dateWords(one.until, year)}`}
    </>
  );
}
