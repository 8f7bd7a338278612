/** A connection as it is set up or changed: what its kind wants to know, field by field. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { ConnectionKind, ConnectionsView, ConnectionView, SettingField } from '@north-pebble/contract';
import type { GroupRule } from '@north-pebble/core/access';
import { useMutation } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { FailureNote } from '../../parts/Notes.tsx';
import { GroupRulesField } from './GroupRulesField.tsx';

type Props = {
  name: string;
  /** What may be set up. */
  kinds: readonly ConnectionKind[];
  /** As it stands; nothing when it is new. */
  before?: ConnectionView;
  onDone: (view: ConnectionsView) => void;
  onCancel: () => void;
};
type Value = string | boolean | readonly GroupRule[];
type Values = Readonly<Record<string, Value>>;

/** Enough that nobody guesses it; made here so that nobody has to think of one. */
function madeSecret(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(24));
  return Array.from(bytes, byte => byte.toString(16).padStart(2, '0')).join('');
}

function firstValue({ name, kind }: SettingField, shown: ConnectionView['shown'] | undefined): Value {
  const kept = shown?.[name];
  if (kind === 'group rules') return Array.isArray(kept) ? (kept as GroupRule[]) : [];
  if (kind === 'yes') return kept === true;
  return typeof kept === 'string' ? kept : kind === 'address' ? 'https://' : '';
}

type SettingProps = {
  field: SettingField;
  value: Value;
  /** The connection as it is set up; nothing when it is new. */
  connection: string | null;
  fault: string | undefined;
  faultWithin: (path: string) => string | undefined;
  onChange: (value: Value) => void;
};
function Setting({ field: { kind, label, help }, value, connection, fault, faultWithin, onChange }: SettingProps) {
  if (kind === 'group rules')
    return (
      <GroupRulesField
        label={label}
        help={help}
        connection={connection}
        rules={Array.isArray(value) ? value : []}
        faultOf={faultWithin}
        onChange={onChange}
      />
    );
  if (kind === 'yes')
    return (
      <FormControlLabel
        control={<Checkbox size="small" checked={value === true} onChange={(_, on) => onChange(on)} />}
        label={label}
      />
    );
  const written = (
    <TextField
      label={label}
      value={value}
      onChange={event => onChange(event.target.value)}
      error={fault !== undefined}
      helperText={fault ?? (kind === 'secret' && connection !== null ? 'Left empty, it stays as it is.' : help)}
      autoComplete="off"
      required={kind !== 'secret'}
      sx={{ flex: 1 }}
    />
  );
  if (kind !== 'secret') return written;
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'start' }}>
      {written}
      <Button onClick={() => onChange(madeSecret())} sx={{ mt: 1 }}>
        Make one
      </Button>
    </Box>
  );
}

export function ConnectionForm({ name: first, kinds, before, onDone, onCancel }: Props) {
  const [name, setName] = useState(first);
  const [kind, setKind] = useState(before?.kind ?? kinds[0]?.kind ?? '');
  const [typed, setTyped] = useState<Values>({});
  const [paused, setPaused] = useState(before?.paused ?? false);
  const fields = kinds.find(one => one.kind === kind)?.fields ?? [];
  const shown = before?.kind === kind ? before.shown : undefined;
  const settingOf = (field: SettingField) => typed[field.name] ?? firstValue(field, shown);
  const save = useMutation({
    mutationFn: () => {
      const settings = Object.fromEntries(fields.map(field => [field.name, settingOf(field)]));
      return call('PUT /connections/:name', { params: { name: name.trim() }, body: { kind, settings, paused } });
    },
    onSuccess: onDone,
  });
  const faults = problemOf(save.error)?.faults ?? [];
  const fault = (field: string) => faults.find(one => one.field === field || one.field.endsWith(`.${field}`))?.message;
  const nameFault = fault('') ?? (name.trim() === '' && save.isError ? 'Give it a name.' : undefined);
  const send = (event: FormEvent) => {
    event.preventDefault();
    save.mutate();
  };
  return (
    <Box
      component="form"
      aria-label={before ? `Change ${before.name}` : 'A new connection'}
      onSubmit={send}
      sx={{ display: 'grid', gap: 2, maxWidth: 620, my: 2 }}
    >
      {!before && (
        <TextField
          label="Name"
          value={name}
          onChange={event => setName(event.target.value)}
          error={nameFault !== undefined}
          helperText={nameFault ?? 'As workflows call it: Directory, Payroll, Door keys.'}
          required
        />
      )}
      {kinds.length > 1 && (
        <TextField select label="How it is asked" value={kind} onChange={event => setKind(event.target.value)}>
          {kinds.map(one => (
            <MenuItem key={one.kind} value={one.kind}>
              {one.name}
            </MenuItem>
          ))}
        </TextField>
      )}
      {fields.map(field => (
        <Setting
          key={`${kind} ${field.name}`}
          field={field}
          value={settingOf(field)}
          connection={shown === undefined ? null : (before?.name ?? null)}
          fault={fault(field.name)}
          faultWithin={path => fault(`${field.name}.${path}`)}
          onChange={value => setTyped({ ...typed, [field.name]: value })}
        />
      ))}
      {before && (
        <FormControlLabel
          control={<Checkbox size="small" checked={paused} onChange={(_, on) => setPaused(on)} />}
          label="Paused: nothing goes out until this is taken back"
        />
      )}
      {faults.length === 0 && <FailureNote fault={save.error} />}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" color="primary" disabled={save.isPending}>
          {before ? 'Save' : 'Set it up'}
        </Button>
        <Button onClick={onCancel}>Not now</Button>
      </Box>
    </Box>
  );
}
