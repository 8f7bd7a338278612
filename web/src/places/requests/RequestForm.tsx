/** The form of a workflow in one column, with figures beside it worked out while typing. */

import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { LeaveTypeChoice, PreviewView } from '@north-pebble/contract';
import { amountOfUnit, amountWords } from '@north-pebble/core/time';
import type { Definition, Field, FieldFault } from '@north-pebble/core/workflow';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { call } from '../../api/client.ts';
import { BalanceWhy, DaysWhy } from '../../parts/LeaveWhy.tsx';
import { Note } from '../../parts/Notes.tsx';
import { asTyped, SpanField } from '../../parts/SpanField.tsx';

export type Typed = Record<string, unknown>;

export type FormProps = {
  definition: Definition;
  leaveTypes: LeaveTypeChoice[];
  typed: Typed;
  onChange: (typed: Typed) => void;
  faults: FieldFault[];
  /** Fields that may be changed; all when not said. */
  open?: readonly string[];
};

/** What the form would send: spans that are not typed to their end are left out. */
export function answersOf(definition: Definition, typed: Typed): Typed {
  const answers: Typed = {};
  for (const field of definition.form.fields) {
    const value = typed[field.id];
    if (field.kind === 'leave span') {
      const span = asTyped(value);
      if (span.from.date && span.to.date) answers[field.id] = span;
    } else if (value !== undefined && value !== '' && value !== null) answers[field.id] = value;
  }
  return answers;
}

/** A choice with one option is chosen already. */
export function initialTyped(definition: Definition, given: Typed = {}): Typed {
  const typed: Typed = { ...given };
  for (const field of definition.form.fields) {
    if (field.kind !== 'choice' || typed[field.id] !== undefined) continue;
    const options = field.options === 'leave types' ? field.only : field.options;
    if (options?.[0]) typed[field.id] = options[0];
  }
  return typed;
}

function FieldInput({
  field,
  value,
  onChange,
  fault,
  closed,
  highlighted,
  leaveTypes,
}: {
  field: Field;
  value: unknown;
  onChange: (value: unknown) => void;
  fault: string | undefined;
  closed: boolean;
  highlighted: boolean;
  leaveTypes: LeaveTypeChoice[];
}) {
  const edge = highlighted ? { borderLeft: '3px solid', borderColor: 'secondary.main', pl: 1.5 } : undefined;
  const help = fault ?? field.help ?? ' ';
  switch (field.kind) {
    case 'leave span':
      return (
        <SpanField
          label={field.label}
          value={value}
          onChange={onChange}
          disabled={closed}
          fault={fault}
          help={field.help}
          highlighted={highlighted}
        />
      );
    case 'choice': {
      const options =
        field.options === 'leave types'
          ? leaveTypes.filter(t => field.only?.includes(t.id) ?? true)
          : field.options.map(name => ({ id: name, name }));
      return (
        <TextField
          select
          fullWidth
          label={field.label}
          value={value ?? ''}
          disabled={closed || options.length === 1}
          error={fault !== undefined}
          helperText={help}
          onChange={event => onChange(event.target.value)}
          sx={edge}
        >
          {options.map(option => (
            <MenuItem key={option.id} value={option.id}>
              {option.name}
            </MenuItem>
          ))}
        </TextField>
      );
    }
    case 'yes/no':
      return (
        <FormControlLabel
          control={<Switch checked={value === true} disabled={closed} onChange={(_, on) => onChange(on)} />}
          label={field.label}
        />
      );
    default:
      return (
        <TextField
          fullWidth
          multiline={field.kind === 'long text'}
          minRows={field.kind === 'long text' ? 2 : undefined}
          label={field.required ? field.label : `${field.label} (may stay empty)`}
          value={value ?? ''}
          disabled={closed}
          error={fault !== undefined}
          helperText={help}
          onChange={event => onChange(event.target.value)}
          sx={edge}
        />
      );
  }
}

export function RequestForm({ definition, leaveTypes, typed, onChange, faults, open }: FormProps) {
  return (
    <Box sx={{ display: 'grid', gap: 1.5, maxWidth: 560 }}>
      {definition.form.fields.map(field => (
        <FieldInput
          key={field.id}
          field={field}
          value={typed[field.id]}
          onChange={value => onChange({ ...typed, [field.id]: value })}
          fault={faults.find(f => f.field === field.id)?.message}
          closed={open !== undefined && !open.includes(field.id)}
          highlighted={open?.includes(field.id) ?? false}
          leaveTypes={leaveTypes}
        />
      ))}
    </Box>
  );
}

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

export function usePreview(workflow: string, request: string | null, answers: Typed) {
  const settled = useSettled(answers);
  return useQuery({
    queryKey: ['preview', workflow, request, settled],
    queryFn: ({ signal }) =>
      call<PreviewView>('/preview', { method: 'POST', body: { workflow, request, answers: settled }, signal }),
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
}

/** The margin of the form: what the answers come to, each with its reasons. */
export function PreviewMargin({ preview, definition }: { preview: PreviewView | undefined; definition: Definition }) {
  const days = definition.figures.find(f => f.unit === 'days');
  const value = days && preview?.figures[days.id];
  const { leave } = preview ?? {};
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
        counted in your own work pattern and holidays
        <DaysWhy days={leave.days} total={words} />
      </Note>
      {leave.balance && (
        <Note
          tone={leave.balance.after < 0 ? 'stop' : 'now'}
          title={`Balance ${amountWords(leave.balance.now)} → ${amountWords(leave.balance.after)}`}
        >
          {leave.balance.held > 0 && `${amountOfUnit(leave.balance.held, leave.balance.unit)} held by other requests. `}
          {leave.balance.unit === 'hours' && 'In hours, as your plan counts. '}
          with everything that is booked and asked for
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

export function WhatHappensNext({ definition }: { definition: Definition }) {
  const deciders = definition.steps.filter(s => s.verb === 'Decide').length;
  return (
    <Typography variant="body2" color="textSecondary">
      {deciders === 0
        ? 'It is booked at once.'
        : 'It goes to whoever decides it, and you are told by mail how it ends.'}
    </Typography>
  );
}
