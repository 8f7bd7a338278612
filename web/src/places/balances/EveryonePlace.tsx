/** Everybody’s balances of one kind of leave: what there was, what is taken and planned, what is left, and what lapses. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { may, type StandingsView } from '@north-pebble/contract';
import {
  filteredStandings,
  type StandingColumn,
  type StandingFilter,
  sortedStandings,
  standingColumns,
} from '@north-pebble/core/leave';
import { amountOfUnit, amountWords, dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useDeferredValue, useEffect, useMemo, useRef } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { standingsQuery } from '../../api/queries.ts';
import { FilterField } from '../../parts/form/FilterField.tsx';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { type LongColumn, LongTable } from '../../parts/LongTable.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { Sets } from '../../parts/Sets.tsx';
import { type Sorted, SortHeading } from '../../parts/SortHeading.tsx';
import { WriteToThem } from './WriteToThem.tsx';

type Row = StandingsView['rows'][number];
type SortBy = StandingColumn | 'name' | 'lapsesOn';

const headings: Record<StandingColumn, string> = {
  carried: 'Carried',
  entitled: 'Entitled',
  adjusted: 'Adjusted',
  taken: 'Taken',
  planned: 'Planned',
  held: 'Asked for',
  lapsed: 'Lapsed',
  lapsing: 'To lapse',
  now: 'Today',
  free: 'Left',
};
const explained: Record<StandingColumn, string> = {
  carried: 'Brought into the leave year',
  entitled: 'What the plan gives in the whole leave year',
  adjusted: 'Put on or taken off by hand',
  taken: 'Taken up to today',
  planned: 'Booked after today',
  held: 'Asked for in open requests',
  lapsed: 'Lapsed in the leave year up to today',
  lapsing: 'Lapses in the leave year unless it is taken',
  now: 'The balance today, as booked',
  free: 'Left at the end of the leave year, with everything booked and asked for',
};
const onlyWords = [
  ['', 'everybody'],
  ['below zero', 'who are below zero'],
  ['lapsing', 'who have some to lapse'],
  ['much left', 'who have much left'],
] as const;

const number = { display: 'block', textAlign: 'right', fontVariantNumeric: 'tabular-nums' } as const;

function Amount({ row, column }: { row: Row; column: StandingColumn }) {
  const value = row[column];
  const isBad = value < 0 && (column === 'now' || column === 'free');
  return (
    <Box
      component="span"
      sx={{ ...number, color: isBad ? 'error.main' : 'inherit', fontWeight: column === 'free' ? 650 : 'inherit' }}
    >
      {value === 0 && column !== 'now' && column !== 'free' ? '' : amountWords(value)}
      {isBad && (
        <Box component="span" sx={{ fontSize: 12 }}>
          {' '}
          below zero
        </Box>
      )}
    </Box>
  );
}

function Lapses({ row }: { row: Row }) {
  const year = useYear();
  return row.lapsesOn ? dateWords(row.lapsesOn, year) : '';
}

/** What is nothing for everybody has no column, but for these. */
const always: readonly StandingColumn[] = ['entitled', 'taken', 'planned', 'now', 'free'];

function columnsOf(view: StandingsView, sorted: Sorted<SortBy>): LongColumn<Row>[] {
  const nameIn = (all: readonly { id: string; name: string }[], id: string) =>
    all.find(one => one.id === id)?.name ?? id;
  return [
    {
      id: 'name',
      header: () => <SortHeading by="name" words="Name" sorted={sorted} />,
      cell: ({ row }) => (
        <Link
          component={RouterLink}
          to={`/balances?person=${row.original.person}&type=${view.type}`}
          sx={{ fontWeight: 600 }}
        >
          {row.original.name}
        </Link>
      ),
      meta: { width: 'minmax(150px, 1.4fr)' },
    },
    {
      id: 'where',
      header: 'Where',
      cell: ({ row }) => nameIn(view.places, row.original.place),
      meta: { width: 'minmax(110px, 1fr)' },
    },
    {
      id: 'plan',
      header: 'Plan',
      cell: ({ row }) => `${row.original.plan}${row.original.unit === 'hours' ? ', hours' : ''}`,
      meta: { width: '100px' },
    },
    ...standingColumns
      .filter(column => always.includes(column) || view.rows.some(row => row[column] !== 0))
      .map(
        (column): LongColumn<Row> => ({
          id: column,
          header: () => (
            <Box component="span" sx={number}>
              <SortHeading by={column} words={headings[column]} title={explained[column]} sorted={sorted} />
            </Box>
          ),
          cell: ({ row }) => <Amount row={row.original} column={column} />,
          meta: { width: 'minmax(62px, 0.6fr)' },
        }),
      ),
    {
      id: 'lapsesOn',
      header: () => <SortHeading by="lapsesOn" words="Lapses on" sorted={sorted} />,
      cell: ({ row }) => <Lapses row={row.original} />,
      meta: { width: '92px' },
    },
  ];
}

