/** The settings of one field, beside it: what it asks, what stands in it, when it is asked, and who sees it at which step. */
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import {
  type AccessLevel,
  accessAt,
  type Column,
  type Field,
  fieldKinds,
  idFrom,
  knownFacts,
  type Start,
  usualAccess,
} from '@north-pebble/core/form';
import type { DirectoryIndex } from '@north-pebble/core/people';
import {
  type Definition,
  kindWords,
  removeField,
  rename,
  setAt,
  structure,
  type Use,
  usesOfField,
} from '@north-pebble/core/workflow';
import { useEffect, useState } from 'react';
import { FormulaField } from './editors/FormulaField.tsx';
import { useAround } from './editors/shared.tsx';

type Props = {
  field: Field;
  definition: Definition;
  index: DirectoryIndex | undefined;
  onChange: (definition: Definition) => void;
  onGo: (use: Use) => void;
  onGone: () => void;
};

/** A field of another kind with everything that the two have in common. */
export function asKind(field: Field, kind: Field['kind']): Field {
  const { id, label, help, required, section, start, shownWhen, checks, places } = field;
  const common = JSON.parse(
    JSON.stringify({ id, label, help, required, section, start, shownWhen, checks, places }),
  ) as Pick<Field, 'id' | 'label' | 'required'>;
  switch (kind) {
    case 'choice':
    case 'several choices':
      return { ...common, kind, options: ['First', 'Second'] };
    case 'money':
      return { ...common, kind, currency: 'EUR' };
    case 'pick':
      return { ...common, kind, list: 'posts' };
    case 'table':
      return { ...common, kind, columns: [{ id: 'what', label: 'What', kind: 'text' }] };
    case 'document':
      return { ...common, kind, expires: false };
    case 'fixed text':
      return { ...common, kind, required: false, text: 'Words to read.' };
    default:
      return { ...common, kind };
  }
}

const startKinds = ['nothing', 'fixed', 'known', 'formula', 'picked'] as const;

