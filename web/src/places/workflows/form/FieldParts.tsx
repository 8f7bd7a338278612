/** Settings of a field that depend on its kind, and what stands in it before anybody types. */

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import TextField from '@mui/material/TextField';
import {
  type Column,
  type Field,
  type FieldOf,
  type FileKind,
  fileKinds,
  idFrom,
  knownFacts,
  largestFile,
  type Start,
  usualLargest,
} from '@north-pebble/core/form';
import type { Definition } from '@north-pebble/core/workflow';
import { ItemList } from '../../../parts/form/ItemList.tsx';
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
            const number =
              ['whole number', 'decimal', 'money'].includes(field.kind) && text !== '' && Number.isFinite(Number(text));
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

const columnKinds: Column['kind'][] = ['text', 'number', 'money', 'date', 'yes/no'];

export function KindFields({
  field,
  definition,
  change,
}: {
  field: Field;
  definition: Definition;
  change: (next: Partial<Record<string, unknown>>) => void;
}) {
  const { lists, leaveTypes } = useAround();
  const number = (key: 'least' | 'most', label: string, value: number | undefined) => (
    <TextField
      size="small"
      label={label}
      value={value ?? ''}
      onChange={event =>
        change({
          [key]:
            event.target.value === '' || Number.isNaN(Number(event.target.value))
              ? undefined
              : Number(event.target.value),
        })
      }
    />
  );
  switch (field.kind) {
    case 'choice':
    case 'several choices': {
      const isTypes = field.kind === 'choice' && field.options === 'leave types';
      return (
        <>
          {field.kind === 'choice' && (
            <FormControlLabel
              control={
                <Checkbox
                  checked={isTypes}
                  onChange={(_, on) => change({ options: on ? 'leave types' : ['First', 'Second'], only: undefined })}
                />
              }
              label="The house’s leave types"
            />
          )}
          {isTypes && field.kind === 'choice' && (
            <TextField
              select
              size="small"
              label="Only these"
              value={field.only ?? []}
              slotProps={{ select: { multiple: true } }}
              onChange={event => {
                const chosen = event.target.value as unknown as string[];
                change({ only: chosen.length > 0 ? chosen : undefined });
              }}
            >
              {leaveTypes.map(t => (
                <MenuItem key={t.id} value={t.id}>
                  {t.name}
                </MenuItem>
              ))}
            </TextField>
          )}
          {!isTypes && (
            <ItemList
              key={field.id}
              label="Choices"
              one="choice"
              items={field.options as string[]}
              onChange={items => items.length > 0 && change({ options: items.map(item => item.words) })}
            />
          )}
        </>
      );
    }
    case 'whole number':
    case 'decimal':
      return (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
          {number('least', 'At least', field.least)}
          {number('most', 'At most', field.most)}
        </Box>
      );
    case 'money':
      return (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
          <TextField
            size="small"
            label="Currency"
            value={field.currency}
            onChange={event =>
              /^[A-Za-z]{0,3}$/.test(event.target.value) && change({ currency: event.target.value.toUpperCase() })
            }
          />
          {number('most', 'At most', field.most)}
        </Box>
      );
    case 'pick': {
      const all = [{ id: 'posts', name: 'Posts' }, ...lists];
      const columns = lists.find(l => l.id === field.list)?.columns ?? [];
      const others = definition.form.fields.filter(f => f.id !== field.id && f.kind !== 'fixed text');
      return (
        <>
          <TextField
            select
            size="small"
            label="List"
            value={all.some(l => l.id === field.list) ? field.list : ''}
            onChange={event => change({ list: event.target.value, where: undefined })}
          >
            {all.map(l => (
              <MenuItem key={l.id} value={l.id}>
                {l.name}
              </MenuItem>
            ))}
          </TextField>
          {columns.length > 0 && (
            <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
              <TextField
                select
                size="small"
                label="Only rows whose"
                value={field.where?.column ?? ''}
                onChange={event =>
                  change({
                    where:
                      event.target.value && others[0]
                        ? { column: event.target.value, field: field.where?.field ?? others[0].id }
                        : undefined,
                  })
                }
              >
                <MenuItem value="">every row</MenuItem>
                {columns.map(c => (
                  <MenuItem key={c.id} value={c.id}>
                    {c.label}
                  </MenuItem>
                ))}
              </TextField>
              {field.where && (
                <TextField
                  select
                  size="small"
                  label="is the answer to"
                  value={field.where.field}
                  onChange={event => change({ where: { column: field.where?.column, field: event.target.value } })}
                >
                  {others.map(f => (
                    <MenuItem key={f.id} value={f.id}>
                      {f.label}
                    </MenuItem>
                  ))}
                </TextField>
              )}
            </Box>
          )}
        </>
      );
    }
    case 'table':
      return (
        <ItemList
          key={field.id}
          label="Columns"
          one="column"
          most={12}
          items={field.columns.map(c => c.label)}
          onChange={items => {
            const ids = field.columns.map(c => c.id);
            const columns = items.map(({ words, before }): Column => {
              const known = before === null ? undefined : field.columns[before];
              if (known) return { ...known, label: words };
              const id = idFrom('column', ids);
              ids.push(id);
              return { id, label: words, kind: 'text' };
            });
            if (columns.length > 0) change({ columns });
          }}
          beside={at => (
            <Select
              size="small"
              variant="standard"
              value={field.columns[at]?.kind ?? 'text'}
              inputProps={{ 'aria-label': `What ${field.columns[at]?.label ?? 'it'} takes` }}
              onChange={event => {
                const kind = columnKinds.find(k => k === event.target.value);
                if (kind) change({ columns: field.columns.map((c, i) => (i === at ? { ...c, kind } : c)) });
              }}
            >
              {columnKinds.map(kind => (
                <MenuItem key={kind} value={kind}>
                  {kind}
                </MenuItem>
              ))}
            </Select>
          )}
        />
      );
    case 'files':
      return <Filing field={field} change={change} />;
    case 'document':
      return (
        <>
          <FormControlLabel
            control={<Checkbox checked={field.expires} onChange={(_, on) => change({ expires: on })} />}
            label="It has a day on which it expires"
          />
          <Filing field={field} change={change} />
        </>
      );
    case 'fixed text':
      return (
        <TextField
          size="small"
          multiline
          minRows={2}
          label="Words"
          value={field.text}
          onChange={event => change({ text: event.target.value })}
        />
      );
    default:
      return null;
  }
}

