/** The wishes of a round, in whose turn it is: what is proposed, what HR chooses, and deciding all of them at once. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import Typography from '@mui/material/Typography';
import type { WishesCompared } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { spanWords } from '@north-pebble/core/form';
import { amountOfUnit, dateWords, rangeWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as RouterLink, useNavigate, useParams } from 'react-router';
import { call } from '../../api/client.ts';
import { queryClient, wishesQuery, wishRoundsQuery } from '../../api/queries.ts';
import { ChangeEnd } from '../../parts/change/ChangeEnd.tsx';
import { useChange } from '../../parts/change/useChange.ts';
import { useYear } from '../../parts/frame/session.ts';
import { FailureNote } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { Why } from '../../parts/Why.tsx';

type Row = WishesCompared['rows'][number];
/** Which wish each is given, by their number; nothing for none. */
type Choices = Readonly<Record<string, number | null>>;

const proposedOf = (rows: readonly Row[]): Choices =>
  Object.fromEntries(rows.map(({ person, proposed }) => [person, proposed]));

export function decisionOf({ round, rows }: WishesCompared, choices: Choices): HouseChange | null {
  const chosen = rows.flatMap(({ person, wishes }) => {
    const n = choices[person] ?? null;
    const span = n === null ? undefined : wishes[n]?.span;
    return span ? [{ person, from: span.from, to: span.to }] : [];
  });
  if (round.state !== 'closed' || chosen.length === 0) return null;
  const without = rows.filter(({ person }) => (choices[person] ?? null) === null).map(({ person }) => person);
  const { id, name, type } = round;
  return { what: 'wishes', round: id, name, type, chosen, without } as unknown as HouseChange;
}

function TurnWhy({ row, view }: { row: Row; view: WishesCompared }) {
  const year = useYear();
  const { from, to } = view.before;
  return (
    <Why about={`the turn of ${row.name}`}>
      <Typography variant="body2">
        {amountOfUnit(row.had, 'days')} of {view.round.typeName.toLowerCase()} from {rangeWords(from, to, year)}.
        Whoever had fewer comes first.
      </Typography>
      <Typography variant="body2" sx={{ overflowWrap: 'anywhere' }}>
        Lot {row.lot}: the lower one comes first between equals.
      </Typography>
    </Why>
  );
}

