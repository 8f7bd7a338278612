/** A new house: who looks after it, where people work, by which pattern, holidays and plan. Opened by a one-time address. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { SetUp } from '@north-pebble/contract';
import { readyCalendars, readyPatterns } from '@north-pebble/core/starters';
import { useMutation } from '@tanstack/react-query';
import { type FormEvent, type ReactNode, useEffect, useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';
import { FailureNote } from '../../parts/Notes.tsx';

/** What stands behind the `#` of the address: it is sent to no server by opening the page. */
export const tokenHere = (): string => window.location.hash.slice(1);

const Part = ({ title, words, children }: { title: string; words: string; children: ReactNode }) => (
  <Box component="section" aria-label={title} sx={{ display: 'grid', gap: 1.75, mb: 4 }}>
    <Box>
      <Typography variant="h3" component="h2">
        {title}
      </Typography>
      <Typography variant="body2" color="textSecondary">
        {words}
      </Typography>
    </Box>
    {children}
  </Box>
);

type Typed = Omit<SetUp, 'token' | 'days'> & { days: string };

export function SetUpPlace() {
  const [typed, setTyped] = useState<Typed>({
    house: '',
    name: '',
    mail: '',
    password: '',
    place: '',
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    pattern: readyPatterns[0].id,
    calendar: readyCalendars[0].id,
    days: '25',
  });
  useEffect(() => {
    document.title = 'Set up the house · North Pebble';
  }, []);
  const begin = useMutation({
    mutationFn: async () => {
      const days = Number(typed.days.replace(',', '.'));
      await call('POST /setup', { body: { ...typed, days, token: tokenHere() } });
      await call('POST /session', { body: { mail: typed.mail, password: typed.password } });
    },
    onSuccess: async () => {
      window.history.replaceState(null, '', '/workflows');
      await queryClient.resetQueries();
      window.location.assign('/workflows');
    },
  });
  const faults = problemOf(begin.error)?.faults ?? [];
  const field = (name: keyof Typed, label: string, help = '', more: object = {}) => {
    const fault = faults.find(one => one.field === name)?.message;
    return (
      <TextField
        label={label}
        value={typed[name]}
        onChange={event => setTyped({ ...typed, [name]: event.target.value })}
        error={fault !== undefined}
        helperText={fault ?? help}
        {...more}
      />
    );
  };
  const send = (event: FormEvent) => {
    event.preventDefault();
    begin.mutate();
  };
  return (
    <Box component="main" sx={{ maxWidth: 560, mx: 'auto', px: 3, py: { xs: 4, md: 6 } }}>
      <Typography variant="h1" sx={{ fontSize: 32, mb: 1 }}>
        Set up the house
      </Typography>
      <Typography color="textSecondary" sx={{ mb: 4 }}>
        A few things to begin with. All of them can be changed later; the workflows come next.
      </Typography>
      <Box component="form" noValidate onSubmit={send}>
        <Part title="You" words="You look after the house: you invite others, and design workflows.">
          {field('name', 'Your name', '', { autoComplete: 'name' })}
          {field('mail', 'Your mail address', '', { type: 'email', autoComplete: 'username' })}
          {field('password', 'A password', 'At least twelve letters; a short sentence is easy to remember.', {
            type: 'password',
            autoComplete: 'new-password',
          })}
        </Part>
        <Part title="The house" words="Its name stands in invitations.">
          {field('house', 'Name of the house')}
          {field('place', 'The place where people work', 'More places can follow.')}
          {field('zone', 'Time zone of that place')}
        </Part>
        <Part title="Time" words="From these, days of leave and deadlines are counted.">
          {field('pattern', 'Work pattern', '', {
            select: true,
            children: readyPatterns.map(({ id, name }) => (
              <MenuItem key={id} value={id}>
                {name}
              </MenuItem>
            )),
          })}
          {field('calendar', 'Holidays', 'Those of your country can be added later.', {
            select: true,
            children: readyCalendars.map(({ id, name }) => (
              <MenuItem key={id} value={id}>
                {name}
              </MenuItem>
            )),
          })}
          {field('days', 'Days of annual leave a year', 'Up to 5 days left over are carried to 31 March.', {
            slotProps: { htmlInput: { inputMode: 'decimal' } },
            sx: { maxWidth: 280 },
          })}
        </Part>
        {faults.length === 0 && <FailureNote fault={begin.error} />}
        <Button type="submit" variant="contained" color="primary" disabled={begin.isPending}>
          {begin.isPending ? 'Setting up …' : 'Set up the house'}
        </Button>
      </Box>
    </Box>
  );
}
