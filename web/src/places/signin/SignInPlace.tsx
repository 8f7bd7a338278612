/** Signing in: by card in the demo, by mail address and password anywhere. */

import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { type Card, SignIn } from '@north-pebble/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { call, problemOf } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { PersonPebble } from '../../parts/Pebble.tsx';

type Credentials = { mail: string; password: string; code?: string | undefined };

type CodeAsked = { words: string; isWrong: boolean };

/** @param code what is said where a code of a second factor is asked for */
function PasswordForm({ send, busy, code }: { send: (body: SignIn) => void; busy: boolean; code: CodeAsked | null }) {
  const form = useForm<Credentials>({
    resolver: zodResolver(SignIn.options[1]),
    defaultValues: { mail: '', password: '' },
    shouldUnregister: true,
  });
  const { errors } = form.formState;
  return (
    <Box
      component="form"
      noValidate
      onSubmit={form.handleSubmit(send)}
      sx={{ display: 'grid', gap: 1.5, maxWidth: 340 }}
    >
      <TextField
        label="Mail address"
        type="email"
        autoComplete="username"
        error={errors.mail !== undefined}
        helperText={errors.mail?.message}
        {...form.register('mail')}
      />
      <TextField
        label="Password"
        type="password"
        autoComplete="current-password"
        error={errors.password !== undefined}
        helperText={errors.password?.message}
        {...form.register('password')}
      />
      {code && (
        <TextField
          label="Code of your second factor"
          autoFocus
          autoComplete="one-time-code"
          error={errors.code !== undefined || code.isWrong}
          helperText={errors.code?.message ?? code.words}
          {...form.register('code')}
        />
      )}
      <Button type="submit" variant="contained" color="primary" disabled={busy} sx={{ justifySelf: 'start' }}>
        Sign in
      </Button>
    </Box>
  );
}

/** Whoever has forgotten their password asks for a mail; the answer is the same whether there is such an account or not. */
function Forgotten() {
  const [isOpen, setOpen] = useState(false);
  const [mail, setMail] = useState('');
  const ask = useMutation({ mutationFn: () => call('POST /password/forgotten', { body: { mail } }) });
  if (ask.isSuccess)
    return (
      <Note tone="good" title="A mail is on its way" role="status">
        If there is an account with this address, it says how to choose a new password. It lasts an hour.
      </Note>
    );
  if (!isOpen)
    return (
      <Button size="small" onClick={() => setOpen(true)} sx={{ mt: 1.5 }}>
        Forgotten your password?
      </Button>
    );
  return (
    <Box
      component="form"
      noValidate
      onSubmit={event => {
        event.preventDefault();
        ask.mutate();
      }}
      sx={{ display: 'grid', gap: 1.5, maxWidth: 340, mt: 2 }}
    >
      <TextField label="Your mail address" type="email" value={mail} onChange={event => setMail(event.target.value)} />
      <FailureNote fault={ask.error} />
      <Button type="submit" variant="outlined" disabled={ask.isPending} sx={{ justifySelf: 'start' }}>
        Mail me a link
      </Button>
    </Box>
  );
}

