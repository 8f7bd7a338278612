/** Rounds: how far each is, and everything of one on a click. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import type { ReviewItemView, ReviewView } from '@north-pebble/contract';
import { dateWords, momentWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { reviewQuery } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';

const stateWords: Record<ReviewItemView['state'], string> = {
  open: 'not answered',
  kept: 'stays',
  'to be taken away': 'asked for, not taken away yet',
  'taken away': 'taken away',
  refused: 'refused by the directory',
};
const unansweredWords = { remove: 'is taken away', up: 'goes up once, then it is taken away' } as const;

function Items({ id }: { id: number }) {
  const { self } = useHere();
  const year = useYear();
  const items = useQuery(reviewQuery(id));
  return (
    <Box component="ul" aria-label="Of this round" sx={{ listStyle: 'none', p: 0, m: 0, mt: 1 }}>
      {items.data?.map(item => (
        <Box component="li" key={item.id} sx={{ borderTop: '1px solid', borderColor: 'divider', py: 0.6 }}>
          <Typography component="span" variant="body2">
            <b>{item.name}</b>, {item.group}: {stateWords[item.state]}
            {item.reason && ` (${item.reason})`}
            {item.state === 'open'
              ? `; with ${item.reviewer}${item.before ? `, after ${item.before}` : ''}, until ${dateWords(item.due, year)}`
              : item.answeredAt
                ? `; ${item.answeredBy ?? 'nobody answered in time'}, ${momentWords(item.answeredAt, self.zone, year)}`
                : ''}
            {item.note && ` “${item.note}”`}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}

function Round({ review }: { review: ReviewView }) {
  const year = useYear();
  const [open, setOpen] = useState(false);
  const { all, open: left, kept, removed } = review.counts;
  return (
    <Box component="li" sx={{ py: 1.25, borderTop: '1px solid', borderColor: 'divider' }}>
      <Typography sx={{ fontWeight: 600 }}>
        {review.connection}: {review.groups.join(', ')}
      </Typography>
      <Typography variant="body2" color="textSecondary">
        {review.endedAt
          ? 'Ended.'
          : `Until ${dateWords(review.due, year)}; what nobody answers ${unansweredWords[review.unanswered]}.`}{' '}
        Begun by {review.startedBy}. {kept} stay, {removed} taken away or asked for, {left} open of {all}.
      </Typography>
      <LinearProgress
        variant="determinate"
        aria-label="Answered"
        value={all === 0 ? 100 : (100 * (all - left)) / all}
        sx={{ maxWidth: 340, height: 6, borderRadius: 3, my: 0.75 }}
      />
      <Button size="small" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? 'Close' : 'Everything of it'}
      </Button>
      {open && <Items id={review.id} />}
    </Box>
  );
}

export function Rounds({ reviews }: { reviews: readonly ReviewView[] }) {
  return (
    <Box component="section" aria-label="Rounds" sx={{ mt: 4, maxWidth: 820 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        Rounds
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {reviews.map(review => (
          <Round key={review.id} review={review} />
        ))}
      </Box>
    </Box>
  );
}
