/** The end of leave years: who has what when the year turns, closing what is over, and telling pay what was taken. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { YearEndView } from '@north-pebble/contract';
import { amountOfUnit, amountWords, fullDate, momentWords, rangeWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { call, problemOf } from '../../api/client.ts';
import { payQuery, queryClient, yearEndQuery } from '../../api/queries.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { type LongColumn, LongTable } from '../../parts/LongTable.tsx';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';

type Row = YearEndView['rows'][number];

const number = { display: 'block', textAlign: 'right', fontVariantNumeric: 'tabular-nums' } as const;
const heading = (words: string) => () => (
  <Box component="span" sx={number}>
    {words}
  </Box>
);
const amount = (value: number, bad = false) => (
  <Box component="span" sx={{ ...number, color: bad ? 'error.main' : 'inherit' }}>
    {value === 0 ? '' : amountWords(value)}
    {bad && ' below zero'}
  </Box>
);

function Closed({ row }: { row: Row }) {
  const { self } = useHere();
  const year = useYear();
  if (row.closed) return `closed by ${row.closed.by}, ${momentWords(row.closed.at, self.zone, year)}`;
  return row.open > 0 ? `open; ${row.open} still asked for` : 'open';
}

const columns = (type: string): LongColumn<Row>[] => [
  {
    id: 'name',
    header: 'Name',
    cell: ({ row }) => (
      <Link component={RouterLink} to={`/balances?person=${row.original.person}&type=${type}`} sx={{ fontWeight: 600 }}>
        {row.original.name}
      </Link>
    ),
    meta: { width: 'minmax(160px, 1.4fr)' },
  },
  {
    id: 'plan',
    header: 'Plan',
    cell: ({ row }) => `${row.original.plan}${row.original.unit === 'hours' ? ', hours' : ''}`,
    meta: { width: '120px' },
  },
  { id: 'on', header: 'Leave year until', cell: ({ row }) => fullDate(row.original.on), meta: { width: '190px' } },
  {
    id: 'balance',
    header: heading('Balance'),
    cell: ({ row }) => amount(row.original.balance, row.original.balance < 0),
    meta: { width: 'minmax(90px, 0.7fr)' },
  },
  {
    id: 'carried',
    header: heading('Carried'),
    cell: ({ row }) => amount(row.original.carried),
    meta: { width: '80px' },
  },
  { id: 'lapses', header: heading('Lapses'), cell: ({ row }) => amount(row.original.lapses), meta: { width: '80px' } },
  {
    id: 'closed',
    header: 'Stands',
    cell: ({ row }) => <Closed row={row.original} />,
    meta: { width: 'minmax(190px, 1.6fr)' },
  },
];

/** What is so in all, before anything is closed. */
function InShort({ rows }: { rows: readonly Row[] }) {
  const units = [...new Set(rows.map(row => row.unit))];
  const below = rows.filter(row => row.balance < 0).length;
  const sum = (unit: Row['unit'], of: 'carried' | 'lapses') =>
    Math.round(rows.reduce((s, row) => (row.unit === unit ? s + row[of] : s), 0) * 100) / 100;
  return (
    <Typography variant="body2" color="textSecondary" role="status" sx={{ mb: 1 }}>
      {rows.length === 1 ? 'One leave year' : `${rows.length} leave years`}
      {units.map(
        unit =>
          `; ${amountOfUnit(sum(unit, 'carried'), unit)} carried, ${amountOfUnit(sum(unit, 'lapses'), unit)} lapse`,
      )}
      {below > 0 && `; ${below} below zero`}
    </Typography>
  );
}

