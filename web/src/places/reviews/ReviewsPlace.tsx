/** Access that is looked at again: what waits for oneself, as many at once as one likes, and how each round goes. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { ReviewItemView, ReviewsView } from '@north-pebble/contract';
import { dateWords, momentWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { call } from '../../api/client.ts';
import { queryClient, reviewsQuery } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { Rounds } from './Rounds.tsx';
import { StartRound } from './StartRound.tsx';

function UsedWords({ item }: { item: ReviewItemView }) {
  const { self } = useHere();
  const year = useYear();
  return (
    <>
      {item.lastUsed
        ? `used last ${momentWords(item.lastUsed, self.zone, year)}`
        : 'the directory does not say when it was used'}
      {' · '}
      {item.request ? (
        <>
          given with{' '}
          <Link component={RouterLink} to={`/requests/${item.request}`}>
            {item.request}
          </Link>
        </>
      ) : (
        'no request gave it, or it has ended'
      )}
      {item.before && ` · ${item.before} did not answer in time`}
    </>
  );
}

function Mine({ items }: { items: readonly ReviewItemView[] }) {
  const year = useYear();
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [note, setNote] = useState('');
  const answer = useMutation({
    mutationFn: (what: 'keep' | 'remove') =>
      call('POST /reviews/answers', { body: { items: [...chosen], answer: what, note } }),
    onSuccess: view => {
      setChosen(new Set());
      setNote('');
      queryClient.setQueryData(reviewsQuery.queryKey, view);
    },
  });
  const groups = [...new Set(items.map(item => item.group))];
  const choose = (ids: readonly number[], on: boolean) => {
    const next = new Set(chosen);
    for (const id of ids) {
      if (on) next.add(id);
      else next.delete(id);
    }
    setChosen(next);
  };
  const [first] = items;
  return (
    <section aria-label="Waits for you">
      <Typography variant="overline" component="h2" color="textSecondary">
        Waits for you, until {dateWords(first.due, year)}
      </Typography>
      {groups.map(group => {
        const own = items.filter(item => item.group === group);
        const all = own.every(item => chosen.has(item.id));
        return (
          <Box key={group} component="fieldset" sx={{ border: 0, p: 0, m: 0, mb: 2 }}>
            <Typography component="legend" variant="h3" sx={{ p: 0 }}>
              {group}
            </Typography>
            {own.length > 1 && (
              <FormControlLabel
                control={
                  <Checkbox
                    size="small"
                    checked={all}
                    onChange={(_, on) =>
                      choose(
                        own.map(item => item.id),
                        on,
                      )
                    }
                  />
                }
                label={`All ${own.length} of ${group}`}
              />
            )}
            {own.map(item => (
              <Box
                key={item.id}
                sx={{ borderTop: '1px solid', borderColor: 'divider', py: 0.5, display: 'flex', gap: 1 }}
              >
                <Checkbox
                  size="small"
                  checked={chosen.has(item.id)}
                  onChange={(_, on) => choose([item.id], on)}
                  slotProps={{ input: { 'aria-label': `${item.name} in ${group}` } }}
                />
                <Box sx={{ pt: 0.75, minWidth: 0 }}>
                  <Typography component="span" sx={{ fontWeight: 600 }}>
                    {item.name}
                  </Typography>{' '}
                  <Typography component="span" variant="body2" color="textSecondary">
                    {item.account}
                  </Typography>
                  <Typography variant="body2" color="textSecondary">
                    <UsedWords item={item} />
                  </Typography>
                </Box>
              </Box>
            ))}
          </Box>
        );
      })}
      <FailureNote fault={answer.error} />
      <Box
        sx={{
          display: 'flex',
          gap: 1,
          flexWrap: 'wrap',
          alignItems: 'center',
          position: 'sticky',
          bottom: 0,
          bgcolor: 'background.default',
          py: 1.5,
          borderTop: '1px solid',
          borderColor: 'divider',
        }}
      >
        <TextField
          label="Why (may stay empty)"
          value={note}
          onChange={event => setNote(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 500 } }}
          sx={{ minWidth: 240 }}
        />
        <Button
          variant="contained"
          color="primary"
          disabled={chosen.size === 0 || answer.isPending}
          onClick={() => answer.mutate('keep')}
        >
          {chosen.size === 0 ? 'They stay' : chosen.size === 1 ? 'It stays' : `These ${chosen.size} stay`}
        </Button>
        <Button disabled={chosen.size === 0 || answer.isPending} onClick={() => answer.mutate('remove')}>
          {chosen.size === 0 ? 'Take them away' : chosen.size === 1 ? 'Take it away' : `Take these ${chosen.size} away`}
        </Button>
      </Box>
    </section>
  );
}

function Reviews({ view }: { view: ReviewsView }) {
  return (
    <>
      {view.mine.length > 0 ? (
        <Mine items={view.mine} />
      ) : (
        <Empty title="No access waits for your word">Once a round asks you, it stands here and comes by mail.</Empty>
      )}
      {view.reviews.length > 0 && <Rounds reviews={view.reviews} />}
      {view.mayStart && view.offers.length > 0 && <StartRound offers={view.offers} />}
      {view.mayStart && view.offers.length === 0 && (
        <Note tone="waiting" title="There is nothing to review yet">
          Groups that requests gave something in can be reviewed.
        </Note>
      )}
    </>
  );
}

export function ReviewsPlace() {
  const reviews = useQuery(reviewsQuery);
  return (
    <Page
      title="Access looked at again"
      sub="Who has access to what, when it was used last, and why they have it. What stays and what goes is said here."
    >
      <Loaded query={reviews}>{view => <Reviews view={view} />}</Loaded>
    </Page>
  );
}
