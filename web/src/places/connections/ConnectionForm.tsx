/** A connection as it is set up or changed: where it is, what its calls are signed with, where it may be. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import type { ConnectionsView, ConnectionView, SaveConnection } from '@north-pebble/contract';
import { useMutation } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { FailureNote } from '../../parts/Notes.tsx';

type Props = {
  name: string;
  /** As it stands; nothing when it is new. */
  before?: ConnectionView;
  onDone: (view: ConnectionsView) => void;
  onCancel: () => void;
};

/** Enough that nobody guesses it; made here so that nobody has to think of one. */
function madeSecret(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(24));
  return Array.from(bytes, byte => byte.toString(16).padStart(2, '0')).join('');
}

export function ConnectionForm({ name: first, before, onDone, onCancel }: Props) {
  const [name, setName] = useState(first);
  const [address, setAddress] = useState(String(before?.shown.address ?? 'https://'));
  const [secret, setSecret] = useState('');
  const [inside, setInside] = useState(before?.shown.inside === true);
  const [paused, setPaused] = useState(before?.paused ?? false);
  const save = useMutation({
    mutationFn: () => {
      const body: SaveConnection = { kind: 'http', settings: { address, secret, inside }, paused };
      return call('PUT /connections/:name', { params: { name: name.trim() }, body });
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
      <TextField
        label="Address"
        value={address}
        onChange={event => setAddress(event.target.value)}
        error={fault('address') !== undefined}
        helperText={fault('address') ?? 'Calls are sent there as JSON.'}
        required
      />
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'start' }}>
        <TextField
          label="Secret that calls are signed with"
          value={secret}
          onChange={event => setSecret(event.target.value)}
          error={fault('secret') !== undefined}
          helperText={
            fault('secret') ??
            (before ? 'Left empty, it stays as it is.' : 'Give the same to whoever looks after the system.')
          }
          autoComplete="off"
          sx={{ flex: 1 }}
        />
        <Button onClick={() => setSecret(madeSecret())} sx={{ mt: 1 }}>
          Make one
        </Button>
      </Box>
      <Box>
        <FormControlLabel
          control={<Checkbox size="small" checked={inside} onChange={(_, on) => setInside(on)} />}
          label="It may be in a private network, or on this machine"
        />
        {before && (
          <FormControlLabel
            control={<Checkbox size="small" checked={paused} onChange={(_, on) => setPaused(on)} />}
            label="Paused: nothing goes out until this is taken back"
          />
        )}
      </Box>
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