function Closing({ view }: { view: YearEndView }) {
  const [sure, setSure] = useState(false);
  const open = view.rows.filter(row => row.closed === null);
  const asked = open.filter(row => row.open > 0).length;
  const close = useMutation({
    mutationFn: () =>
      call('POST /leave/year-end', { body: { type: view.type, until: view.until, years: open.length } as never }),
    onSuccess: async () => {
      setSure(false);
      await queryClient.invalidateQueries({ queryKey: ['leave'] });
    },
  });
  if (open.length === 0) return null;
  return (
    <Box sx={{ my: 2, maxWidth: 640 }}>
      {sure ? (
        <Note tone="waiting" title={`Close ${open.length === 1 ? 'one leave year' : `${open.length} leave years`}?`}>
          Their statements stay as they are now. What is corrected later appears in the open year as restated, so no
          balance is another for it.
          {asked > 0 && ` ${asked} of them ${asked === 1 ? 'has' : 'have'} days that are still asked for.`}
          <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
            <Button variant="contained" color="primary" disabled={close.isPending} onClick={() => close.mutate()}>
              {close.isPending ? 'One moment …' : 'Close them'}
            </Button>
            <Button onClick={() => setSure(false)}>Leave them open</Button>
          </Box>
        </Note>
      ) : (
        <Button variant="contained" color="primary" onClick={() => setSure(true)}>
          Close what is over
        </Button>
      )}
      <FailureNote fault={close.error} />
    </Box>
  );
}

function ForPay() {
  const { self } = useHere();
  const year = useYear();
  const found = useQuery(payQuery);
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const make = useMutation({
    mutationFn: () => call('POST /leave/pay', { body: { from, to } as never }),
    onSuccess: async ({ id }) => {
      await queryClient.invalidateQueries({ queryKey: ['leave', 'pay'] });
      window.location.assign(`/api/leave/pay/${id}/file.csv`);
    },
  });
  const fault = problemOf(make.error)?.faults?.[0]?.message;
  return (
    <Box component="section" aria-label="For pay" sx={{ mt: 5, maxWidth: 640 }}>
      <Typography variant="h2">For pay</Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1.5 }}>
        What was taken in a period, by person, kind and day; and what has changed since of days that pay was told of.
      </Typography>
      <Box
        component="form"
        onSubmit={event => {
          event.preventDefault();
          make.mutate();
        }}
        sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'start' }}
      >
        <Box sx={{ width: 200 }}>
          <DayField label="First day" date={from} onDate={setFrom} />
        </Box>
        <Box sx={{ width: 200 }}>
          <DayField label="Last day" date={to} onDate={setTo} />
        </Box>
        <Button type="submit" variant="contained" color="primary" disabled={!from || !to || make.isPending}>
          Tell pay
        </Button>
      </Box>
      {fault ? (
        <Typography role="alert" color="error" variant="body2" sx={{ mt: 1 }}>
          {fault}
        </Typography>
      ) : (
        <FailureNote fault={make.error} />
      )}
      <Box component="ul" aria-label="What pay was told" sx={{ pl: 2.5 }}>
        {(found.data ?? []).map(one => (
          <li key={one.id}>
            <Link href={`/api/leave/pay/${one.id}/file.csv`} download>
              {rangeWords(one.from, one.to, year)}
            </Link>
            , {one.by}, {momentWords(one.at, self.zone, year)}
          </li>
        ))}
      </Box>
    </Box>
  );
}

export function YearEndPlace() {
  const [search, setSearch] = useSearchParams();
  const found = useQuery(yearEndQuery(search.get('type'), search.get('until')));
  const put = (key: string, value: string) =>
    setSearch(
      before => {
        const next = new URLSearchParams(before);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  const type = found.data?.type ?? '';
  const shown = useMemo(() => columns(type), [type]);
  return (
    <Page
      wide
      title="End of the leave year"
      sub="What is carried and what lapses when it turns, for everybody."
      actions={
        <Button component={RouterLink} to="/balances/everyone">
          Everybody’s balances
        </Button>
      }
    >
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 2 }}>
        <TextField
          select
          label="Leave type"
          value={type}
          onChange={event => put('type', event.target.value)}
          sx={{ minWidth: 160 }}
        >
          {(found.data?.types ?? []).map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <Box sx={{ width: 220 }}>
          <DayField
            label="Leave years that ended by"
            date={search.get('until') ?? found.data?.until ?? ''}
            onDate={day => put('until', day)}
          />
        </Box>
      </Box>
      <Loaded query={found}>
        {view =>
          view.rows.length === 0 ? (
            <Empty title="No leave year ended by then">Choose a later day.</Empty>
          ) : (
            <>
              <InShort rows={view.rows} />
              <Closing view={view} />
              <LongTable
                label="Leave years"
                columns={shown}
                rows={view.rows}
                rowKey={row => row.person}
                rowHeight={36}
              />
            </>
          )
        }
      </Loaded>
      <ForPay />
    </Page>
  );
}
