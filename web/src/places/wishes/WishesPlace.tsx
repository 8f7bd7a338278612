/** Rounds of wishes: one’s own in each, and for HR how many have said theirs. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { WishRoundsView } from '@north-pebble/contract';
import { dateWords, rangeWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { wishRoundsQuery } from '../../api/queries.ts';
import { useYear } from '../../parts/frame/session.ts';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { NewRound } from './NewRound.tsx';
import { OwnWishes } from './OwnWishes.tsx';

type Round = WishRoundsView['rounds'][number];

const states = { open: 'Open', closed: 'Closed', decided: 'Decided' } as const;

function RoundPart({ round }: { round: Round }) {
  const year = useYear();
  return (
    <Box
      component="section"
      aria-label={round.name}
      sx={{ py: 2, borderBottom: '1px solid', borderColor: 'divider', maxWidth: 760 }}
    >
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', justifyContent: 'space-between', flexWrap: 'wrap' }}>
        <Typography variant="h2">{round.name}</Typography>
        <Typography variant="body2" color="textSecondary">
          {round.state === 'open' ? `Open until ${dateWords(round.closes, year)}` : states[round.state]}
        </Typography>
      </Box>
      <Typography variant="body2" color="textSecondary">
        {round.typeName}, {rangeWords(round.from, round.to, year)}, {round.where}
        {round.mostAway !== null && `, at most ${round.mostAway} away at once`}
      </Typography>
      {round.own !== null && <OwnWishes round={round} />}
      {round.people !== null && (
        <Box sx={{ mt: 1, display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap' }}>
          <Typography variant="body2">
            {round.wished} of {round.people} have wishes
          </Typography>
          <Button component={RouterLink} to={`/wishes/${round.id}`}>
            {round.state === 'closed' ? 'Compare and decide' : 'Compare'}
          </Button>
        </Box>
      )}
    </Box>
  );
}

export function WishesPlace() {
  const found = useQuery(wishRoundsQuery);
  const [isNew, setNew] = useState(false);
  const choices = found.data?.choices ?? null;
  return (
    <Page
      title="Wishes"
      sub="Days that many would like off at once. Wishes are collected first and decided together."
      actions={
        choices && !isNew ? (
          <Button variant="contained" color="primary" onClick={() => setNew(true)}>
            New round
          </Button>
        ) : undefined
      }
    >
      {isNew && choices && <NewRound choices={choices} onDone={() => setNew(false)} />}
      <Loaded query={found}>
        {({ rounds }) =>
          rounds.length === 0 ? (
            <Empty title="No rounds of wishes">
              When HR collects wishes for a holiday or a season, you add yours here.
            </Empty>
          ) : (
            rounds.toReversed().map(round => <RoundPart key={round.id} round={round} />)
          )
        }
      </Loaded>
    </Page>
  );
}