/** Which files a field takes: of which kinds, how large, and of several how many. */
function Filing({ field, change }: { field: FieldOf<'files'> | FieldOf<'document'>; change: (part: object) => void }) {
  const numberFrom = (text: string, most: number) => {
    const n = Math.round(Number(text));
    return text.trim() === '' || !(n >= 1) ? undefined : Math.min(n, most);
  };
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 140px 140px' }, gap: 1 }}>
      <TextField
        select
        size="small"
        label="Takes (everything, if empty)"
        value={field.takes ?? []}
        slotProps={{ select: { multiple: true } }}
        onChange={event => {
          const takes = event.target.value as unknown as FileKind[];
          change({ takes: takes.length > 0 ? takes : undefined });
        }}
      >
        {fileKinds.map(kind => (
          <MenuItem key={kind} value={kind}>
            {kind}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        size="small"
        type="number"
        label="Up to, in MB"
        placeholder={String(usualLargest)}
        value={field.largest ?? ''}
        slotProps={{ inputLabel: { shrink: true }, htmlInput: { min: 1, max: largestFile } }}
        onChange={event => change({ largest: numberFrom(event.target.value, largestFile) })}
      />
      {field.kind === 'files' && (
        <TextField
          size="small"
          type="number"
          label="At most, files"
          placeholder="20"
          value={field.most ?? ''}
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { min: 1, max: 20 } }}
          onChange={event => change({ most: numberFrom(event.target.value, 20) })}
        />
      )}
    </Box>
  );
}
