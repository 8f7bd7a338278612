/** A link from a mail: an invitation, or a new password. It works once. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { tokenHere } from './SetUpPlace.tsx';

export function LinkPlace() {
  const [token] = useState(tokenHere);
  const [password, setPassword] = useState('');
  const link = useQuery({
    queryKey: ['link', token],
    queryFn: () => call('GET /links/:token', { params: { token } }),
    retry: false,
  });
  const choose = useMutation({
    mutationFn: async () => {
      await call('POST /password', { body: { token, password } });
      await call('POST /session', { body: { mail: link.data?.mail ?? '', password } });
    },
    onSuccess: () => window.location.assign('/desk'),
  });
  const fault = problemOf(choose.error)?.faults?.find(one => one.field === 'password')?.message;
  const send = (event: FormEvent) => {
    event.preventDefault();
    choose.mutate();
  };
  return (
    <Box component="main" sx={{ maxWidth: 460, mx: 'auto', px: 3, py: { xs: 4, md: 7 } }}>
      <Typography variant="h1" sx={{ fontSize: 30, mb: 1 }}>
        {link.data?.purpose === 'invitation' ? `Welcome, ${link.data.name}` : 'Choose a password'}
      </Typography>
      {link.isError && (
        <Note tone="stop" title="This address does not work any more" role="alert">
          It was used already, or its time is over. Ask for a new one <a href="/">where one signs in</a>, or ask whoever
          invited you.
        </Note>
      )}
      {link.data && (
        <Box component="form" noValidate onSubmit={send} sx={{ display: 'grid', gap: 2, mt: 2 }}>
          <Typography color="textSecondary">You sign in with {link.data.mail} and this password.</Typography>
          <input type="hidden" autoComplete="username" value={link.data.mail} readOnly />
          <TextField
            label="Password"
            type="password"
            autoComplete="new-password"
            value={password}
            onChange={event => setPassword(event.target.value)}
            error={fault !== undefined}
            helperText={fault ?? 'At least twelve letters; a short sentence is easy to remember.'}
          />
          {!fault && <FailureNote fault={choose.error} />}
          <Button
            type="submit"
            variant="contained"
            color="primary"
            disabled={choose.isPending}
            sx={{ justifySelf: 'start' }}
          >
            Go on
          </Button>
        </Box>
      )}
    </Box>
  );
}
