/** Named sets of filters: one's own and those that others share, taken up with a click. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Chip from '@mui/material/Chip';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { NewSet } from '@north-pebble/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/client.ts';
import { queryClient, setsQuery } from '../api/queries.ts';
import { FailureNote } from './Notes.tsx';

export function Sets({
  place,
  query,
  roles = [],
  onTake,
}: {
  place: NewSet['place'];
  /** The filters as they stand in the address. */
  query: string;
  /** Roles to which a set can be given. */
  roles?: readonly string[];
  onTake: (query: URLSearchParams) => void;
}) {
  const sets = useQuery(setsQuery);
  const [name, setName] = useState<string | null>(null);
  const [shared, setShared] = useState(false);
  const [role, setRole] = useState('');
  const changed = () => queryClient.invalidateQueries({ queryKey: ['sets'] });
  const save = useMutation({
    mutationFn: () => call('POST /sets', { body: { place, name: name ?? '', query, shared, role: role || null } }),
    onSuccess: async () => {
      setName(null);
      await changed();
    },
  });
  const drop = useMutation({
    mutationFn: (id: number) => call('DELETE /sets/:id', { params: { id } }),
    onSuccess: changed,
  });
  return (
    <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center', flexWrap: 'wrap' }}>
      {(sets.data ?? [])
        .filter(set => set.place === place)
        .map(set => (
          <Chip
            key={set.id}
            size="small"
            label={`${set.own || typeof set.role === 'string' ? set.name : `${set.name} (${set.ownerName})`}${typeof set.count !== 'number' ? '' : ` ${set.count}`}`}
            {...(typeof set.role !== 'string' ? {} : { title: `For those who are ${set.role}` })}
            variant={set.query === query ? 'filled' : 'outlined'}
            color={set.query === query ? 'primary' : 'default'}
            onClick={() => onTake(new URLSearchParams(set.query))}
            {...(set.own ? { onDelete: () => drop.mutate(set.id) } : {})}
          />
        ))}
      {query === '' ? null : name === null ? (
        <Button size="small" onClick={() => setName('')}>
          Keep these filters
        </Button>
      ) : (
        <Box
          component="form"
          sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}
          onSubmit={event => {
            event.preventDefault();
            if (name.trim()) save.mutate();
          }}
        >
          <TextField
            size="small"
            autoFocus
            label="Name of the set"
            value={name}
            onChange={event => setName(event.target.value)}
          />
          <FormControlLabel
            control={<Checkbox size="small" checked={shared} onChange={(_, on) => setShared(on)} />}
            label="Others may use it"
          />
          {roles.length > 0 && (
            <TextField
              select
              size="small"
              label="Given to those who are"
              value={role}
              onChange={event => setRole(event.target.value)}
              sx={{ minWidth: 170 }}
            >
              <MenuItem value="">nobody</MenuItem>
              {roles.map(one => (
                <MenuItem key={one} value={one}>
                  {one}
                </MenuItem>
              ))}
            </TextField>
          )}
          <Button type="submit" size="small" variant="contained" color="primary" disabled={!name.trim()}>
            Keep
          </Button>
          <Button size="small" onClick={() => setName(null)}>
            Not now
          </Button>
          {save.error && <FailureNote fault={save.error} />}
        </Box>
      )}
    </Box>
  );
}
