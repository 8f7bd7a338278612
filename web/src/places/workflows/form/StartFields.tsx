/** What stands in a field before anybody types. */

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type Field, isNumeric, knownFacts, type Start } from '@north-pebble/core/form';
import type { Definition } from '@north-pebble/core/workflow';
import { FormulaField } from '../steps/editors/FormulaField.tsx';
import { useAround } from '../steps/editors/shared.tsx';

const startKinds = ['nothing', 'fixed', 'known', 'formula', 'picked'] as const;

export function StartFields({
  field,
  definition,
  change,
}: {
  field: Field;
  definition: Definition;
  change: (next: Partial<Record<string, unknown>>) => void;
}) {
  const { lists } = useAround();
  const { start } = field;
  const sources = definition.form.fields.filter(f => f.id !== field.id && (f.kind === 'pick' || f.kind === 'person'));
  const source = start?.from === 'picked' ? definition.form.fields.find(f => f.id === start.field) : undefined;
  const columns =
    source?.kind === 'pick'
      ? (lists.find(l => l.id === source.list)?.columns ?? []).map(c => ({ id: c.id, label: c.label }))
      : knownFacts.map(f => ({ id: f, label: f }));
  const set = (next: Start | undefined) => change({ start: next });
  return (
    <>
      <TextField
        select
        size="small"
        label="Starts with"
        value={start?.from ?? 'nothing'}
        onChange={event => {
          const from = event.target.value as (typeof startKinds)[number];
          if (from === 'nothing') set(undefined);
          else if (from === 'fixed') set({ from, value: field.kind === 'yes/no' ? true : '' });
          else if (from === 'known') set({ from, fact: 'name' });
          else if (from === 'formula') set({ from, formula: '' });
          else if (sources[0]) set({ from: 'picked', field: sources[0].id, column: 'name' });
        }}
      >
        <MenuItem value="nothing">nothing</MenuItem>
        <MenuItem value="fixed">a fixed value</MenuItem>
        <MenuItem value="known">what is known of the asker</MenuItem>
        <MenuItem value="formula">a formula</MenuItem>
        <MenuItem value="picked" disabled={sources.length === 0}>
          what belongs to a picked row or person
        </MenuItem>
      </TextField>
      {start?.from === 'fixed' && (
        <TextField
          size="small"
          label="Value"
          value={String(start.value)}
          onChange={event => {
            const text = event.target.value;
            const number = isNumeric(field) && text !== '' && Number.isFinite(Number(text));
            set({ from: 'fixed', value: field.kind === 'yes/no' ? text === 'true' : number ? Number(text) : text });
          }}
        />
      )}
      {start?.from === 'known' && (
        <TextField
          select
          size="small"
          label="The asker’s"
          value={start.fact}
          onChange={event => set({ from: 'known', fact: event.target.value as (typeof knownFacts)[number] })}
        >
          {knownFacts.map(fact => (
            <MenuItem key={fact} value={fact}>
              {fact}
            </MenuItem>
          ))}
        </TextField>
      )}
      {start?.from === 'formula' && (
        <FormulaField
          label="Formula"
          source={start.formula}
          onChange={formula => set({ from: 'formula', formula })}
          definition={definition}
          wanted="anything"
        />
      )}
      {start?.from === 'picked' && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
          <TextField
            select
            size="small"
            label="Picked in"
            value={start.field}
            onChange={event => set({ ...start, field: event.target.value })}
          >
            {sources.map(f => (
              <MenuItem key={f.id} value={f.id}>
                {f.label}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="small"
            label="Its"
            value={columns.some(c => c.id === start.column) ? start.column : ''}
            onChange={event => set({ ...start, column: event.target.value })}
          >
            {columns.map(c => (
              <MenuItem key={c.id} value={c.id}>
                {c.label}
              </MenuItem>
            ))}
          </TextField>
        </Box>
      )}
    </>
  );
}
