/** One's own second factor: set up with another device, its written codes shown once, and given up again. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useMemo, useState } from 'react';
import { renderSVG } from 'uqr';
import { call, problemOf } from '../../api/client.ts';
import { factorQuery, queryClient } from '../../api/queries.ts';
import { useHere } from '../../parts/frame/session.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Loaded } from '../../parts/Page.tsx';

/** What changes with a second factor: one's rights, and the page about it. */
const changed = () => queryClient.invalidateQueries();

function CodeForm({ label, button, send, fault, busy }: CodeFormProps) {
  const [code, setCode] = useState('');
  const faults = problemOf(fault)?.faults ?? [];
  const own = faults.find(one => one.field === 'code')?.message;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    send(code);
  };
  return (
    <Box component="form" noValidate onSubmit={submit} sx={{ display: 'grid', gap: 1.5, maxWidth: 340 }}>
      <TextField
        label={label}
        value={code}
        onChange={event => setCode(event.target.value)}
        error={own !== undefined}
        helperText={own ?? 'Six figures.'}
        slotProps={{ htmlInput: { inputMode: 'numeric', autoComplete: 'one-time-code' } }}
      />
      {!own && <FailureNote fault={fault} />}
      <Button
        type="submit"
        variant="contained"
        color="primary"
        disabled={busy || code.trim() === ''}
        sx={{ justifySelf: 'start' }}
      >
        {button}
      </Button>
    </Box>
  );
}
type CodeFormProps = {
  label: string;
  button: string;
  send: (code: string) => void;
  fault: unknown;
  busy: boolean;
};

/** The picture that the other device reads, always dark on light, as cameras want it. */
function Picture({ address }: { address: string }) {
  const source = useMemo(() => `data:image/svg+xml;utf8,${encodeURIComponent(renderSVG(address))}`, [address]);
  return <img src={source} width={180} height={180} alt="The secret, to be read by the other device" />;
}

function SetUp({ hasPassword, onCodes }: { hasPassword: boolean; onCodes: (codes: readonly string[]) => void }) {
  const [password, setPassword] = useState('');
  const begin = useMutation({ mutationFn: () => call('POST /factor', { body: { password } }) });
  const wrong = problemOf(begin.error)?.faults?.find(one => one.field === 'password')?.message;
  const confirm = useMutation({
    mutationFn: (code: string) => call('PUT /factor', { body: { code } }),
    onSuccess: async ({ codes }) => {
      onCodes(codes);
      await changed();
    },
  });
  if (!begin.data)
    return (
      <>
        <Typography sx={{ mb: 1.5 }}>
          Besides your password you are asked for a code that another device of yours shows, as your telephone.
        </Typography>
        <Box
          component="form"
          noValidate
          onSubmit={event => {
            event.preventDefault();
            begin.mutate();
          }}
          sx={{ display: 'grid', gap: 1.5, maxWidth: 340 }}
        >
          {hasPassword && (
            <TextField
              label="Your password"
              type="password"
              value={password}
              onChange={event => setPassword(event.target.value)}
              error={wrong !== undefined}
              helperText={wrong ?? 'Once more, since whoever finds your page open could shut you out.'}
              slotProps={{ htmlInput: { autoComplete: 'current-password' } }}
            />
          )}
          {!wrong && <FailureNote fault={begin.error} />}
          <Button
            type="submit"
            variant="outlined"
            disabled={begin.isPending || (hasPassword && password === '')}
            sx={{ justifySelf: 'start' }}
          >
            Set one up
          </Button>
        </Box>
      </>
    );
  const { address, secret } = begin.data;
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <Typography>
        1. Let an application for one-time codes on your telephone read this picture, or type the letters into it.
      </Typography>
      <Box sx={{ display: 'flex', gap: 2.5, alignItems: 'center', flexWrap: 'wrap' }}>
        <Picture address={address} />
        <Typography
          component="code"
          sx={{ fontFamily: 'monospace', fontSize: 15, maxWidth: 190, overflowWrap: 'anywhere' }}
        >
          {secret.match(/.{1,4}/g)?.join(' ')}
        </Typography>
      </Box>
      <Typography>2. Type the code that it shows now.</Typography>
      <CodeForm
        label="Code"
        button="Take it into use"
        send={code => confirm.mutate(code)}
        fault={confirm.error}
        busy={confirm.isPending}
      />
    </Box>
  );
}

function GiveUp({ codesLeft }: { codesLeft: number }) {
  const [asks, setAsks] = useState(false);
  const giveUp = useMutation({
    mutationFn: (code: string) => call('POST /factor/off', { body: { code } }),
    onSuccess: changed,
  });
  return (
    <Box sx={{ display: 'grid', gap: 1.5, justifyItems: 'start' }}>
      <Typography>
        You have one: whoever signs in with your password is asked for a code too. Of the codes that you wrote down,{' '}
        {codesLeft === 1 ? 'one is' : `${codesLeft} are`} left.
      </Typography>
      {asks ? (
        <CodeForm
          label="Code of now"
          button="Give it up"
          send={code => giveUp.mutate(code)}
          fault={giveUp.error}
          busy={giveUp.isPending}
        />
      ) : (
        <Button onClick={() => setAsks(true)}>Give it up</Button>
      )}
    </Box>
  );
}

export function SecondFactor() {
  const { self } = useHere();
  const factor = useQuery(factorQuery);
  const [codes, setCodes] = useState<readonly string[] | null>(null);
  return (
    <Box component="section" aria-label="Second factor" sx={{ mb: 5, maxWidth: 560 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        Second factor
      </Typography>
      {self.withheld.length > 0 && (
        <Note tone="waiting" title={`What you may do as ${self.withheld.join(' and ')} waits for a second factor`}>
          Set one up, or sign in again with its code.
        </Note>
      )}
      {codes && (
        <Note tone="good" title="It is in use. Write these codes down; they are not shown again" role="status">
          <Box component="ul" sx={{ columns: 2, fontFamily: 'monospace', fontSize: 15, pl: 2.5, my: 1 }}>
            {codes.map(code => (
              <li key={code}>{code}</li>
            ))}
          </Box>
          Each opens your account once, in place of the code of a device that is lost.
        </Note>
      )}
      <Loaded query={factor}>
        {({ isOn, codesLeft, hasPassword }) =>
          isOn ? <GiveUp codesLeft={codesLeft} /> : <SetUp hasPassword={hasPassword} onCodes={setCodes} />
        }
      </Loaded>
    </Box>
  );
}
