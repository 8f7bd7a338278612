/** What if I took …: spans that are thought of, each with what it takes and leaves, to be compared. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { BalanceView, TriedView } from '@north-pebble/contract';
import { amountOfUnit, amountWords, dateWords } from '@north-pebble/core/time';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { call } from '../../api/client.ts';
import { asTyped, isWholeSpan, SpanField, type SpanTyped } from '../../parts/form/SpanField.tsx';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { FailureNote } from '../../parts/Notes.tsx';

const most = 4;

function Tried({ one }: { one: TriedView[number] }) {
  const year = useYear();
  return (
    <Typography variant="body2" sx={{ color: one.fits ? 'text.primary' : 'error.main' }}>
      {one.amount !== null && `Takes ${amountOfUnit(one.amount, one.unit)}`}
      {one.after !== null && `, and leaves ${amountWords(one.after)} at its end`}
      {one.lowest !== null &&
        one.after !== null &&
        one.lowest.balance < one.after &&
        `; at the lowest ${amountWords(one.lowest.balance)} on ${dateWords(one.lowest.on, year)}`}
      {one.amount !== null && '. '}
      {one.says.join(' ')}
    </Typography>
  );
}

export function WhatIf({ view, type }: { view: BalanceView; type: string }) {
  const { self } = useHere();
  const [spans, setSpans] = useState<SpanTyped[]>([asTyped(null)]);
  const tried = useMutation({
    mutationFn: () =>
      call('POST /balances/:person/try', {
        params: { person: view.person },
        body: { type, spans: spans.filter(isWholeSpan) } as never,
      }),
  });
  const put = (n: number, span: SpanTyped) => {
    tried.reset();
    setSpans(spans.map((one, i) => (i === n ? span : one)));
  };
  const whole = spans.filter(isWholeSpan);
  return (
    <Box component="section" aria-label="What if" sx={{ mt: 3 }}>
      <Typography variant="h3" component="h2">
        What if {view.person === self.id ? 'I' : view.name} took …
      </Typography>
      <Box
        component="form"
        onSubmit={event => {
          event.preventDefault();
          if (whole.length > 0) tried.mutate();
        }}
        sx={{ display: 'grid', gap: 1.5, mt: 1 }}
      >
        {spans.map((span, n) => {
          const at = spans.slice(0, n).filter(isWholeSpan).length;
          const found = isWholeSpan(span) ? tried.data?.[at] : undefined;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: spans that are thought of have no identity besides their place
            <Box key={n}>
              <SpanField label={n === 0 ? 'Dates' : `Or dates ${n + 1}`} value={span} onChange={next => put(n, next)} />
              {found && <Tried one={found} />}
            </Box>
          );
        })}
        <FailureNote fault={tried.error} />
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <Button type="submit" variant="contained" color="primary" disabled={whole.length === 0 || tried.isPending}>
            Work it out
          </Button>
          <Button
            disabled={spans.length >= most}
            onClick={() => {
              tried.reset();
              setSpans([...spans, asTyped(null)]);
            }}
          >
            Compare another
          </Button>
          {view.person === self.id && (
            <Button component={RouterLink} to="/requests">
              Ask for leave
            </Button>
          )}
        </Box>
      </Box>
    </Box>
  );
}