function RowPart({
  row,
  n,
  view,
  choice,
  onChoice,
}: {
  row: Row;
  n: number;
  view: WishesCompared;
  choice: number | null;
  onChoice: (wish: number | null) => void;
}) {
  const year = useYear();
  const isFixed = view.round.state !== 'closed';
  return (
    <Box component="li" sx={{ py: 1.25, borderBottom: '1px solid', borderColor: 'divider' }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
        <Typography sx={{ width: 28, fontVariantNumeric: 'tabular-nums' }} color="textSecondary">
          {n + 1}.
        </Typography>
        <Typography sx={{ fontWeight: 650 }}>{row.name}</Typography>
        <Typography variant="body2" color="textSecondary">
          {row.had === 0 ? 'none last year' : `${amountOfUnit(row.had, 'days')} last year`}
        </Typography>
        <TurnWhy row={row} view={view} />
      </Box>
      {view.round.state === 'decided' && (
        <Typography sx={{ pl: 4.5 }}>{row.given ? `Booked: ${spanWords(row.given, year)}` : 'Nothing'}</Typography>
      )}
      {view.round.state !== 'decided' && (
        <RadioGroup
          aria-label={`For ${row.name}`}
          value={choice === null ? 'none' : String(choice)}
          onChange={(_, value) => onChoice(value === 'none' ? null : Number(value))}
          sx={{ pl: 4 }}
        >
          {row.wishes.map(({ label, days, why, span }, i) => (
            <Box key={JSON.stringify(span)}>
              <FormControlLabel
                value={String(i)}
                disabled={isFixed}
                control={<Radio size="small" />}
                label={`${label}, ${amountOfUnit(days, 'days')}${row.proposed === i ? ' (proposed)' : ''}`}
              />
              {why && (
                <Typography variant="body2" color="textSecondary" sx={{ pl: 3.75 }}>
                  {why}
                </Typography>
              )}
            </Box>
          ))}
          <FormControlLabel
            value="none"
            disabled={isFixed}
            control={<Radio size="small" />}
            label={`None${row.proposed === null ? ' (proposed)' : ''}`}
          />
        </RadioGroup>
      )}
    </Box>
  );
}

function Compared({ view }: { view: WishesCompared }) {
  const { round, rows, silent } = view;
  const year = useYear();
  const [choices, setChoices] = useState<Choices>(() => proposedOf(rows));
  const changing = useChange(decisionOf(view, choices), () => {
    for (const queryKey of [['wishes'], ['leave'], ['balance']]) void queryClient.invalidateQueries({ queryKey });
  });
  return (
    <Box sx={{ maxWidth: 760 }}>
      <Typography sx={{ mb: 0.5 }}>
        {round.typeName}, {rangeWords(round.from, round.to, year)}, {round.where}
        {round.mostAway !== null && `, at most ${round.mostAway} away at once`}.{' '}
        {round.state === 'open' && `Wishes can change until ${dateWords(round.closes, year)}.`}
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 2, overflowWrap: 'anywhere' }}>
        Whoever had fewer of these days last year comes first; a lot decides between equals.{' '}
        <Why about="the lots">
          <Typography variant="body2" sx={{ overflowWrap: 'anywhere' }}>
            A lot is the first 16 letters of SHA-256 over the seed, a space and the person’s id. The SHA-256 of the seed
            was shown from the first: {round.seal}.{' '}
            {round.seed ? `The seed: ${round.seed}.` : 'The seed is shown once wishes are closed.'}
          </Typography>
        </Why>
      </Typography>
      {rows.length === 0 ? (
        <Empty title="No wishes yet">Nobody has wished for any of these days.</Empty>
      ) : (
        <Box component="form" aria-label="Decide" onSubmit={changing.send}>
          <Box component="ol" aria-label="In turn" sx={{ listStyle: 'none', p: 0, m: 0 }}>
            {rows.map((row, n) => (
              <RowPart
                key={row.person}
                {...{ row, n, view }}
                choice={choices[row.person] ?? null}
                onChoice={wish => changing.put(setChoices)({ ...choices, [row.person]: wish })}
              />
            ))}
          </Box>
          {round.state === 'closed' && (
            <Box sx={{ display: 'grid', gap: 2, mt: 2, maxWidth: 640 }}>
              <ChangeEnd
                changing={changing}
                verb="Book these for everybody"
                onCancel={() => {
                  setChoices(proposedOf(rows));
                  changing.anew();
                }}
              />
            </Box>
          )}
        </Box>
      )}
      {silent.length > 0 && (
        <Typography variant="body2" color="textSecondary" sx={{ mt: 2 }}>
          No wishes from {silent.length === 1 ? 'one person' : `${silent.length} people`}:{' '}
          {silent
            .slice(0, 12)
            .map(one => one.name)
            .join(', ')}
          {silent.length > 12 && ` and ${silent.length - 12} more`}.
        </Typography>
      )}
    </Box>
  );
}

export function ComparePlace() {
  const { id = '' } = useParams();
  const found = useQuery(wishesQuery(Number(id)));
  const navigate = useNavigate();
  const drop = useMutation({
    mutationFn: () => call('DELETE /wishes/:id', { params: { id: Number(id) } }),
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: wishRoundsQuery.queryKey });
      await navigate('/wishes');
    },
  });
  return (
    <Page
      title={found.data ? found.data.round.name : 'Wishes'}
      actions={
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <Button component={RouterLink} to="/wishes">
            All rounds
          </Button>
          {found.data && found.data.round.state === 'decided' ? (
            <Button component={RouterLink} to="/house/changes">
              Undo in Changes
            </Button>
          ) : (
            <Button color="error" onClick={() => drop.mutate()} disabled={drop.isPending || !found.data}>
              Remove the round
            </Button>
          )}
        </Box>
      }
    >
      <FailureNote fault={drop.error} />
      <Loaded query={found}>{view => <Compared key={`${view.round.state}`} view={view} />}</Loaded>
    </Page>
  );
}
