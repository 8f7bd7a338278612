/** What follows from a change, by person, before it is made. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { ChangePreview } from '@north-pebble/contract';
import { Children, type ReactNode, useState } from 'react';
import { Link as RouterLink } from 'react-router';

/** So many lines are shown until more are asked for. */
const few = 8;

function Part({ title, children }: { title: string; children: ReactNode }) {
  const [all, setAll] = useState(false);
  const lines = Children.toArray(children);
  const rest = lines.length - few;
  return (
    <Box sx={{ mt: 1.25 }}>
      <Typography variant="body2" sx={{ fontWeight: 600 }}>
        {title}
      </Typography>
      <Box component="ul" sx={{ m: 0, pl: 2.5, fontSize: 14 }}>
        {all || rest <= 2 ? lines : lines.slice(0, few)}
      </Box>
      {!all && rest > 2 && (
        <Link component="button" type="button" onClick={() => setAll(true)} sx={{ fontSize: 14, ml: 2.5 }}>
          Show {rest} more
        </Link>
      )}
    </Box>
  );
}

export function Follows({ preview }: { preview: ChangePreview }) {
  const { says, managers, leave, sums, balances, plans, open, notes } = preview;
  const isQuiet = managers.length + leave.length + balances.length + plans.length + open.length + notes.length === 0;
  return (
    <Box
      role="region"
      aria-label="What follows"
      sx={{ borderLeft: '3px solid', borderColor: 'primary.main', pl: 1.5, py: 0.5 }}
    >
      {says.map(one => (
        <Typography key={one}>{one}</Typography>
      ))}
      {isQuiet && (
        <Typography variant="body2" color="textSecondary">
          Nothing else follows: no leave is counted anew, and nobody gets another line manager.
        </Typography>
      )}
      {leave.length > 0 && (
        <Part title="Leave counted anew">
          {leave.map(one => (
            <li key={`${one.name} ${one.what}`}>
              {one.name}, {one.what}: {one.before} → {one.after}
              {one.request && (
                <>
                  {' '}
                  <Link component={RouterLink} to={`/requests/${one.request}`}>
                    {one.request}
                  </Link>
                </>
              )}
            </li>
          ))}
        </Part>
      )}
      {balances.length > 0 && (
        <Part title={['Balances', ...sums].join(': ')}>
          {balances.map(one => (
            <li key={`${one.name} ${one.what}`}>
              {one.name}, {one.what}: {one.before ?? 'none'} → {one.after ?? 'none'}
            </li>
          ))}
        </Part>
      )}
      {plans.length > 0 && (
        <Part title="Plans counted back anew">
          {plans.map(one => (
            <li key={one.request}>
              <Link component={RouterLink} to={`/requests/${one.request}/plan`}>
                {one.title}
              </Link>
              : {one.before} → {one.after}
            </li>
          ))}
        </Part>
      )}
      {managers.length > 0 && (
        <Part title="Another line manager">
          {managers.map(one => (
            <li key={one.name}>
              {one.name}: {one.before ?? 'nobody'} → {one.after ?? 'nobody'}
            </li>
          ))}
        </Part>
      )}
      {open.length > 0 && (
        <Part title="Open requests that stay with whom they are with">
          {open.map(one => (
            <li key={one.request}>
              <Link component={RouterLink} to={`/requests/${one.request}`}>
                {one.title}
              </Link>
              , with {one.holder}
            </li>
          ))}
        </Part>
      )}
      {notes.map(one => (
        <Typography key={one} variant="body2" sx={{ mt: 1, color: 'warning.main' }}>
          {one}
        </Typography>
      ))}
    </Box>
  );
}
