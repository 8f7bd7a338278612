/** One’s own wishes in a round: up to three, the first one first. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { WishRoundsView } from '@north-pebble/contract';
import { spanWords } from '@north-pebble/core/form';
import type { HalfSpan } from '@north-pebble/core/leave';
import { dateWords } from '@north-pebble/core/time';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { queryClient, wishRoundsQuery } from '../../api/queries.ts';
import { isWholeSpan, SpanField, type SpanTyped } from '../../parts/form/SpanField.tsx';
import { useYear } from '../../parts/frame/session.ts';
import { FailureNote } from '../../parts/Notes.tsx';

type Round = WishRoundsView['rounds'][number];

const most = 3;
const nth = ['First wish', 'Second wish', 'Third wish'];
const none: SpanTyped = { from: { date: '', half: 'am' }, to: { date: '', half: 'pm' } };

const isEmpty = (typed: SpanTyped): boolean => typed.from.date === '' && typed.to.date === '';

function Editor({ round, onDone }: { round: Round; onDone: () => void }) {
  const own = round.own ?? [];
  const [typed, setTyped] = useState<SpanTyped[]>(() => (own.length > 0 ? own.map(one => ({ ...one })) : [none]));
  const keep = useMutation({
    mutationFn: () =>
      call('PUT /wishes/:id/own', {
        params: { id: round.id },
        body: { spans: typed.filter(one => !isEmpty(one)) as HalfSpan[] },
      }),
    onSuccess: view => {
      queryClient.setQueryData(wishRoundsQuery.queryKey, view);
      onDone();
    },
  });
  const faults = problemOf(keep.error)?.faults ?? [];
  const said = typed.filter(one => !isEmpty(one));
  const faultOf = (typedAt: number): string | undefined => {
    const sent = said.indexOf(typed[typedAt] as SpanTyped);
    return faults.find(one => one.field === `spans.${sent}` || one.field.startsWith(`spans.${sent}.`))?.message;
  };
  return (
    <Box
      component="form"
      aria-label={`Your wishes for ${round.name}`}
      onSubmit={event => {
        event.preventDefault();
        keep.mutate();
      }}
      sx={{ display: 'grid', gap: 2, mt: 1.5, maxWidth: 560 }}
    >
      {typed.map((one, n) => (
        <SpanField
          key={nth[n]}
          label={nth[n] as string}
          value={one}
          onChange={next => {
            keep.reset();
            setTyped(typed.map((before, i) => (i === n ? next : before)));
          }}
          fault={faultOf(n)}
        />
      ))}
      {typed.length < most && (
        <Box>
          <Button onClick={() => setTyped([...typed, none])}>Another wish</Button>
        </Box>
      )}
      <FailureNote fault={faults.length === 0 ? keep.error : null} />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" color="primary" disabled={keep.isPending || !said.every(isWholeSpan)}>
          Save wishes
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </Box>
    </Box>
  );
}

export function OwnWishes({ round }: { round: Round }) {
  const year = useYear();
  const [isOpen, setOpen] = useState(false);
  const own = round.own ?? [];
  return (
    <Box>
      {own.length > 0 ? (
        <Box component="ol" aria-label={`Your wishes for ${round.name}`} sx={{ pl: 2.5, my: 0.5 }}>
          {own.map(span => (
            <li key={JSON.stringify(span)}>{spanWords(span, year)}</li>
          ))}
        </Box>
      ) : (
        round.state === 'open' && !isOpen && <Typography sx={{ my: 0.5 }}>You have no wish here yet.</Typography>
      )}
      {round.state === 'decided' && (
        <Typography sx={{ fontWeight: 600 }}>
          {round.given
            ? `Booked for you: ${spanWords(round.given, year)}.`
            : own.length > 0
              ? 'None of your wishes could be met this time.'
              : 'It is decided.'}
        </Typography>
      )}
      {round.state === 'closed' && (
        <Typography variant="body2" color="textSecondary">
          Wishes closed on {dateWords(round.closes, year)}. HR decides next.
        </Typography>
      )}
      {round.state === 'open' &&
        (isOpen ? (
          <Editor round={round} onDone={() => setOpen(false)} />
        ) : (
          <Button
            variant={own.length > 0 ? 'outlined' : 'contained'}
            color="primary"
            onClick={() => setOpen(true)}
            sx={{ mt: 0.5 }}
          >
            {own.length > 0 ? 'Change your wishes' : 'Add your wishes'}
          </Button>
        ))}
    </Box>
  );
}
