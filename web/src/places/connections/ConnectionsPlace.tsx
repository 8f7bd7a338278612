/** Connections: the ways out of the house, how they go, and what did not go through. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import {
  type ConnectionKind,
  type ConnectionsView,
  type ConnectionView,
  type EffectRow,
  may,
} from '@north-pebble/contract';
import { momentWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { call } from '../../api/client.ts';
import { connectionsQuery, queryClient } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';
import { Sure } from '../../parts/Sure.tsx';
import { ConnectionForm } from './ConnectionForm.tsx';

export const keep = (view: ConnectionsView) => queryClient.setQueryData(connectionsQuery.queryKey, view);

/** How it goes, in a sentence. */
export function standing(connection: ConnectionView): string {
  const { usable, paused, waiting, ahead, failing, refused, delivered, fault } = connection;
  const done = `${delivered.toLocaleString('en-GB')} delivered`;
  if (!usable) return 'Its settings are not understood any more. Set it up anew.';
  if (paused) return waiting > 0 ? `Paused; ${waiting} wait.` : `Paused; ${done}.`;
  if (failing > 0) return `${failing} of ${waiting} that wait were tried in vain: ${fault ?? 'no answer'}.`;
  const rest = [
    waiting > 0 ? `${waiting} on the way` : '',
    refused > 0 ? `${refused} refused` : '',
    ahead > 0 ? `${ahead} to be taken back on their day` : '',
  ].filter(Boolean);
  return `${[done, ...rest].join(', ')}.`;
}

