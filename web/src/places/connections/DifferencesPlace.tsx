/** What a directory holds against what it should: looked at, compared anew, mended one by one or together. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { type DifferenceRow, type DifferencesView, may } from '@north-pebble/contract';
import { momentWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as RouterLink, useParams } from 'react-router';
import { call } from '../../api/client.ts';
import { differencesQuery, queryClient } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { Sure } from '../../parts/Sure.tsx';

const keep = (view: DifferencesView) => queryClient.setQueryData(differencesQuery(view.connection).queryKey, view);

const mendWords: Record<string, string> = {
  'create account': 'Make the account',
  'disable account': 'Disable it',
  'change account': 'Set it right',
  'add to group': 'Put them in',
  'take out of group': 'Take them out',
};
const states = { 'on its way': 'Asked for, not done yet', done: 'Mended', refused: 'Refused' } as const;

type RowProps = { row: DifferenceRow; mayMend: boolean; busy: boolean; onMend: () => void };
function Row({ row, mayMend, busy, onMend }: RowProps) {
  return (
    <Box
      component="li"
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 190px' },
        gap: 1.5,
        py: 1,
        borderBottom: '1px solid',
        borderColor: 'divider',
        alignItems: 'center',
      }}
    >
      <Box>
        <Typography sx={{ textDecoration: row.mending === 'done' ? 'line-through' : undefined }}>{row.what}</Typography>
        <Typography variant="body2" color="textSecondary">
          {row.cause}
          {row.reason && row.mending !== 'done' && ` ${row.reason}.`}
        </Typography>
      </Box>
      <Box sx={{ textAlign: { md: 'right' } }}>
        {row.mending ? (
          <Typography variant="body2" sx={{ color: row.mending === 'refused' ? 'error.main' : 'text.secondary' }}>
            {states[row.mending]}
          </Typography>
        ) : row.mends ? (
          mayMend && (
            <Button size="small" disabled={busy} onClick={onMend} aria-label={`${mendWords[row.mends]}: ${row.what}`}>
              {mendWords[row.mends] ?? row.mends}
            </Button>
          )
        ) : (
          <Typography variant="body2" color="textSecondary">
            Somebody must look.
          </Typography>
        )}
      </Box>
    </Box>
  );
}

function Differences({ view }: { view: DifferencesView }) {
  const { self } = useHere();
  const year = useYear();
  const mayMend = may(self, 'keep connections');
  const [asks, setAsks] = useState(false);
  const params = { name: view.connection };
  const start = useMutation({
    mutationFn: () => call('POST /connections/:name/differences', { params }),
    onSuccess: keep,
  });
  const stop = useMutation({
    mutationFn: () => call('DELETE /connections/:name/differences', { params }),
    onSuccess: keep,
  });
  const mend = useMutation({
    mutationFn: (keys: string[] | undefined) =>
      call('POST /connections/:name/differences/mended', { params, body: keys ? { keys } : {} }),
    onSuccess: keep,
  });
  const running = view.state === 'running';
  const open = view.rows.filter(row => row.mends !== null && row.mending === null);
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 1.5 }}>
        <Typography sx={{ flex: 1, minWidth: 240 }} role="status">
          {running
            ? `Comparing: ${view.read.toLocaleString('en-GB')}${view.total > 0 ? ` of ${view.total.toLocaleString('en-GB')}` : ''} read.`
            : view.doneAt && view.state === 'done'
              ? `Compared ${momentWords(view.doneAt, self.zone, year)}: ${view.rows.length + view.more === 0 ? 'nothing differs' : view.rows.length === 1 ? 'one thing differs' : `${view.rows.length + view.more} things differ`}.`
              : view.state === 'stopped'
                ? 'The comparison was stopped.'
                : 'Not compared yet; that is done every night.'}
        </Typography>
        {mayMend && running && (
          <Button onClick={() => stop.mutate()} disabled={stop.isPending}>
            Stop
          </Button>
        )}
        {mayMend && !running && (
          <Button onClick={() => start.mutate()} disabled={start.isPending}>
            Compare now
          </Button>
        )}
        {mayMend && !running && open.length > 1 && (
          <Button variant="contained" color="primary" onClick={() => setAsks(true)} disabled={mend.isPending}>
            Mend all {open.length}
          </Button>
        )}
      </Box>
      {running && (
        <LinearProgress
          aria-label="Comparing"
          variant={view.total > 0 ? 'determinate' : 'indeterminate'}
          value={view.total > 0 ? (100 * view.read) / view.total : 0}
          sx={{ mb: 2 }}
        />
      )}
      {view.state === 'failed' && (
        <Note tone="stop" title="It could not be compared" role="alert">
          {view.fault}. What stands below is of the time before.
        </Note>
      )}
      <FailureNote fault={start.error ?? stop.error ?? mend.error} />
      {view.rows.length === 0 && view.state === 'done' && (
        <Empty title="Everything is there as it should be">
          Accounts of those who work here, their names and places, and the groups that requests gave are compared.
        </Empty>
      )}
      <Box component="ul" aria-label="Differences" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {view.rows.map(row => (
          <Row key={row.key} row={row} mayMend={mayMend} busy={mend.isPending} onMend={() => mend.mutate([row.key])} />
        ))}
      </Box>
      {view.more > 0 && (
        <Typography color="textSecondary" sx={{ mt: 1 }}>
          {view.more.toLocaleString('en-GB')} more are not shown. When so much differs, look first whether it is the
          right directory.
        </Typography>
      )}
      {asks && (
        <Sure
          title={`Mend all ${open.length}?`}
          verb="Mend them"
          onYes={() => {
            setAsks(false);
            mend.mutate(undefined);
          }}
          onNo={() => setAsks(false)}
        >
          {view.connection} is asked for each of them. What people must look at is left as it is.
        </Sure>
      )}
    </>
  );
}

export function DifferencesPlace() {
  const { name = '' } = useParams();
  const view = useQuery(differencesQuery(name));
  return (
    <Page
      title={`${name}: what differs`}
      sub={
        <>
          What it should hold, by the records and by what requests gave, against what it holds.{' '}
          <Link component={RouterLink} to="/connections">
            Connections
          </Link>
          {' · '}
          <Link component={RouterLink} to="/reviews">
            Look at access again
          </Link>
        </>
      }
    >
      <Loaded query={view}>{found => <Differences view={found} />}</Loaded>
    </Page>
  );
}