function StartFields({
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

function KindFields({
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
            <Lines
              label="Choices, one line each"
              lines={field.options as string[]}
              onChange={options => options.length > 0 && change({ options })}
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
        <Lines
          label="Columns, one line each, with their kind after a colon"
          lines={field.columns.map(c => (c.kind === 'text' ? c.label : `${c.label}: ${c.kind}`))}
          onChange={lines => {
            const ids: string[] = [];
            const columns = lines.slice(0, 12).map(line => {
              const found = /^(.*?):\s*(\S.*)$/.exec(line);
              const kind = columnKinds.find(k => k === found?.[2].trim());
              const label = (kind ? found![1] : line).trim() || 'Column';
              const id = field.columns.find(c => c.label === label && !ids.includes(c.id))?.id ?? idFrom(label, ids);
              ids.push(id);
              return { id, label, kind: kind ?? 'text' };
            });
            if (columns.length > 0) change({ columns });
          }}
        />
      );
    case 'document':
      return (
        <FormControlLabel
          control={<Checkbox checked={field.expires} onChange={(_, on) => change({ expires: on })} />}
          label="It has a day on which it expires"
        />
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

/** Several words, a line each; what is being typed stays as typed. */
function Lines({
  label,
  lines,
  onChange,
}: {
  label: string;
  lines: readonly string[];
  onChange: (lines: string[]) => void;
}) {
  const [text, setText] = useState(lines.join('\n'));
  return (
    <TextField
      size="small"
      multiline
      minRows={2}
      label={label}
      value={text}
      onChange={event => {
        setText(event.target.value);
        onChange([
          ...new Set(
            event.target.value
              .split('\n')
              .map(l => l.trim())
              .filter(Boolean),
          ),
        ]);
      }}
    />
  );
}

const levels: AccessLevel[] = ['hidden', 'shown', 'editable', 'required'];

function AccessFields({
  field,
  definition,
  onChange,
}: {
  field: Field;
  definition: Definition;
  onChange: (definition: Definition) => void;
}) {
  const steps = structure(definition).all.filter(
    ({ step }) => step.verb === 'Ask' || step.verb === 'Decide' || step.verb === 'Do',
  );
  const set = (step: string, level: AccessLevel, isAsk: boolean) => {
    const { [field.id]: _old, ...others } = definition.access?.[step] ?? {};
    const mine = level === usualAccess(field, isAsk) ? others : { ...others, [field.id]: level };
    const { [step]: _step, ...rest } = definition.access ?? {};
    const access = Object.keys(mine).length > 0 ? { ...rest, [step]: mine } : rest;
    onChange(Object.keys(access).length > 0 ? { ...definition, access } : setAt(definition, ['access'], undefined));
  };
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
      <Typography component="legend" variant="body2" color="textSecondary">
        Who sees it
      </Typography>
      {steps.map(({ step, number }) => {
        const isAsk = step.verb === 'Ask';
        return (
          <Box
            key={step.id}
            sx={{ display: 'grid', gridTemplateColumns: '1fr 130px', alignItems: 'center', gap: 1, py: 0.25 }}
          >
            <Typography variant="body2">
              {number} {step.verb}
            </Typography>
            <TextField
              select
              size="small"
              aria-label={`At step ${number}`}
              value={accessAt(definition.access, step.id, isAsk, field)}
              onChange={event => set(step.id, event.target.value as AccessLevel, isAsk)}
              slotProps={{ htmlInput: { 'aria-label': `${field.label} at step ${number}` } }}
            >
              {levels.map(level => (
                <MenuItem key={level} value={level}>
                  {level === 'required' ? 'needed' : level}
                </MenuItem>
              ))}
            </TextField>
          </Box>
        );
      })}
    </Box>
  );
}

export function FieldSettings({ field, definition, index, onChange, onGo, onGone }: Props) {
  const at = definition.form.fields.indexOf(field);
  const [label, setLabel] = useState(field.label);
  useEffect(() => setLabel(field.label), [field.label]);
  const change = (next: Partial<Record<string, unknown>>) => {
    const merged = Object.fromEntries(Object.entries({ ...field, ...next }).filter(([, value]) => value !== undefined));
    onChange(setAt(definition, ['form', 'fields', at], merged));
  };
  const uses = usesOfField(definition, field);
  const places = index?.directory.places ?? [];
  const taken =
    definition.form.fields.some(f => f.id !== field.id && f.label === label.trim()) ||
    definition.figures.some(f => f.name === label.trim());
  const keepLabel = () => {
    const next = label.trim();
    if (next === '' || taken) setLabel(field.label);
    else if (next !== field.label) onChange(rename(definition, field.label, next));
  };
  return (
    <Box
      sx={{
        display: 'grid',
        gap: 1.25,
        p: 2,
        bgcolor: 'color-mix(in srgb, var(--mui-palette-primary-main) 5%, transparent)',
      }}
    >
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <TextField
          size="small"
          label="Label"
          value={label}
          onChange={event => setLabel(event.target.value)}
          onBlur={keepLabel}
          onKeyDown={event => event.key === 'Enter' && keepLabel()}
          error={taken}
          helperText={
            taken
              ? 'Another field or figure has this name.'
              : uses.length > 0
                ? 'Formulas and messages follow the new name.'
                : ' '
          }
        />
        <TextField
          select
          size="small"
          label="Asks for"
          value={field.kind}
          onChange={event =>
            onChange(setAt(definition, ['form', 'fields', at], asKind(field, event.target.value as Field['kind'])))
          }
        >
          {fieldKinds.map(kind => (
            <MenuItem key={kind} value={kind}>
              {kindWords[kind]}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      {field.kind !== 'fixed text' && (
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
          <FormControlLabel
            control={<Checkbox checked={field.required} onChange={(_, on) => change({ required: on })} />}
            label="Needed"
          />
          {(definition.form.sections?.length ?? 0) > 0 && (
            <TextField
              select
              size="small"
              label="Section"
              value={field.section ?? ''}
              onChange={event => change({ section: event.target.value || undefined })}
              sx={{ minWidth: 160 }}
            >
              <MenuItem value="">above the sections</MenuItem>
              {definition.form.sections?.map(s => (
                <MenuItem key={s.id} value={s.id}>
                  {s.title}
                </MenuItem>
              ))}
            </TextField>
          )}
        </Box>
      )}
      <KindFields field={field} definition={definition} change={change} key={field.kind} />
      <TextField
        size="small"
        label="Help below it"
        value={field.help ?? ''}
        onChange={event => change({ help: event.target.value || undefined })}
      />
      {field.kind !== 'fixed text' &&
        field.kind !== 'leave span' &&
        field.kind !== 'files' &&
        field.kind !== 'table' && <StartFields field={field} definition={definition} change={change} />}
      <FormulaField
        label="Shown when (always, if empty)"
        source={field.shownWhen ?? ''}
        onChange={source => change({ shownWhen: source.trim() === '' ? undefined : source })}
        definition={definition}
        wanted="yes/no"
        mayBeEmpty
      />
      <TextField
        select
        size="small"
        label="Asked at these places only"
        value={field.places ?? []}
        slotProps={{ select: { multiple: true } }}
        onChange={event => {
          const chosen = event.target.value as unknown as string[];
          change({ places: chosen.length > 0 ? chosen : undefined });
        }}
      >
        {places.map(p => (
          <MenuItem key={p.id} value={p.id}>
            {p.name}
          </MenuItem>
        ))}
      </TextField>
      {(field.checks ?? []).map((check, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: checks have no identity besides their place
        <Box key={i} sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr auto', gap: 1, alignItems: 'start' }}>
          <FormulaField
            label="Must hold"
            source={check.formula}
            onChange={formula => change({ checks: field.checks?.map((c, n) => (n === i ? { ...c, formula } : c)) })}
            definition={definition}
            wanted="yes/no"
          />
          <TextField
            size="small"
            label="Else say"
            value={check.message}
            onChange={event =>
              change({
                checks: field.checks?.map((c, n) => (n === i ? { ...c, message: event.target.value || ' ' } : c)),
              })
            }
          />
          <Button
            size="small"
            onClick={() => {
              const rest = field.checks?.filter((_, n) => n !== i) ?? [];
              change({ checks: rest.length > 0 ? rest : undefined });
            }}
          >
            Take out
          </Button>
        </Box>
      ))}
      {field.kind !== 'fixed text' && (
        <Button
          size="small"
          sx={{ justifySelf: 'start' }}
          onClick={() =>
            change({ checks: [...(field.checks ?? []), { formula: '', message: 'Say what would be right.' }] })
          }
        >
          Add a check
        </Button>
      )}
      <AccessFields field={field} definition={definition} onChange={onChange} />
      {uses.length > 0 && (
        <Alert severity="info" variant="outlined" icon={false}>
          Used in {uses.length} {uses.length === 1 ? 'place' : 'places'}:
          <Box component="ul" sx={{ m: 0, pl: 2.25, maxHeight: 130, overflowY: 'auto' }}>
            {uses.map(use => (
              <li key={use.path.join('.')}>
                <Link component="button" type="button" onClick={() => onGo(use)}>
                  {use.words}
                </Link>
              </li>
            ))}
          </Box>
        </Alert>
      )}
      <Button
        size="small"
        color="error"
        sx={{ justifySelf: 'start' }}
        onClick={() => {
          onChange(removeField(definition, field.id));
          onGone();
        }}
      >
        {uses.length > 0
          ? `Take the field out, though it is used in ${uses.length} ${uses.length === 1 ? 'place' : 'places'}`
          : 'Take the field out'}
      </Button>
    </Box>
  );
}
