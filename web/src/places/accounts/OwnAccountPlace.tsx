/** One's own account: another password, a second factor, and where one is signed in. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { SessionRow } from '@north-pebble/contract';
import { momentWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { queryClient, sessionsQuery } from '../../api/queries.ts';
import { useHere } from '../../parts/frame/session.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';
import { SecondFactor } from './SecondFactor.tsx';

const empty = { before: '', password: '' };

function Password() {
  const [typed, setTyped] = useState(empty);
  const change = useMutation({
    mutationFn: () => call('PUT /password', { body: typed }),
    onSuccess: async () => {
      setTyped(empty);
      await queryClient.invalidateQueries({ queryKey: sessionsQuery.queryKey });
    },
  });
  const faults = problemOf(change.error)?.faults ?? [];
  const field = (name: keyof typeof typed, label: string, autoComplete: string, help = '') => {
    const fault = faults.find(one => one.field === name)?.message;
    return (
      <TextField
        label={label}
        type="password"
        autoComplete={autoComplete}
        value={typed[name]}
        onChange={event => {
          setTyped({ ...typed, [name]: event.target.value });
          change.reset();
        }}
        error={fault !== undefined}
        helperText={fault ?? help}
      />
    );
  };
  const send = (event: FormEvent) => {
    event.preventDefault();
    change.mutate();
  };
  return (
    <Box component="section" aria-label="Password" sx={{ mb: 5 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 1.5 }}>
        Password
      </Typography>
      <Box component="form" noValidate onSubmit={send} sx={{ display: 'grid', gap: 1.75, maxWidth: 400 }}>
        {field('before', 'The password you have', 'current-password')}
        {field('password', 'Another password', 'new-password', 'At least twelve letters.')}
        {faults.length === 0 && <FailureNote fault={change.error} />}
        {change.isSuccess && (
          <Note tone="good" title="Changed" role="status">
            You are signed out everywhere else.
          </Note>
        )}
        <Button
          type="submit"
          variant="contained"
          color="primary"
          disabled={change.isPending || typed.before === '' || typed.password === ''}
          sx={{ justifySelf: 'start' }}
        >
          Change the password
        </Button>
      </Box>
    </Box>
  );
}

function Sessions() {
  const { self } = useHere();
  const sessions = useQuery(sessionsQuery);
  const end = useMutation({
    mutationFn: () => call('DELETE /sessions/others'),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: sessionsQuery.queryKey }),
  });
  return (
    <Box component="section" aria-label="Where you are signed in">
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        Where you are signed in
      </Typography>
      <Loaded query={sessions}>
        {rows => (
          <>
            <Box component="ul" sx={{ pl: 2.5, my: 1 }}>
              {rows.map((row: SessionRow) => (
                <li key={row.id}>
                  {row.isThis ? 'Here' : 'Somewhere else'}, until{' '}
                  {momentWords(row.expires.slice(0, 19).concat('Z') as never, self.zone, new Date().getFullYear())}
                </li>
              ))}
            </Box>
            {rows.length > 1 && (
              <Button disabled={end.isPending} onClick={() => end.mutate()}>
                Sign out everywhere else
              </Button>
            )}
            <FailureNote fault={end.error} />
          </>
        )}
      </Loaded>
    </Box>
  );
}

export function OwnAccountPlace() {
  return (
    <Page title="Your account">
      <Password />
      <SecondFactor />
      <Sessions />
    </Page>
  );
}
