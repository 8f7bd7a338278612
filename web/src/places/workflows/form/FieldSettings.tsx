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
  type Field,
  fieldKinds,
  fieldOf,
  isAsked,
  kindWords,
  moduleOf,
  usualAccess,
} from '@north-pebble/core/form';
import type { DirectoryIndex } from '@north-pebble/core/people';
import {
  type Definition,
  guestStepsOf,
  levelAt,
  readersWords,
  removeField,
  rename,
  setAt,
  structure,
  type Use,
  usesOfField,
} from '@north-pebble/core/workflow';
import { useEffect, useState } from 'react';
import { FormulaField } from '../steps/editors/FormulaField.tsx';
import { KindFields } from './KindFields.tsx';
import { StartFields } from './StartFields.tsx';

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
  const { id, label, help, required, section, start, shownWhen, neededWhen, why, checks, places, readers, askerReads } =
    field;
  const common = JSON.parse(
    JSON.stringify({
      ...{ id, label, help, required, section, start, shownWhen, neededWhen, why },
      ...{ checks, places, readers, askerReads },
    }),
  ) as Pick<Field, 'id' | 'label' | 'required'>;
  return { ...common, ...fieldOf(kind, common) };
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
    const isUsual = guestStepsOf(definition, field).length === 0 && level === usualAccess(field, isAsk);
    const mine = isUsual ? others : { ...others, [field.id]: level };
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
              value={levelAt(definition, step.id, field)}
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
  const hiddenAtAsking = levelAt(definition, definition.steps[0].id, field) === 'hidden';
  const places = index?.directory.places ?? [];
  const roles = [...new Set([...(index?.directory.roles.map(r => r.role) ?? []), ...(field.readers ?? [])])].sort();
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
              {kindWords(kind)}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      {isAsked(field) && (
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
      {guestStepsOf(definition, field).length > 0 && isAsked(field) && (
        <TextField
          size="small"
          label="Why it is asked for"
          value={field.why ?? ''}
          onChange={event => change({ why: event.target.value || undefined })}
        />
      )}
      {!moduleOf(field.kind).startsEmpty && <StartFields field={field} definition={definition} change={change} />}
      <FormulaField
        label="Shown when (always, if empty)"
        source={field.shownWhen ?? ''}
        onChange={source => change({ shownWhen: source.trim() === '' ? undefined : source })}
        definition={definition}
        wanted="yes/no"
        mayBeEmpty
      />
      {!field.required && isAsked(field) && (
        <FormulaField
          label="Needed when (never, if empty)"
          source={field.neededWhen ?? ''}
          onChange={source => change({ neededWhen: source.trim() === '' ? undefined : source })}
          definition={definition}
          wanted="yes/no"
          mayBeEmpty
        />
      )}
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
      {isAsked(field) && (
        <TextField
          select
          size="small"
          label="Read by these roles only"
          value={field.readers ?? []}
          helperText={readersWords(definition, field)}
          slotProps={{ select: { multiple: true } }}
          onChange={event => {
            const readers = event.target.value as unknown as string[];
            change({ readers: readers.length > 0 ? readers : undefined });
          }}
        >
          {roles.map(role => (
            <MenuItem key={role} value={role}>
              {role}
            </MenuItem>
          ))}
        </TextField>
      )}
      {hiddenAtAsking && (
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={field.askerReads ?? false}
              onChange={event => change({ askerReads: event.target.checked ? true : undefined })}
            />
          }
          label="The asker reads it once it is filled in"
        />
      )}
      {(field.checks ?? []).map((check, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: checks have no identity besides their place
        <Box key={i} sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr auto', gap: 1, alignItems: 'start' }}>
          <FormulaField
            label="Must be true"
            source={check.formula}
            onChange={formula => change({ checks: field.checks?.map((c, n) => (n === i ? { ...c, formula } : c)) })}
            definition={definition}
            wanted="yes/no"
          />
          <TextField
            size="small"
            label="Message if it is not"
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
            Remove
          </Button>
        </Box>
      ))}
      {isAsked(field) && (
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
          ? `Remove the field, though it is used in ${uses.length} ${uses.length === 1 ? 'place' : 'places'}`
          : 'Remove the field'}
      </Button>
    </Box>
  );
}