/** People of the demo without an account: their page opens by a personal link, as from their mail. */
function Guests() {
  const guests = useQuery({ queryKey: ['demo guests'], queryFn: () => call('GET /demo/guests') });
  const open = useMutation({
    mutationFn: (body: { request: string; step: string }) => call('POST /demo/guests', { body }),
    onSuccess: ({ address }) => window.location.assign(`/mine${new URL(address).hash}`),
  });
  if (!guests.data || guests.data.length === 0) return null;
  return (
    <Box component="section" aria-label="Open a personal link" sx={{ mt: 4 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        Or open a personal link
      </Typography>
      <FailureNote fault={open.error} />
      {guests.data.map(({ request, step, name, words }) => (
        <ButtonBase
          key={`${request}/${step}`}
          disabled={open.isPending}
          onClick={() => open.mutate({ request, step })}
          sx={cardStyle}
        >
          <PersonPebble name={name} size={32} />
          <span>
            <Typography component="span" sx={{ fontWeight: 650, display: 'block' }}>
              {name}
            </Typography>
            <Typography component="span" variant="body2" color="textSecondary">
              {words}
            </Typography>
          </span>
        </ButtonBase>
      ))}
    </Box>
  );
}

const cardStyle = {
  display: 'flex',
  justifyContent: 'flex-start',
  textAlign: 'left',
  gap: 1.75,
  width: '100%',
  px: 1.5,
  py: 1.1,
  borderTop: '1px solid',
  borderColor: 'divider',
  '&:hover, &:focus-visible': { bgcolor: 'background.paper' },
} as const;

type Props = { demo: boolean; cards: Card[]; house: string | null; isNew: boolean };

export function SignInPlace({ demo, cards, house, isNew }: Props) {
  const signIn = useMutation({
    mutationFn: (body: SignIn) => call('POST /session', { body }),
    onSuccess: () => queryClient.resetQueries(),
  });
  const fault = problemOf(signIn.error)?.faults?.find(one => one.field === 'code')?.message;
  const gave = signIn.variables && 'mail' in signIn.variables && signIn.variables.code !== undefined;
  // Once asked for it stays, also while the next try is on its way.
  const [asksCode, setAsksCode] = useState(false);
  useEffect(() => {
    if (fault !== undefined) setAsksCode(true);
  }, [fault]);
  const asked = asksCode ? { words: fault ?? 'The code of now.', isWrong: fault !== undefined && gave === true } : null;
  useEffect(() => {
    document.title = 'Sign in · North Pebble';
  }, []);
  return (
    <Box sx={{ maxWidth: 980, mx: 'auto', px: 3, py: { xs: 4, md: 7 } }}>
      <Typography variant="h1" sx={{ fontSize: 34, mb: 1 }}>
        {!demo && house ? house : 'North Pebble'}
      </Typography>
      <Typography color="textSecondary" sx={{ maxWidth: 560, mb: 4, fontSize: 16 }}>
        Write down how a request is handled, prove that it works for everyone, and run it.
        {demo && ` This is the demo, of an invented house: ${house}.`}
      </Typography>
      {signIn.error && fault === undefined && <FailureNote fault={signIn.error} />}
      <Box sx={{ display: 'grid', gap: 6, gridTemplateColumns: { xs: '1fr', md: demo ? '1fr 340px' : '1fr' } }}>
        {demo && (
          <section aria-label="Sign in as">
            <Typography variant="overline" component="h2" color="textSecondary">
              Sign in as
            </Typography>
            <Box sx={{ mt: 1 }}>
              {cards.map(card => (
                <ButtonBase
                  key={card.id}
                  disabled={signIn.isPending}
                  onClick={() => signIn.mutate({ card: card.id })}
                  sx={cardStyle}
                >
                  <PersonPebble name={card.name} size={32} />
                  <span>
                    <Typography component="span" sx={{ fontWeight: 650, display: 'block' }}>
                      {card.name}
                    </Typography>
                    <Typography component="span" variant="body2" color="textSecondary">
                      {card.role}
                    </Typography>
                  </span>
                </ButtonBase>
              ))}
            </Box>
          </section>
        )}
        <section aria-label="Sign in with a password">
          <Typography variant="overline" component="h2" color="textSecondary" sx={{ mb: 1.5, display: 'block' }}>
            {demo ? 'Or with a password' : 'Sign in'}
          </Typography>
          {isNew && !demo && (
            <Note tone="waiting" title="Nobody looks after this house yet">
              It is set up on the one-time address that the server printed when it started.
            </Note>
          )}
          <PasswordForm send={signIn.mutate} busy={signIn.isPending} code={asked} />
          {!demo && <Forgotten />}
          {demo && (
            <Typography variant="body2" color="textSecondary" sx={{ mt: 2 }}>
              In the demo everybody has the same password, which stands in the guide to the demo.
            </Typography>
          )}
          {demo && <Guests />}
        </section>
      </Box>
    </Box>
  );
}