/** Sums of what is shown, for each unit by itself: days and hours are not added. */
function Sums({ rows }: { rows: readonly Row[] }) {
  const units = [...new Set(rows.map(row => row.unit))];
  const sum = (unit: Row['unit'], column: StandingColumn) =>
    Math.round(rows.reduce((s, row) => (row.unit === unit ? s + row[column] : s), 0) * 100) / 100;
  return (
    <Typography variant="body2" color="textSecondary" role="status" sx={{ mb: 0.5 }}>
      {rows.length === 1 ? 'One person' : `${rows.length.toLocaleString('en-GB')} people`}
      {units.map(
        unit =>
          `; ${amountOfUnit(sum(unit, 'free'), unit)} left, ${amountWords(sum(unit, 'planned'))} planned, ${amountWords(sum(unit, 'lapsing'))} to lapse`,
      )}
    </Typography>
  );
}

function Everyone({
  view,
  search,
  onSort,
  mayWrite,
}: {
  view: StandingsView;
  search: URLSearchParams;
  /** Whether the reader writes to those who are found. */
  mayWrite: boolean;
  onSort: Sorted<SortBy>['onSort'];
}) {
  const by = (search.get('sort') ?? 'name') as SortBy;
  const down = search.get('down') === 'yes';
  const filter = useDeferredValue(search.toString());
  const find = useMemo(() => {
    const asked = new URLSearchParams(filter);
    return Object.fromEntries(
      ['words', 'place', 'department', 'plan', 'only'].flatMap(key => (asked.get(key) ? [[key, asked.get(key)]] : [])),
    ) as StandingFilter;
  }, [filter]);
  const rows = useMemo(
    () => sortedStandings(filteredStandings(view.rows, find), by, down),
    [view.rows, find, by, down],
  );
  const columns = useMemo(() => columnsOf(view, { by, down, onSort }), [view, by, down, onSort]);
  if (rows.length === 0) return <Empty title="Nobody is found">Try fewer letters, or look among everybody.</Empty>;
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap', mb: 0.5 }}>
        <Sums rows={rows} />
        {mayWrite && <WriteToThem view={view} rows={rows} find={find} />}
      </Box>
      <LongTable
        label="Balances"
        columns={columns}
        rows={rows}
        rowKey={row => row.person}
        rowHeight={36}
        leastColumn={76}
      />
    </>
  );
}

export function EveryonePlace() {
  const { self } = useHere();
  const [search, setSearch] = useSearchParams();
  const found = useQuery(standingsQuery(search.get('type')));
  const latest = useRef(search);
  useEffect(() => {
    latest.current = search;
  });
  const put = useCallback(
    (more: Record<string, string>) => {
      const next = new URLSearchParams(latest.current);
      for (const [key, value] of Object.entries(more)) {
        if (value) next.set(key, value);
        else next.delete(key);
      }
      setSearch(next, { replace: true });
    },
    [setSearch],
  );
  const onSort = useCallback(
    (by: SortBy) => {
      const isAgain = (latest.current.get('sort') ?? 'name') === by && latest.current.get('down') !== 'yes';
      put({ sort: by, down: isAgain ? 'yes' : '' });
    },
    [put],
  );
  const choice = (key: string, label: string, all: string, options: readonly { id: string; name: string }[]) => (
    <TextField
      select
      label={label}
      value={options.some(one => one.id === search.get(key)) ? search.get(key) : ''}
      onChange={event => put({ [key]: event.target.value })}
      sx={{ minWidth: 150 }}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
    >
      {all && <MenuItem value="">{all}</MenuItem>}
      {options.map(({ id, name }) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
  const view = found.data;
  return (
    <Page
      wide
      title="Everybody’s balances"
      sub="What there is, what is taken and planned, and what lapses, of the leave year of today."
      actions={
        <Box sx={{ display: 'flex', gap: 1 }}>
          <Button component={RouterLink} to="/balances/coming">
            Coming and leaving
          </Button>
          {may(self, 'keep records') && (
            <Button component={RouterLink} to="/balances/year-end">
              End of the year
            </Button>
          )}
          <Button component={RouterLink} to="/balances">
            My own
          </Button>
        </Box>
      }
    >
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 2 }}>
        <FilterField
          label="Name"
          value={search.get('words') ?? ''}
          onFilter={words => put({ words })}
          sx={{ minWidth: 180 }}
        />
        <TextField
          select
          label="Leave type"
          value={view?.type ?? ''}
          onChange={event => put({ type: event.target.value })}
          sx={{ minWidth: 160 }}
        >
          {(view?.types ?? []).map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        {choice('place', 'Place', 'every place', view?.places ?? [])}
        {choice('department', 'Department', 'every department', view?.departments ?? [])}
        {choice(
          'plan',
          'Plan',
          'every plan',
          (view?.plans ?? []).map(name => ({ id: name, name })),
        )}
        {choice(
          'only',
          'Those',
          'everybody',
          onlyWords.slice(1).map(([id, name]) => ({ id, name })),
        )}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 1 }}>
        <Sets place="balances" query={search.toString()} onTake={query => setSearch(query)} />
        <Box sx={{ flex: 1 }} />
        {may(self, 'export') && (
          <Button size="small" component="a" href={`/api/leave/balances/file.csv?${search}`} download>
            Download CSV
          </Button>
        )}
      </Box>
      <Loaded query={found}>
        {one => <Everyone view={one} search={search} onSort={onSort} mayWrite={may(self, 'keep records')} />}
      </Loaded>
    </Page>
  );
}
