/** What is waited for, what is recorded, named values, and checklists. */

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { datedKinds, idFrom } from '@north-pebble/core/form';
import {
  type Definition,
  isHandedIn,
  type RecordEffect,
  setAt,
  type Until,
  type UntilHandedIn,
} from '@north-pebble/core/workflow';
import { useState } from 'react';
import { ItemList } from '../../../../parts/form/ItemList.tsx';
import { FormulaField } from './FormulaField.tsx';
import { AmountFields, type Around, Buttons, type Props, useAround } from './shared.tsx';

const fieldsOf = (definition: Definition, kinds: readonly string[]) =>
  definition.form.fields.filter(f => kinds.includes(f.kind));

const untilKinds: { kind: Until['kind']; words: string }[] = [
  { kind: 'time', words: 'for some working time' },
  { kind: 'before', words: 'until so many working days before a date' },
  { kind: 'date', words: 'until a date that is worked out' },
  { kind: 'document', words: 'until a document is in' },
  { kind: 'last day', words: 'until the last day of an absence is known' },
  { kind: 'requests', words: 'until the requests that it opened have ended' },
];

function newUntil(kind: Until['kind'], definition: Definition): Until {
  const date = fieldsOf(definition, datedKinds)[0]?.id ?? '';
  switch (kind) {
    case 'time':
      return { kind, amount: { workingDays: 1 } };
    case 'before':
      return { kind, workingDays: 1, field: date };
    case 'date':
      return { kind, formula: definition.form.fields.find(f => f.kind === 'date')?.label ?? 'today()' };
    case 'document':
      return { kind, field: fieldsOf(definition, ['document', 'files'])[0]?.id ?? '' };
    case 'last day':
      return { kind, field: fieldsOf(definition, ['leave span'])[0]?.id ?? '' };
    case 'requests':
      return { kind };
  }
}

/** How often whoever is waited for is reminded; not at all where nothing is said. */
function Reminders({ until, onChange }: { until: UntilHandedIn; onChange: (until: Until) => void }) {
  const { remind, ...without } = until;
  const every = remind && 'workingDays' in remind.every ? remind.every.workingDays : '';
  const put = (days: number, atMost: number) =>
    onChange(days > 0 ? { ...until, remind: { every: { workingDays: days }, atMost } } : without);
  return (
    <>
      <TextField
        type="number"
        label="Reminded every so many working days"
        helperText="Nothing where nobody is reminded."
        value={every}
        onChange={event => put(Number(event.target.value), remind?.atMost ?? 5)}
        slotProps={{ htmlInput: { min: 0, max: 100 } }}
      />
      {remind && (
        <TextField
          type="number"
          label="At most so many times"
          value={remind.atMost}
          onChange={event => put(Number(every) || 1, Math.min(20, Math.max(1, Number(event.target.value))))}
          slotProps={{ htmlInput: { min: 1, max: 20 } }}
        />
      )}
    </>
  );
}

