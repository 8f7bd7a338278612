/** The first password of an account outside: shown once, to whoever opens the one-time address of their mail. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { tokenHere } from './SetUpPlace.tsx';

export function FirstPasswordPlace() {
  const [token] = useState(tokenHere);
  // Only a click uses the address up: programs that look at mails open addresses too.
  const show = useMutation({ mutationFn: () => call('POST /first-password', { body: { token } }) });
  return (
    <Box component="main" sx={{ maxWidth: 460, mx: 'auto', px: 3, py: { xs: 4, md: 7 }, display: 'grid', gap: 2 }}>
      <Typography variant="h1" sx={{ fontSize: 30 }}>
        Your first password
      </Typography>
      {show.data ? (
        <>
          <Typography>
            Account: <b>{show.data.account}</b>
          </Typography>
          <Typography
            component="output"
            aria-label="Your first password"
            sx={{ fontFamily: 'monospace', fontSize: 24 }}
          >
            {show.data.password}
          </Typography>
          <Button onClick={() => void navigator.clipboard?.writeText(show.data.password)} sx={{ justifySelf: 'start' }}>
            Copy it
          </Button>
          <Note tone="waiting" title="It is shown this once">
            Nobody else knows it, and it is written down nowhere. Change it when you first sign in.
          </Note>
        </>
      ) : (
        <>
          <Typography color="textSecondary">
            It is made when you ask for it, and shown once. Have a place ready where you keep it.
          </Typography>
          <FailureNote fault={show.error} />
          <Button
            variant="contained"
            color="primary"
            disabled={show.isPending}
            onClick={() => show.mutate()}
            sx={{ justifySelf: 'start' }}
          >
            Show it
          </Button>
        </>
      )}
    </Box>
  );
}
