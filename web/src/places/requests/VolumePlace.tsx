/** Requests of one workflow added up: how many, what was asked for and what came of it, side by side. */
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { mostSums, type VolumeView } from '@north-pebble/contract';
import { civilDateAt } from '@north-pebble/core/time';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { call } from '../../api/client.ts';
import { askableQuery } from '../../api/queries.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { useHere } from '../../parts/frame/session.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Empty, Page } from '../../parts/Page.tsx';

type Sums = VolumeView['total']['sums'];

/** What requests came to. Where not all of them hold it, of how many: two sums side by side may be of unlike many. */
function Sum({ sums, id, requests }: { sums: Sums; id: string; requests: number }) {
  return (sums[id] ?? []).map(({ currency, sum, held }) => (
    <div key={currency}>
      {sum.toLocaleString('en-GB', { minimumFractionDigits: currency === null ? 0 : 2, maximumFractionDigits: 2 })}
      {currency !== null && ` ${currency}`}
      {held < requests && (
        <Box sx={{ fontSize: 12, fontWeight: 400, color: 'text.secondary' }}>
          {`of ${held.toLocaleString('en-GB')} ${held === 1 ? 'request' : 'requests'}`}
        </Box>
      )}
    </div>
  ));
}

const monthWords = (month: string): string =>
  new Date(`${month}-01T12:00:00Z`).toLocaleDateString('en-GB', { month: 'long', year: 'numeric', timeZone: 'UTC' });

function Table({ view, of, by }: { view: VolumeView; of: readonly string[]; by: string }) {
  const label = (id: string) => view.of.find(one => one.id === id)?.label ?? id;
  const most = Math.max(1, ...view.rows.map(row => row.requests));
  const numbers = { textAlign: 'right', fontVariantNumeric: 'tabular-nums', whiteSpace: 'nowrap' } as const;
  return (
    <Box sx={{ overflowX: 'auto' }}>
      <Box
        component="table"
        sx={{
          width: '100%',
          borderCollapse: 'collapse',
          fontSize: 14,
          '& th, & td': { p: 0.9, borderBottom: '1px solid', borderColor: 'divider', textAlign: 'left' },
          '& th': { fontWeight: 400, color: 'text.secondary' },
          '& .number': numbers,
          '& .bar': { width: 120, display: { xs: 'none', sm: 'table-cell' } },
          '& tfoot td': { fontWeight: 650 },
        }}
      >
        <thead>
          <tr>
            <th scope="col">{view.by.find(one => one.id === by)?.label ?? ''}</th>
            <th scope="col" className="number">
              Requests
            </th>
            <td aria-hidden="true" className="bar" />
            {of.map(id => (
              <th key={id} scope="col" className="number">
                {label(id)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {view.rows.map(row => (
            <tr key={row.group}>
              <td>{by === 'month' ? monthWords(row.group) : row.group}</td>
              <td className="number">{row.requests.toLocaleString('en-GB')}</td>
              <td aria-hidden="true" className="bar">
                <Box
                  sx={{
                    height: 8,
                    borderRadius: '4px',
                    bgcolor: 'primary.main',
                    width: `${(100 * row.requests) / most}%`,
                    minWidth: 2,
                  }}
                />
              </td>
              {of.map(id => (
                <td key={id} className="number">
                  <Sum sums={row.sums} id={id} requests={row.requests} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <td>All</td>
            <td className="number">{view.total.requests.toLocaleString('en-GB')}</td>
            <td aria-hidden="true" className="bar" />
            {of.map(id => (
              <td key={id} className="number">
                <Sum sums={view.total.sums} id={id} requests={view.total.requests} />
              </td>
            ))}
          </tr>
        </tfoot>
      </Box>
    </Box>
  );
}

export function VolumePlace() {
  const { self, now } = useHere();
  const [search, setSearch] = useSearchParams();
  const workflows = useQuery(askableQuery);
  const workflow = search.get('workflow') ?? workflows.data?.[0]?.id ?? '';
  const by = search.get('by') ?? 'month';
  const of = (search.get('of') ?? '').split(',').filter(Boolean);
  const set = (change: Readonly<Record<string, string>>) =>
    setSearch(
      before => {
        const next = new URLSearchParams(before);
        for (const [key, value] of Object.entries(change)) {
          if (value) next.set(key, value);
          else next.delete(key);
        }
        return next;
      },
      { replace: true },
    );
  const query = new URLSearchParams(search);
  query.set('workflow', workflow);
  const found = useQuery({
    queryKey: ['requests', 'volume', query.toString()],
    queryFn: () => call('GET /requests/volume', { query: query.toString() }),
    enabled: workflow !== '',
    placeholderData: keepPreviousData,
  });
  const view = found.data;
  return (
    <Page wide title="Requests added up" sub="How many there were, and what they came to, by what tells them apart.">
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 2 }}>
        <TextField
          select
          size="small"
          label="Workflow"
          value={workflows.data?.some(one => one.id === workflow) ? workflow : ''}
          onChange={event => set({ workflow: event.target.value, by: '', of: '' })}
          sx={{ minWidth: 190 }}
        >
          {(workflows.data ?? []).map(one => (
            <MenuItem key={one.id} value={one.id}>
              {one.name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="small"
          label="By"
          value={view?.by.some(one => one.id === by) ? by : ''}
          onChange={event => set({ by: event.target.value })}
          sx={{ minWidth: 150 }}
        >
          {(view?.by ?? []).map(one => (
            <MenuItem key={one.id} value={one.id}>
              {one.label}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="small"
          label="Added up"
          value={of.filter(id => view?.of.some(one => one.id === id))}
          onChange={event => set({ of: (event.target.value as unknown as string[]).slice(0, mostSums).join(',') })}
          slotProps={{ select: { multiple: true } }}
          sx={{ minWidth: 170 }}
        >
          {(view?.of ?? []).map(one => (
            <MenuItem key={one.id} value={one.id}>
              {one.label}
            </MenuItem>
          ))}
        </TextField>
        {(['from', 'to'] as const).map(end => (
          <Box key={end} sx={{ width: 170 }}>
            <DayField
              label={end === 'from' ? 'Asked from' : 'Asked until'}
              date={search.get(end) ?? ''}
              onDate={day => set({ [end]: day })}
              start={civilDateAt(now, self.zone)}
            />
          </Box>
        ))}
      </Box>
      {found.error && <FailureNote fault={found.error} />}
      {view && view.lookedAt !== null && (
        <Note tone="waiting" title={`The newest ${view.lookedAt.toLocaleString('en-GB')} are added up`}>
          There are more. Choose fewer days to have all of them.
        </Note>
      )}
      {view &&
        (view.rows.length === 0 ? (
          <Empty title="Nothing was asked for in these days">Choose other days, or another workflow.</Empty>
        ) : (
          <Table view={view} of={of} by={by} />
        ))}
      {!view && !found.error && <Typography color="textSecondary">Adding up …</Typography>}
    </Page>
  );
}
