/** Somebody new on file, from their first day on; what follows is shown before it is saved. */
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { RecordChoices } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { useState } from 'react';
import { ChangeEnd } from '../../parts/change/ChangeEnd.tsx';
import { PostField } from '../../parts/change/PostField.tsx';
import { useChange } from '../../parts/change/useChange.ts';
import { DayField } from '../../parts/form/DayField.tsx';

const empty = {
  name: '',
  mail: '',
  joined: '',
  post: '',
  place: '',
  department: '',
  pattern: '',
  hours: '100',
  plan: '',
};
type Typed = typeof empty;

/** As it is sent; nothing while something is missing. */
export function comingOf(typed: Typed): HouseChange | null {
  const { name, mail, joined, post, place, department, pattern, hours, plan } = typed;
  const share = Number(hours.replace(',', '.')) / 100;
  const given = [name, mail, joined, place, department, pattern, hours].every(one => one.trim() !== '');
  if (!given || !Number.isFinite(share)) return null;
  const fte = Math.round(share * 10_000) / 10_000;
  const person = { id: 'new', name, mail, joined, place, department, pattern, fte, plan: plan || null };
  return { what: 'comes', person, post: post || null } as unknown as HouseChange;
}

export function NewPerson({ choices, onDone }: { choices: RecordChoices; onDone: () => void }) {
  const [typed, setTyped] = useState<Typed>(empty);
  const changing = useChange(comingOf(typed), onDone);
  const { faultOf } = changing;
  const put = (more: Partial<Typed>) => changing.put(setTyped)({ ...typed, ...more });
  const chosen = (key: 'place' | 'department' | 'pattern' | 'plan', label: string, none?: string) => (
    <TextField
      select
      label={label}
      value={typed[key]}
      onChange={event => put({ [key]: event.target.value })}
      error={faultOf(key) !== undefined}
      helperText={faultOf(key)}
      slotProps={none ? { select: { displayEmpty: true }, inputLabel: { shrink: true } } : {}}
    >
      {none && <MenuItem value="">{none}</MenuItem>}
      {choices[`${key}s`].map(({ id, name }) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
  const written = (key: 'name' | 'mail' | 'hours', label: string) => (
    <TextField
      label={label}
      value={typed[key]}
      onChange={event => put({ [key]: event.target.value })}
      error={faultOf(key === 'hours' ? 'fte' : key) !== undefined}
      helperText={faultOf(key === 'hours' ? 'fte' : key)}
      autoComplete="off"
    />
  );
  return (
    <Box
      component="form"
      aria-label="Somebody new"
      onSubmit={changing.send}
      sx={{ my: 2, maxWidth: 760, display: 'grid', gap: 2, gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' } }}
    >
      <Typography variant="h3" component="h2" sx={{ gridColumn: '1 / -1' }}>
        Somebody new
      </Typography>
      {written('name', 'Name')}
      {written('mail', 'Mail address')}
      <DayField
        label="First day"
        date={typed.joined}
        onDate={joined => put({ joined })}
        fault={faultOf('joined') !== undefined}
        help={faultOf('joined')}
      />
      <PostField
        posts={choices.posts}
        value={typed.post}
        onChange={post => put({ post })}
        fault={faultOf('change.post')}
        label="Post (may stay empty)"
      />
      {chosen('place', 'Place')}
      {chosen('department', 'Department')}
      {chosen('pattern', 'Work pattern')}
      {written('hours', 'Hours in percent of full time')}
      {chosen('plan', 'Leave plan', 'no leave plan')}
      <Box sx={{ gridColumn: '1 / -1', display: 'grid', gap: 2 }}>
        <ChangeEnd changing={changing} verb="Put them on file" onCancel={onDone} />
      </Box>
    </Box>
  );
}