type ConnectionProps = { one: ConnectionView; kinds: readonly ConnectionKind[]; mayChange: boolean };
function Connection({ one, kinds, mayChange }: ConnectionProps) {
  const [isOpen, setOpen] = useState(false);
  const [asks, setAsks] = useState(false);
  const check = useMutation({
    mutationFn: () => call('POST /connections/:name/check', { params: { name: one.name } }),
  });
  const again = useMutation({
    mutationFn: () => call('POST /connections/:name/again', { params: { name: one.name }, body: {} }),
    onSuccess: keep,
  });
  const remove = useMutation({
    mutationFn: () => call('DELETE /connections/:name', { params: { name: one.name } }),
    onSuccess: keep,
  });
  const isOwn = one.kind === 'mail';
  const isTroubled = one.failing > 0 || !one.usable;
  return (
    <Box component="li" sx={{ py: 1.75, borderBottom: '1px solid', borderColor: 'divider' }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
        <Typography variant="h3" component="h2" sx={{ minWidth: 150 }}>
          {isOwn ? 'Mail' : one.name}
        </Typography>
        <Typography
          variant="body2"
          sx={{ flex: 1, minWidth: 240, color: isTroubled ? 'error.main' : 'text.secondary' }}
        >
          {standing(one)}
        </Typography>
        {mayChange && (
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
            {one.waiting > 0 && (
              <Button size="small" onClick={() => again.mutate()} disabled={again.isPending}>
                Try now
              </Button>
            )}
            {!isOwn && (
              <>
                <Button size="small" onClick={() => check.mutate()} disabled={check.isPending}>
                  {check.isPending ? 'Checking …' : 'Check'}
                </Button>
                <Button size="small" onClick={() => setOpen(!isOpen)} aria-expanded={isOpen}>
                  Change
                </Button>
                <Button size="small" onClick={() => setAsks(true)}>
                  Remove
                </Button>
              </>
            )}
          </Box>
        )}
      </Box>
      <Typography variant="body2" color="textSecondary">
        {one.kind === 'directory' && (
          <>
            <Link component={RouterLink} to={`/connections/${encodeURIComponent(one.name)}/differences`}>
              What differs
            </Link>{' '}
            ·{' '}
          </>
        )}
        {isOwn
          ? 'Letters to people, over SMTP. It is set in the environment of the server.'
          : String(one.shown.address)}
        {one.shown.inside === true && ' · may be in a private network'}
      </Typography>
      {check.data && (
        <Note tone={check.data.reached ? 'good' : 'stop'} title={check.data.words} role="status">
          {check.data.reached ? 'It knows who asks.' : 'What waits for it is tried again by itself.'}
        </Note>
      )}
      <FailureNote fault={check.error ?? again.error ?? remove.error} />
      {isOpen && (
        <ConnectionForm
          name={one.name}
          kinds={kinds}
          before={one}
          onDone={view => {
            keep(view);
            setOpen(false);
          }}
          onCancel={() => setOpen(false)}
        />
      )}
      {asks && (
        <Sure
          title={`Remove ${one.name}?`}
          verb="Remove it"
          onYes={() => {
            setAsks(false);
            remove.mutate();
          }}
          onNo={() => setAsks(false)}
        >
          {one.waiting > 0
            ? `${one.waiting} that wait for it stay on file, and go out if it is set up again.`
            : 'Workflows that name it then ask for something that nobody does.'}
        </Sure>
      )}
    </Box>
  );
}

function Failed({ rows }: { rows: EffectRow[] }) {
  const { self } = useHere();
  const year = useYear();
  return (
    <Box component="section" aria-label="What did not go through" sx={{ mt: 4 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        What did not go through
      </Typography>
      {rows.length === 0 && <Typography color="textSecondary">Everything that was asked for went through.</Typography>}
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {rows.map(row => (
          <Box
            component="li"
            key={row.id}
            sx={{
              display: 'grid',
              gridTemplateColumns: { xs: '1fr', md: '150px 170px 110px minmax(0, 1fr)' },
              gap: 1,
              py: 0.75,
              borderBottom: '1px solid',
              borderColor: 'divider',
              fontSize: 14,
            }}
          >
            <span>{momentWords(row.writtenAt, self.zone, year)}</span>
            <span>
              {row.connection === 'mail' ? 'Mail' : row.connection}: {row.action}
            </span>
            <span>
              {row.request && (
                <Link component={RouterLink} to={`/requests/${row.request}`}>
                  {row.request}
                </Link>
              )}
            </span>
            <Box component="span" sx={{ color: row.state === 'refused' ? 'error.main' : 'text.secondary' }}>
              {row.state === 'refused' ? 'Refused' : `Tried ${row.attempts} ${row.attempts === 1 ? 'time' : 'times'}`}
              {row.fault && `: ${row.fault}`}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

export function ConnectionsPlace() {
  const { self } = useHere();
  const mayChange = may(self, 'keep connections');
  const connections = useQuery(connectionsQuery);
  const [isNew, setNew] = useState<string | null>(null);
  return (
    <Page
      title="Connections"
      sub="Systems outside that workflows ask for something. A step that waits goes on when the system has answered."
      actions={
        mayChange && isNew === null ? (
          <Button variant="outlined" onClick={() => setNew('')}>
            Set up a connection
          </Button>
        ) : undefined
      }
    >
      {isNew !== null && connections.data && (
        <ConnectionForm
          name={isNew}
          kinds={connections.data.kinds}
          onDone={view => {
            keep(view);
            setNew(null);
          }}
          onCancel={() => setNew(null)}
        />
      )}
      <Loaded query={connections}>
        {view => (
          <>
            {view.missing.map(({ name, waiting }) => (
              <Note key={name} tone="waiting" title={`Nobody has set up “${name}”`}>
                {waiting} {waiting === 1 ? 'thing was' : 'things were'} asked of it and{' '}
                {waiting === 1 ? 'waits' : 'wait'}.{' '}
                {mayChange && (
                  <Button size="small" onClick={() => setNew(name)}>
                    Set it up
                  </Button>
                )}
              </Note>
            ))}
            <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
              {view.connections.map(one => (
                <Connection key={one.name} one={one} kinds={view.kinds} mayChange={mayChange} />
              ))}
            </Box>
            <Failed rows={view.failed} />
          </>
        )}
      </Loaded>
    </Page>
  );
}
