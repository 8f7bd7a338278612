/** Where it goes on, outcomes with what they need, and what is sent back for rework. */

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import MenuList from '@mui/material/MenuList';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { isAsked } from '@north-pebble/core/form';
import {
  type Definition,
  type Go,
  mayGoTo,
  type Outcome,
  type Rework,
  setAt,
  structure,
} from '@north-pebble/core/workflow';
import { useState } from 'react';
import { Buttons, type Props } from './shared.tsx';

/** Where a step may lead: on, to a step that it can reach, or to a closing. */
export function goChoices(definition: Definition, from: string): { words: string; go: Go }[] {
  return [
    { words: 'go on to the next step', go: { to: 'next' } },
    ...structure(definition)
      .all.slice(1)
      .filter(p => p.step.id !== from && mayGoTo(definition, from, p.step.id))
      .map(p => ({
        words: `go to ${p.number}, ${p.step.verb.toLowerCase()}`,
        go: { to: 'step' as const, step: p.step.id },
      })),
    ...definition.closings.map(closing => ({
      words: `close as ${closing.name}`,
      go: { to: 'close' as const, closing: closing.id },
    })),
  ];
}

function ReworkFields({
  definition,
  step,
  rework,
  onChange,
}: {
  definition: Definition;
  step: string;
  rework: Rework;
  onChange: (rework: Rework) => void;
}) {
  const people = structure(definition).all.filter(
    p => (p.step.verb === 'Decide' || p.step.verb === 'Do') && p.step.id !== step,
  );
  const fields = definition.form.fields.filter(isAsked);
  const resumes = structure(definition)
    .all.slice(1)
    .filter(p => p.step.id === step || mayGoTo(definition, step, p.step.id));
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <TextField
        select
        size="small"
        label="Back to"
        value={rework.whom ?? ''}
        onChange={event => {
          const { whom: _whom, ...rest } = rework;
          onChange(event.target.value ? { ...rest, whom: event.target.value } : rest);
        }}
      >
        <MenuItem value="">the asker</MenuItem>
        {people.map(p => (
          <MenuItem key={p.step.id} value={p.step.id}>
            whoever settled step {p.number}
          </MenuItem>
        ))}
      </TextField>
      <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
        <Typography variant="body2" component="legend" color="textSecondary">
          May change
        </Typography>
        {fields.map(field => (
          <FormControlLabel
            key={field.id}
            control={
              <Checkbox
                size="small"
                checked={rework.fields.includes(field.id)}
                onChange={(_, on) =>
                  onChange({
                    ...rework,
                    fields: fields.map(f => f.id).filter(id => (id === field.id ? on : rework.fields.includes(id))),
                  })
                }
              />
            }
            label={field.label}
          />
        ))}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 110px', gap: 1 }}>
        <TextField
          select
          size="small"
          label="Again from"
          value={rework.resume}
          onChange={event => onChange({ ...rework, resume: event.target.value })}
        >
          {resumes.map(p => (
            <MenuItem key={p.step.id} value={p.step.id}>
              {p.number}, {p.step.verb.toLowerCase()}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          size="small"
          label="At most"
          value={rework.atMost}
          onChange={event =>
            onChange({
              ...rework,
              atMost: Math.max(1, Math.min(20, Number(event.target.value.replace(/\D/g, '')) || 1)),
            })
          }
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
      </Box>
    </Box>
  );
}

const defaultRework = (definition: Definition, step: string): Rework => ({
  to: 'rework',
  fields: definition.form.fields.filter(isAsked).map(f => f.id),
  resume: step,
  atMost: 3,
});

export function GoEditor({ edit, definition, onDone }: Props<'go'>) {
  const [rework, setRework] = useState<Rework | null>(edit.go.to === 'rework' ? edit.go : null);
  const isOutcome = edit.path.at(-1) === 'leads';
  if (rework) {
    return (
      <form
        onSubmit={event => {
          event.preventDefault();
          if (rework.fields.length > 0) onDone(setAt(definition, edit.path, rework));
        }}
      >
        <ReworkFields definition={definition} step={edit.step} rework={rework} onChange={setRework} />
        <Button size="small" onClick={() => setRework(null)}>
          Let it lead elsewhere
        </Button>
        <Buttons disabled={rework.fields.length === 0} onCancel={() => onDone()} />
      </form>
    );
  }
  return (
    <MenuList autoFocusItem>
      {goChoices(definition, edit.step).map(({ words, go }) => (
        <MenuItem
          key={words}
          selected={JSON.stringify(go) === JSON.stringify(edit.go)}
          onClick={() => onDone(setAt(definition, edit.path, go))}
        >
          {words}
        </MenuItem>
      ))}
      {isOutcome && definition.form.fields.length > 0 && (
        <MenuItem onClick={() => setRework(defaultRework(definition, edit.step))}>send back for changes …</MenuItem>
      )}
    </MenuList>
  );
}

export function OutcomeFields({
  outcome,
  onChange,
  definition,
  step,
}: {
  outcome: Outcome;
  onChange: (outcome: Outcome) => void;
  definition: Definition;
  step: string;
}) {
  const fields = definition.form.fields.filter(isAsked);
  const { leads } = outcome;
  const choices = goChoices(definition, step);
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <TextField
        autoFocus
        size="small"
        label="Words on the button"
        value={outcome.label}
        onChange={event => onChange({ ...outcome, label: event.target.value })}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <TextField
          select
          size="small"
          label="It is"
          value={outcome.tone}
          onChange={event => onChange({ ...outcome, tone: event.target.value as Outcome['tone'] })}
        >
          <MenuItem value="good">in favour</MenuItem>
          <MenuItem value="rework">for rework</MenuItem>
          <MenuItem value="bad">against</MenuItem>
        </TextField>
        <TextField
          select
          size="small"
          label="Note"
          value={outcome.note}
          onChange={event => onChange({ ...outcome, note: event.target.value as Outcome['note'] })}
        >
          <MenuItem value="none">no note</MenuItem>
          <MenuItem value="may">may be given</MenuItem>
          <MenuItem value="must">needed</MenuItem>
        </TextField>
      </Box>
      <TextField
        select
        size="small"
        label="Needs these fields"
        value={outcome.needs ?? []}
        slotProps={{ select: { multiple: true } }}
        onChange={event => {
          const chosen = event.target.value as unknown as string[];
          const { needs: _needs, ...rest } = outcome;
          onChange(chosen.length > 0 ? { ...rest, needs: chosen } : rest);
        }}
      >
        {fields.map(f => (
          <MenuItem key={f.id} value={f.id}>
            {f.label}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        size="small"
        label="Leads to"
        value={leads.to === 'rework' ? 'rework' : JSON.stringify(leads)}
        onChange={event =>
          onChange({
            ...outcome,
            leads:
              event.target.value === 'rework'
                ? defaultRework(definition, step)
                : (JSON.parse(event.target.value) as Go),
          })
        }
      >
        {choices.map(({ words, go }) => (
          <MenuItem key={words} value={JSON.stringify(go)}>
            {words}
          </MenuItem>
        ))}
        <MenuItem value="rework" disabled={fields.length === 0}>
          send back for changes
        </MenuItem>
      </TextField>
      {leads.to === 'rework' && (
        <ReworkFields
          definition={definition}
          step={step}
          rework={leads}
          onChange={next => onChange({ ...outcome, leads: next })}
        />
      )}
    </Box>
  );
}

export function OutcomeEditor({ edit, definition, onDone }: Props<'outcome'>) {
  const [outcome, setOutcome] = useState<Outcome>(edit.outcome);
  const wrong = outcome.label.trim() === '' || (outcome.leads.to === 'rework' && outcome.leads.fields.length === 0);
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        if (!wrong) onDone(setAt(definition, edit.path, { ...outcome, label: outcome.label.trim() }));
      }}
    >
      <OutcomeFields outcome={outcome} onChange={setOutcome} definition={definition} step={edit.step} />
      <Buttons disabled={wrong} onCancel={() => onDone()} />
    </form>
  );
}