export function UntilEditor({ edit, definition, onDone }: Props<'until'>) {
  const [until, setUntil] = useState<Until>(edit.until);
  const choose = (label: string, kinds: readonly string[], value: string, onChange: (id: string) => void) => (
    <TextField select label={label} value={value} onChange={event => onChange(event.target.value)}>
      {fieldsOf(definition, kinds).map(f => (
        <MenuItem key={f.id} value={f.id}>
          {f.label}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        onDone(setAt(definition, edit.path, until));
      }}
    >
      <Box sx={{ display: 'grid', gap: 1.25 }}>
        <TextField
          select
          autoFocus
          label="Wait"
          value={until.kind}
          onChange={event => setUntil(newUntil(event.target.value as Until['kind'], definition))}
        >
          {untilKinds.map(({ kind, words }) => (
            <MenuItem key={kind} value={kind}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        {until.kind === 'time' && (
          <AmountFields label="For" amount={until.amount} onChange={amount => setUntil({ kind: 'time', amount })} />
        )}
        {until.kind === 'before' && (
          <Box sx={{ display: 'grid', gridTemplateColumns: '120px 1fr', gap: 1 }}>
            <TextField
              label="Working days"
              value={until.workingDays}
              onChange={event =>
                setUntil({ ...until, workingDays: Math.min(400, Number(event.target.value.replace(/\D/g, ''))) })
              }
            />
            {choose('before', datedKinds, until.field, field => setUntil({ ...until, field }))}
          </Box>
        )}
        {until.kind === 'date' && (
          <FormulaField
            label="Date"
            source={until.formula}
            onChange={formula => setUntil({ ...until, formula })}
            definition={definition}
            wanted="date"
          />
        )}
        {(until.kind === 'date' || until.kind === 'before') && (
          <TextField
            type="time"
            label="At (the beginning of the day when empty)"
            value={until.at ?? ''}
            onChange={event => setUntil({ ...until, at: event.target.value || undefined })}
            slotProps={{ inputLabel: { shrink: true } }}
          />
        )}
        {until.kind === 'document' &&
          choose('Document', ['document', 'files'], until.field, field => setUntil({ ...until, field }))}
        {until.kind === 'last day' &&
          choose('Absence', ['leave span'], until.field, field => setUntil({ ...until, field }))}
        {isHandedIn(until) && <Reminders until={until} onChange={setUntil} />}
      </Box>
      <Buttons onCancel={() => onDone()} />
    </form>
  );
}

const effectKinds: { kind: RecordEffect['kind']; words: string }[] = [
  { kind: 'book leave', words: 'book the leave' },
  { kind: 'planner', words: 'put it on the planner' },
  { kind: 'adjust', words: 'put days on a balance, or take them off' },
  { kind: 'set', words: 'set a field' },
  { kind: 'make letter', words: 'make a letter as a PDF' },
  { kind: 'keep paper', words: 'keep a paper in the register' },
  { kind: 'person', words: 'change the person’s record' },
  { kind: 'add person', words: 'put somebody new on file' },
  { kind: 'add post', words: 'put a new post on file' },
  { kind: 'add row', words: 'add a row to a list' },
  { kind: 'change row', words: 'change a row of a list' },
  { kind: 'open', words: 'open another request' },
];

export function newEffect(
  kind: RecordEffect['kind'],
  definition: Definition,
  around: Pick<Around, 'lists' | 'workflows'>,
): RecordEffect {
  const first = (...kinds: readonly string[]) =>
    fieldsOf(definition, kinds)[0]?.id ?? definition.form.fields[0]?.id ?? 'field';
  const label = definition.form.fields[0]?.label ?? 'Asker';
  switch (kind) {
    case 'book leave':
      return {
        kind,
        span: first('leave span'),
        type:
          definition.form.fields.find(f => f.kind === 'choice' && f.options === 'leave types')?.id ?? first('choice'),
        planner: true,
      };
    case 'planner':
      return { kind, span: first('date range', 'leave span'), label: definition.name };
    case 'adjust':
      return {
        kind,
        type:
          definition.form.fields.find(f => f.kind === 'choice' && f.options === 'leave types')?.id ?? first('choice'),
        amount: '1',
      };
    case 'set':
      return { kind, field: first('text'), formula: '""' };
    case 'make letter':
      return { kind, letter: definition.letters?.[0]?.id ?? 'letter', field: first('files') };
    case 'keep paper':
      return { kind, field: first('document'), as: fieldsOf(definition, ['document'])[0]?.label ?? 'Paper' };
    case 'person':
      return { kind, property: 'post', formula: label };
    case 'add person':
      return {
        kind,
        values: [
          { name: 'name', formula: definition.form.fields.find(f => f.kind === 'text')?.label ?? label },
          { name: 'first day', formula: definition.form.fields.find(f => f.kind === 'date')?.label ?? label },
        ],
      };
    case 'add post':
      return { kind, values: [{ name: 'title', formula: label }] };
    case 'add row':
      return { kind, list: around.lists[0]?.id ?? 'list', values: [{ name: 'Title', formula: label }] };
    case 'change row':
      return { kind, row: first('pick'), values: [{ name: 'Title', formula: label }] };
    case 'open':
      return { kind, workflow: around.workflows[0]?.id ?? 'workflow', values: [] };
  }
}

export function EffectEditor({ edit, definition, onDone }: Props<'effect'>) {
  const around = useAround();
  const [effect, setEffect] = useState<RecordEffect>(edit.effect);
  const options =
    effect.kind === 'add row'
      ? around.lists.map(l => ({ id: l.id, name: l.name }))
      : effect.kind === 'open'
        ? around.workflows
        : [];
  const chosen = effect.kind === 'add row' ? effect.list : effect.kind === 'open' ? effect.workflow : '';
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        onDone(setAt(definition, edit.path, effect));
      }}
    >
      <Box sx={{ display: 'grid', gap: 1.25 }}>
        <TextField
          select
          autoFocus
          label="What is recorded"
          value={effect.kind}
          onChange={event => setEffect(newEffect(event.target.value as RecordEffect['kind'], definition, around))}
        >
          {effectKinds.map(({ kind, words }) => (
            <MenuItem key={kind} value={kind}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        {(effect.kind === 'add row' || effect.kind === 'open') && (
          <TextField
            select
            label={effect.kind === 'open' ? 'Workflow' : 'List'}
            value={options.some(o => o.id === chosen) ? chosen : ''}
            onChange={event =>
              setEffect(
                effect.kind === 'open'
                  ? { ...effect, workflow: event.target.value }
                  : { ...effect, list: event.target.value },
              )
            }
          >
            {options.map(o => (
              <MenuItem key={o.id} value={o.id}>
                {o.name}
              </MenuItem>
            ))}
          </TextField>
        )}
      </Box>
      <Buttons onCancel={() => onDone()} />
    </form>
  );
}

export function ChecklistEditor({ edit, definition, onDone }: Props<'checklist'>) {
  const [items, setItems] = useState<readonly { id: string | null; label: string }[]>(edit.items);
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        // An item that is new has its id from the words that it has in the end.
        const ids = edit.items.map(i => i.id);
        const all = items.map(({ id, label }) => {
          if (id !== null) return { id, label };
          const fresh = idFrom(label, ids);
          ids.push(fresh);
          return { id: fresh, label };
        });
        onDone(setAt(definition, edit.path, all.length > 0 ? all : undefined));
      }}
    >
      <ItemList
        label="Checklist"
        one="item"
        most={40}
        items={items.map(i => i.label)}
        onChange={now =>
          setItems(
            now.map(({ words, before }) => ({
              id: before === null ? null : (items[before]?.id ?? null),
              label: words,
            })),
          )
        }
      />
      <Buttons onCancel={() => onDone()} />
    </form>
  );
}
