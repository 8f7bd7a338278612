/** Named values that a step gives on: of any name, or those that a connection takes, picked from what it has. */

import AddOutlined from '@mui/icons-material/AddOutlined';
import CloseOutlined from '@mui/icons-material/CloseOutlined';
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { isAsked } from '@north-pebble/core/form';
import { type Definition, getAt, type Offered, type StepOf, setAt } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { NamedThere } from '../../../../parts/NamedThere.tsx';
import { FormulaField } from './FormulaField.tsx';
import { Buttons, type Props, useAround } from './shared.tsx';

type Valued = { name: string; formula: string };

export function ValueFields({
  values,
  onChange,
  definition,
}: {
  values: readonly Valued[];
  onChange: (values: Valued[]) => void;
  definition: Definition;
}) {
  const change = (at: number, next: Partial<Valued>) =>
    onChange(values.map((v, i) => (i === at ? { ...v, ...next } : v)));
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {values.map((value, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: values have no identity besides their place
        <Box key={i} sx={{ display: 'grid', gridTemplateColumns: '110px 1fr 32px', gap: 1, alignItems: 'start' }}>
          <TextField
            size="small"
            label="Name"
            value={value.name}
            onChange={event => change(i, { name: event.target.value })}
          />
          <FormulaField
            label="Formula"
            source={value.formula}
            onChange={formula => change(i, { formula })}
            definition={definition}
            wanted="anything"
          />
          <IconButton
            size="small"
            aria-label={`Remove ${value.name}`}
            onClick={() => onChange(values.filter((_, n) => n !== i))}
          >
            <CloseOutlined fontSize="inherit" />
          </IconButton>
        </Box>
      ))}
      <Button
        size="small"
        startIcon={<AddOutlined />}
        sx={{ justifySelf: 'start' }}
        onClick={() => onChange([...values, { name: '', formula: definition.form.fields[0]?.label ?? '' }])}
      >
        Add a value
      </Button>
    </Box>
  );
}

/** The text that a formula is when it is nothing but a text; nothing when it works something out. */
function textOf(source: string): string | null {
  if (source.trim() === '') return '';
  const found = /^"((?:[^"\\]|\\.)*)"$/.exec(source.trim());
  return found ? found[1].replaceAll(/\\(.)/g, '$1') : null;
}
const formulaOf = (text: string): string => (text === '' ? '' : `"${text.replaceAll(/["\\]/g, '\\$&')}"`);

/** A value that is picked from what the system has, or worked out from the request. */
function OfferedField({
  offered: { name, label, from, words },
  connection,
  source,
  onChange,
  definition,
}: {
  offered: Offered;
  connection: string;
  source: string;
  onChange: (formula: string) => void;
  definition: Definition;
}) {
  const text = textOf(source);
  const [isPicking, setIsPicking] = useState(text !== null);
  const whole = `${name}: ${label}`;
  const worked = (
    <FormulaField label={whole} source={source} onChange={onChange} definition={definition} wanted="anything" />
  );
  if (!from && !words) return worked;
  const turn = (
    <Link
      component="button"
      type="button"
      sx={{ fontSize: 13 }}
      onClick={() => {
        setIsPicking(!isPicking);
        if (!isPicking && text === null) onChange('');
      }}
    >
      {isPicking ? 'From the request instead' : 'Pick one instead'}
    </Link>
  );
  return (
    <Box sx={{ display: 'grid', justifyItems: 'start', '& > :not(button)': { width: 1 }, gap: 0.5 }}>
      {!isPicking ? (
        worked
      ) : words ? (
        <Autocomplete
          options={[...words]}
          value={text || null}
          onChange={(_, word) => onChange(formulaOf(word ?? ''))}
          renderInput={props => <TextField {...props} label={whole} />}
        />
      ) : (
        from && (
          <NamedThere
            label={whole}
            connection={connection}
            what={from}
            value={text ?? ''}
            onChange={named => onChange(formulaOf(named))}
          />
        )
      )}
      {turn}
    </Box>
  );
}

/** Values that a connection takes, each by what it is for; those that it needs stand there from the beginning. */
function OfferedFields({
  offered,
  connection,
  values,
  onChange,
  definition,
}: {
  offered: readonly Offered[];
  connection: string;
  values: readonly Valued[];
  onChange: (values: Valued[]) => void;
  definition: Definition;
}) {
  const shown = offered.filter(one => one.needed || values.some(value => value.name === one.name));
  const others = offered.filter(one => !shown.includes(one));
  const strange = values.filter(value => !offered.some(one => one.name === value.name));
  const put = (name: string, formula: string) =>
    onChange(
      values.some(value => value.name === name)
        ? values.map(value => (value.name === name ? { name, formula } : value))
        : [...values, { name, formula }],
    );
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {shown.map(({ name, label, needed, ...picked }) => (
        <Box key={name} sx={{ display: 'grid', gridTemplateColumns: '1fr 32px', gap: 1, alignItems: 'start' }}>
          <OfferedField
            offered={{ name, label, needed, ...picked }}
            connection={connection}
            source={values.find(value => value.name === name)?.formula ?? ''}
            onChange={formula => put(name, formula)}
            definition={definition}
          />
          {!needed && (
            <IconButton
              size="small"
              aria-label={`Remove ${name}`}
              onClick={() => onChange(values.filter(value => value.name !== name))}
            >
              <CloseOutlined fontSize="inherit" />
            </IconButton>
          )}
        </Box>
      ))}
      {strange.map(({ name }) => (
        <Box key={name} sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <Typography variant="body2" color="error">
            “{name}” is not taken.
          </Typography>
          <Button size="small" onClick={() => onChange(values.filter(value => value.name !== name))}>
            Take it out
          </Button>
        </Box>
      ))}
      {others.length > 0 && (
        <TextField
          select
          label="Say also"
          value=""
          onChange={event => {
            const chosen = others.find(one => one.name === event.target.value);
            const isPicked = chosen?.from !== undefined || chosen?.words !== undefined;
            put(event.target.value, isPicked ? '' : (definition.form.fields.find(isAsked)?.label ?? ''));
          }}
        >
          {others.map(({ name, label }) => (
            <MenuItem key={name} value={name}>
              {name}: {label}
            </MenuItem>
          ))}
        </TextField>
      )}
    </Box>
  );
}

export function ValuesEditor({ edit, definition, onDone }: Props<'values'>) {
  const [values, setValues] = useState<Valued[]>([...edit.values]);
  const { offers } = useAround();
  const step = getAt(definition, edit.path.slice(0, -1)) as Partial<StepOf<'Provision'>> | undefined;
  const offered = step?.verb === 'Provision' ? (offers?.[step.connection ?? '']?.[step.action ?? ''] ?? null) : null;
  const wrong =
    values.some(v => v.name.trim() === '') ||
    (offered ?? []).some(one => one.needed && !values.some(v => v.name === one.name && v.formula.trim() !== ''));
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        if (!wrong) onDone(setAt(definition, edit.path, values));
      }}
    >
      {offered ? (
        <OfferedFields
          offered={offered}
          connection={step?.connection ?? ''}
          values={values}
          onChange={setValues}
          definition={definition}
        />
      ) : (
        <ValueFields values={values} onChange={setValues} definition={definition} />
      )}
      <Buttons disabled={wrong} onCancel={() => onDone()} />
    </form>
  );
}
