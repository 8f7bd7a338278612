/** Weeks in which somebody has more to do than can be done, and what of it could wait. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { CivilDate } from '@north-pebble/core/time';
import { Link as RouterLink } from 'react-router';
import { shortDay } from '../../parts/plan/planWords.ts';
import type { Overload } from './load.ts';

const shown = 12;
const days = (n: number): string => `${n} working ${n === 1 ? 'day' : 'days'}`;

export function Overloads({ all, today }: { all: readonly Overload[]; today: CivilDate }) {
  return (
    <Box component="section" aria-label="What could be moved" sx={{ mt: 4, maxWidth: 820 }}>
      <Typography variant="h3" component="h2">
        What could be moved where
      </Typography>
      {all.length === 0 ? (
        <Typography variant="body2" color="textSecondary">
          Nobody has more in a week than can be done in it.
        </Typography>
      ) : (
        <Typography variant="body2" color="textSecondary">
          Weeks with more in them than can be done. What is named could wait without any date being missed: one task of
          each plan.
        </Typography>
      )}
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {all.slice(0, shown).map(({ holder, week, workingDays, room, over, moves }) => (
          <Box
            component="li"
            key={`${holder} ${week}`}
            sx={{ py: 1.25, borderBottom: '1px solid', borderColor: 'divider' }}
          >
            <Typography sx={{ fontWeight: 600 }}>
              {holder}, week of {shortDay(week, today)}: {days(workingDays)} of work, room for {room}
            </Typography>
            {moves.map(({ task: { row, line }, to }) => (
              <Typography key={`${row.request} ${line.step}`} variant="body2">
                <Link component={RouterLink} to={`/requests/${row.request}/plan`}>
                  {row.title}
                </Link>
                : “{line.what}” ({days(line.left)}) could wait until the week of {shortDay(to, today)}.
              </Typography>
            ))}
            {over > 0 && (
              <Typography variant="body2" color="textSecondary">
                {moves.length === 0 ? 'Nothing of it can wait for a week with room' : 'That leaves too much'}:{' '}
                {days(over)} need{over === 1 ? 's' : ''} another hand or a later date.
              </Typography>
            )}
          </Box>
        ))}
      </Box>
      {all.length > shown && (
        <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
          The next {shown} are shown; {all.length - shown} more come later.
        </Typography>
      )}
    </Box>
  );
}
