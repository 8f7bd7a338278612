/** A guest opens their personal link: their page, or why it does not open and what to do. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { GuestView } from '@north-pebble/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';
import { GuestPage } from '../../parts/guest/GuestPage.tsx';
import { FailureNote, Note } from '../../parts/Notes.tsx';

/** What stands behind the `#` of the address: it is sent to no server by opening the page. */
const tokenHere = (): string => window.location.hash.slice(1);

function Expired({ token }: { token: string }) {
  const ask = useMutation({ mutationFn: () => call('POST /guest/:token/link', { params: { token } }) });
  if (ask.isSuccess)
    return (
      <Note tone="good" title="A new address is on its way" role="status">
        It goes to the mail address that you gave. This one opens nothing any more.
      </Note>
    );
  return (
    <>
      <Note tone="waiting" title="The days of this address are over">
        What you typed is still there. Ask for a new address; it comes to the mail address that you gave.
      </Note>
      <FailureNote fault={ask.error} />
      <Button
        variant="contained"
        color="primary"
        disabled={ask.isPending}
        onClick={() => ask.mutate()}
        sx={{ minHeight: 48 }}
      >
        Send me a new address
      </Button>
    </>
  );
}

function Code({ token, onView }: { token: string; onView: (view: GuestView) => void }) {
  const [code, setCode] = useState('');
  const ask = useMutation({ mutationFn: () => call('POST /guest/:token/code', { params: { token } }) });
  const give = useMutation({
    mutationFn: () => call('POST /guest/:token/device', { params: { token }, body: { code } }),
    onSuccess: onView,
  });
  const fault = problemOf(give.error)?.faults?.find(one => one.field === 'code')?.message;
  return (
    <Box
      component="form"
      noValidate
      onSubmit={event => {
        event.preventDefault();
        if (ask.isSuccess) give.mutate();
        else ask.mutate();
      }}
      sx={{ display: 'grid', gap: 1.5 }}
    >
      <Note tone="now" title="This device is new here">
        The page was opened on another one before. So that nobody else can read what you typed, we send a code of six
        digits to your mail address.
      </Note>
      {ask.isSuccess && (
        <TextField
          autoFocus
          size="medium"
          label="The code from the mail"
          value={code}
          onChange={event => setCode(event.target.value.replace(/\D/g, '').slice(0, 6))}
          error={fault !== undefined}
          helperText={fault ?? 'It is good for 15 minutes.'}
          slotProps={{ htmlInput: { inputMode: 'numeric', autoComplete: 'one-time-code' } }}
        />
      )}
      <FailureNote fault={ask.error ?? (fault ? null : give.error)} />
      <Button
        type="submit"
        variant="contained"
        color="primary"
        disabled={ask.isPending || give.isPending || (ask.isSuccess && code.length !== 6)}
        sx={{ minHeight: 48 }}
      >
        {ask.isSuccess ? 'Go on' : 'Send me the code'}
      </Button>
    </Box>
  );
}

export function GuestPlace() {
  const [token] = useState(tokenHere);
  const queryKey = ['guest', token];
  const page = useQuery({
    queryKey,
    queryFn: () => call('GET /guest/:token', { params: { token } }),
    // Typing must not be changed under somebody's hands; what they do brings the newest page.
    refetchOnWindowFocus: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const keep = (view: GuestView) => queryClient.setQueryData(queryKey, view);
  const reload = async () => (await page.refetch()).data;
  const view = page.data;
  return (
    <Box component="main" sx={{ maxWidth: 520, mx: 'auto', px: 2.5, py: 2.25, minHeight: '100vh' }}>
      {page.isPending && <Typography color="textSecondary">One moment …</Typography>}
      {page.isError && (
        <Box sx={{ pt: 6 }}>
          <Typography variant="h1" sx={{ mb: 2 }}>
            This page does not open
          </Typography>
          <FailureNote fault={page.error} />
        </Box>
      )}
      {view && (view.state === 'open' || view.state === 'all in') && (
        <GuestPage view={view} token={token} onView={keep} onReload={reload} />
      )}
      {view && view.state !== 'open' && view.state !== 'all in' && (
        <Box sx={{ pt: 6 }}>
          <Typography variant="body2" color="textSecondary">
            {view.house}
          </Typography>
          <Typography variant="h1" sx={{ mt: 0.5, mb: 2 }}>
            {view.state === 'over'
              ? 'Nothing is left to do here'
              : view.state === 'code'
                ? 'Is it you?'
                : 'Welcome back'}
          </Typography>
          {view.state === 'over' && (
            <Note tone="good" title={`${view.about}: this is finished`}>
              Nothing is asked of you here any more, so nothing of it is shown. If that surprises you, write to whoever
              sent you this address.
            </Note>
          )}
          {view.state === 'expired' && <Expired token={token} />}
          {view.state === 'code' && <Code token={token} onView={keep} />}
        </Box>
      )}
    </Box>
  );
}
