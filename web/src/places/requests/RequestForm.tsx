/** What the answers of a form come to, worked out by the server while they are typed. */

import Typography from '@mui/material/Typography';
import type { AheadView, AskView, PreviewView } from '@north-pebble/contract';
import { amountOfUnit, amountWords, fullDate } from '@north-pebble/core/time';
import { allSteps, currencyOf, type Definition, figureReason, figureWords } from '@north-pebble/core/workflow';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { call } from '../../api/client.ts';
import type { Typed } from '../../parts/form/FormFields.tsx';
import { Note } from '../../parts/Notes.tsx';
import { BalanceWhy, DaysWhy } from '../../parts/request/leave/LeaveWhy.tsx';
import { Usually } from '../../parts/request/Usually.tsx';

/** Waits until a value has stood still for a moment. */
export function useSettled<T>(value: T, pause = 250): T {
  const [settled, setSettled] = useState(value);
  const key = JSON.stringify(value);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the text of the value stands for the value
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), pause);
    return () => clearTimeout(timer);
  }, [key, pause]);
  return settled;
}

type Asked = { answers: Typed; touched?: string[]; subject?: string | null };

export function usePreview(workflow: string, request: string | null, asked: Asked) {
  const settled = useSettled(asked);
  return useQuery({
    queryKey: ['preview', workflow, request, settled],
    queryFn: ({ signal }) => call('POST /preview', { body: { workflow, request, ...settled }, signal }),
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
}

/** Figures of a form without leave, each in words. */
function Figures({ preview, definition }: { preview: PreviewView | undefined; definition: Definition }) {
  return definition.figures.map(figure => {
    const value = preview?.figures[figure.id];
    const known = value !== null && value !== undefined;
    return (
      <Note
        key={figure.id}
        tone="now"
        title={known ? `${figure.name}: ${figureWords(figure, value, currencyOf(definition))}` : figure.name}
      >
        {known ? figureReason(definition, figure) : 'Worked out as soon as there is enough to work it out from.'}
      </Note>
    );
  });
}

/** The margin of the form: what the answers come to, each with its reasons. */
export function PreviewMargin({ preview, definition }: { preview: PreviewView | undefined; definition: Definition }) {
  const days = definition.figures.find(f => f.unit === 'days');
  const value = days && preview?.figures[days.id];
  const { leave } = preview ?? {};
  const asksLeave = definition.form.fields.some(f => f.kind === 'leave span');
  if (!asksLeave) return <Figures preview={preview} definition={definition} />;
  if (!leave || typeof value !== 'number') {
    return (
      <Note tone="now" title="Days and balance">
        Worked out as soon as there is a first and a last day.
      </Note>
    );
  }
  const words = amountOfUnit(value, 'days');
  return (
    <>
      <Note tone="now" title={words}>
        Counted in your own work pattern and holidays.
        <DaysWhy days={leave.days} total={words} />
      </Note>
      {leave.notes.map(note => (
        <Note key={note} tone="waiting" title="Good to know">
          {note}
        </Note>
      ))}
      {leave.balance && (
        <Note
          tone={leave.balance.fits ? 'now' : 'stop'}
          title={`Balance ${amountWords(leave.balance.now)} → ${amountWords(leave.balance.after)}${leave.balance.unit === 'hours' ? ' hours' : ''}`}
        >
          {leave.balance.held > 0 &&
            `${amountOfUnit(leave.balance.held, leave.balance.unit)} asked for in other requests. `}
          {leave.balance.unit === 'hours' && `It takes ${amountOfUnit(leave.balance.amount, 'hours')}. `}
          {leave.balance.lowest.balance < leave.balance.after &&
            `At the lowest ${amountOfUnit(leave.balance.lowest.balance, leave.balance.unit)} on ${fullDate(leave.balance.lowest.on)}. `}
          With everything that is booked and asked for.
          <BalanceWhy ahead={leave.balance} />
        </Note>
      )}
      <Note
        tone={(preview?.others.length ?? 0) > 0 ? 'waiting' : 'good'}
        title={preview?.others.length ? 'Also away then' : 'Nobody else of your team is away'}
      >
        {preview?.others.join(', ')}
      </Note>
    </>
  );
}

export function WhatHappensNext({
  definition,
  usually = null,
  ahead = null,
}: {
  definition: Definition;
  usually?: AskView['usually'];
  /** The path as it is known by what was filled in so far. */
  ahead?: AheadView | null;
}) {
  // The margin says that nobody has to approve it: nothing else is said here.
  if (ahead?.ends && ahead.steps.length === 0) return null;
  const deciders = allSteps(definition).filter(s => s.verb === 'Decide' || s.verb === 'Do').length;
  return (
    <Typography variant="body2" color="textSecondary">
      {deciders === 0
        ? 'It is handled at once.'
        : 'It goes to whoever handles it, and you are told by mail how it ends.'}
      {usually && (
        <>
          {' '}
          <Usually time={usually} />
        </>
      )}
    </Typography>
  );
}
