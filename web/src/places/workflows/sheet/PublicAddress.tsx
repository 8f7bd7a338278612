/** The public address of the version that is live: given out, copied, read by a camera, kept to days, renewed and shut. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { KeepPublic, PublicAddressView } from '@north-pebble/contract';
import type { CivilDate } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { renderSVG } from 'uqr';
import { call, problemOf } from '../../../api/client.ts';
import { queryClient } from '../../../api/queries.ts';
import { DayField } from '../../../parts/form/DayField.tsx';
import { FailureNote, Note } from '../../../parts/Notes.tsx';
import { Sure } from '../../../parts/Sure.tsx';

const keyOf = (workflow: string) => ['public-address', workflow];

/** Always dark on light, as cameras want it. */
function Picture({ address }: { address: string }) {
  const source = useMemo(() => `data:image/svg+xml;utf8,${encodeURIComponent(renderSVG(address))}`, [address]);
  return <img src={source} width={148} height={148} alt="The address, to be read by a camera" />;
}

function Given({ view, address }: { view: PublicAddressView; address: string }) {
  const [copied, setCopied] = useState<'yes' | 'no' | null>(null);
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(address);
      setCopied('yes');
    } catch {
      setCopied('no');
    }
  };
  return (
    <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'start' }}>
      <Picture address={address} />
      <Box sx={{ flex: 1, minWidth: 220, display: 'grid', gap: 1 }}>
        <TextField
          label="Public address"
          value={address}
          slotProps={{ htmlInput: { readOnly: true } }}
          onFocus={event => event.target.select()}
        />
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
          <Button size="small" onClick={copy}>
            Copy the address
          </Button>
          <Button size="small" href={address} target="_blank" rel="noreferrer">
            Open it
          </Button>
          <Typography variant="body2" color="textSecondary" role="status">
            {copied === 'yes'
              ? 'Copied.'
              : copied === 'no'
                ? 'Not copied: the browser does not let us. Mark it above.'
                : ''}
          </Typography>
        </Box>
        <Typography variant="body2">
          {view.taken === 0
            ? 'Nothing was sent there yet.'
            : `${view.taken} ${view.taken === 1 ? 'was' : 'were'} sent there.`}{' '}
          {view.why ?? 'It is open.'}
        </Typography>
      </Box>
    </Box>
  );
}

export function PublicAddress({ workflow }: { workflow: string }) {
  const found = useQuery({
    queryKey: keyOf(workflow),
    queryFn: () => call('GET /workflows/:id/public-address', { params: { id: workflow } }),
  });
  const [most, setMost] = useState<string | null>(null);
  const [renewing, setRenewing] = useState(false);
  const put = useMutation({
    mutationFn: (next: Partial<KeepPublic>) => {
      const { firstDay = null, lastDay = null, most: atMost = null, shut = false } = found.data ?? {};
      const body = { firstDay, lastDay, most: atMost, shut, renew: false, ...next };
      return call('PUT /workflows/:id/public-address', { params: { id: workflow }, body });
    },
    onSuccess: view => queryClient.setQueryData(keyOf(workflow), view),
  });
  const view = found.data;
  if (!view) return <FailureNote fault={found.error} />;
  const faults = problemOf(put.error)?.faults ?? [];
  const ofDay = faults.find(one => one.field === 'lastDay')?.message;
  const day = (label: string, key: 'firstDay' | 'lastDay') => (
    <DayField
      label={label}
      date={view[key] ?? ''}
      disabled={!view.mayKeep || put.isPending}
      onDate={date => put.mutate({ [key]: (date || null) as CivilDate | null })}
    />
  );
  return (
    <Box component="section" aria-label="Public address" sx={{ display: 'grid', gap: 1.5 }}>
      {view.address === null ? (
        <>
          <Note tone="now" title={view.why ?? 'The address has not been given out yet.'}>
            It stands under what is live, not under what is being changed here.
          </Note>
          {view.mayKeep && (
            <Button
              variant="contained"
              color="primary"
              disabled={put.isPending}
              onClick={() => put.mutate({})}
              sx={{ justifySelf: 'start' }}
            >
              Give out an address
            </Button>
          )}
        </>
      ) : (
        <>
          <Given view={view} address={view.address} />
          <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr 1fr' }, gap: 1.5 }}>
            {day('First day', 'firstDay')}
            {day('Last day', 'lastDay')}
            <TextField
              label="At most"
              value={most ?? view.most ?? ''}
              disabled={!view.mayKeep || put.isPending}
              onChange={event => setMost(event.target.value.replace(/\D/g, '').slice(0, 6))}
              onBlur={() => {
                if (most === null) return;
                const n = Number(most);
                if ((n || null) !== view.most) put.mutate({ most: n > 0 ? n : null });
                setMost(null);
              }}
              slotProps={{ htmlInput: { inputMode: 'numeric' } }}
            />
          </Box>
          {ofDay && <Note tone="stop" title={ofDay} role="alert" />}
          {view.mayKeep && (
            <Box sx={{ display: 'flex', gap: 1 }}>
              <Button size="small" disabled={put.isPending} onClick={() => put.mutate({ shut: !view.shut })}>
                {view.shut ? 'Open it again' : 'Shut it'}
              </Button>
              <Button size="small" disabled={put.isPending} onClick={() => setRenewing(true)}>
                A new address instead
              </Button>
            </Box>
          )}
        </>
      )}
      {!ofDay && <FailureNote fault={put.error} />}
      {renewing && (
        <Sure
          title="A new address in place of this one?"
          verb="Make a new address"
          onNo={() => setRenewing(false)}
          onYes={() => {
            setRenewing(false);
            put.mutate({ renew: true });
          }}
        >
          Wherever the one before was printed or shared, it opens nothing any more. What was sent stays, and so do the
          personal links of those who sent it.
        </Sure>
      )}
    </Box>
  );
}
