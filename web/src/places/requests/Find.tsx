/** Looking through requests: whose, by what, which columns. All of it stands in the address, and can be kept as a named set. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Link from '@mui/material/Link';
import ListItemText from '@mui/material/ListItemText';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import {
  type ListShape,
  may,
  mostShown,
  type RequestColumn,
  type RequestRow,
  requestColumns,
} from '@north-pebble/contract';
import { civilDateAt, dateWords } from '@north-pebble/core/time';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { lazy, type ReactNode, Suspense, useCallback, useMemo, useRef, useState } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { call } from '../../api/client.ts';
import { fetched } from '../../api/fetched.ts';
import { askableQuery } from '../../api/queries.ts';
import { FilterField } from '../../parts/form/FilterField.tsx';
import { useHere } from '../../parts/frame/session.ts';
import { type LongColumn, LongTable } from '../../parts/LongTable.tsx';
import { FailureNote } from '../../parts/Notes.tsx';
import { Sets } from '../../parts/Sets.tsx';
import { AnswerMany } from './AnswerMany.tsx';
import { useSettled } from './RequestForm.tsx';

// The calendar is loaded beside the rows, not before them.
const DayField = lazy(async () => ({
  default: (await fetched(() => import('../../parts/form/DayField.tsx'))).DayField,
}));

const statusColour: Record<RequestRow['status'], string> = {
  new: 'text.secondary',
  open: 'primary.main',
  rework: 'secondary.main',
  stuck: 'error.main',
  closed: 'text.primary',
  withdrawn: 'text.secondary',
};
const statusWords = {
  open: 'going on',
  rework: 'sent back',
  stuck: 'cannot go on',
  closed: 'closed',
  withdrawn: 'withdrawn',
} as const;
const whoseWords = {
  mine: 'Yours',
  held: 'Those you have or had',
  team: 'Your people’s',
  care: 'Of people you look after',
  all: 'Everybody’s',
} as const;
type Whose = keyof typeof whoseWords;

const widths: Record<RequestColumn, string> = {
  request: '84px',
  what: 'minmax(180px, 2fr)',
  workflow: 'minmax(120px, 1fr)',
  asker: 'minmax(120px, 1fr)',
  standing: 'minmax(150px, 1.3fr)',
  asked: '158px',
  closed: '158px',
};
const usual: RequestColumn[] = ['request', 'what', 'asker', 'standing', 'asked'];

/** The filters as they stand in the address, and a way to change one of them. */
function useFilters() {
  const [search, setSearch] = useSearchParams();
  const list = (key: string) => (search.get(key) ?? '').split(',').filter(Boolean);
  const set = (key: string, value: string | readonly string[]) =>
    setSearch(
      before => {
        const next = new URLSearchParams(before);
        const text = typeof value === 'string' ? value : value.join(',');
        if (text) next.set(key, text);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  const columns = list('columns') as RequestColumn[];
  return {
    search,
    setSearch,
    set,
    whose: (search.get('whose') ?? 'mine') as Whose,
    status: list('status'),
    workflow: list('workflow'),
    step: list('step'),
    shown: list('shown'),
    sort: search.get('sort') ?? '',
    words: search.get('words') ?? '',
    from: search.get('from') ?? '',
    to: search.get('to') ?? '',
    columns: columns.length > 0 ? columns : usual,
  };
}
type Filters = ReturnType<typeof useFilters>;

/** What narrows the list down; whose requests and which columns are not among it. */
const filtering = ['status', 'workflow', 'step', 'words', 'from', 'to'] as const;

function widened({ search }: Filters): URLSearchParams {
  const next = new URLSearchParams(search);
  for (const key of filtering) next.delete(key);
  return next;
}

function Several({
  label,
  value,
  options,
  onChange,
  least = 0,
}: {
  label: string;
  value: readonly string[];
  options: Readonly<Record<string, string>>;
  onChange: (value: string[]) => void;
  least?: number;
}) {
  return (
    <TextField
      select
      size="small"
      label={label}
      value={value}
      onChange={event => {
        const next = event.target.value as unknown as string[];
        if (next.length >= least) onChange(Object.keys(options).filter(key => next.includes(key)));
      }}
      slotProps={{
        select: {
          multiple: true,
          renderValue: chosen => (chosen as string[]).map(key => options[key] ?? key).join(', '),
        },
      }}
      sx={{ minWidth: 132, maxWidth: 210 }}
    >
      {Object.entries(options).map(([key, words]) => (
        <MenuItem key={key} value={key} dense>
          <Checkbox size="small" checked={value.includes(key)} sx={{ p: 0.25, mr: 1 }} />
          <ListItemText primary={words} />
        </MenuItem>
      ))}
    </TextField>
  );
}

function Cell({ row, column }: { row: RequestRow; column: RequestColumn }): ReactNode {
  const { self, now } = useHere();
  const year = Number(civilDateAt(now, self.zone).slice(0, 4));
  const day = (at: RequestRow['closedAt']) => (at ? dateWords(civilDateAt(at, self.zone), year) : '');
  switch (column) {
    case 'request':
      return row.id;
    case 'what':
      return (
        <Link component={RouterLink} to={`/requests/${row.id}`}>
          {row.title}
        </Link>
      );
    case 'workflow':
      return row.workflowName;
    case 'asker':
      return row.askerName;
    case 'standing':
      return (
        <Box component="span" sx={{ color: statusColour[row.status] }}>
          {row.standing}
        </Box>
      );
    case 'asked':
      return day(row.askedAt);
    case 'closed':
      return day(row.closedAt);
  }
}

const columnOf = (column: RequestColumn): LongColumn<RequestRow> => ({
  id: column,
  header: requestColumns[column],
  cell: ({ row }) => <Cell row={row.original} column={column} />,
  meta: { width: widths[column] },
});

/** Words of cells in their order: numbers by size, whatever stands behind them. */
const inOrder = (a: string, b: string): number => a.localeCompare(b, 'en', { numeric: true });

/** By a column of the workflow, the highest first; rows without anything in it come last. */
function sorted(rows: readonly RequestRow[], column: string): RequestRow[] {
  const cell = (row: RequestRow) => row.cells?.[column] ?? '';
  return rows.toSorted((a, b) => Number(cell(a) === '') - Number(cell(b) === '') || inOrder(cell(b), cell(a)));
}

const ownColumn = (id: string, label: string, filters: Filters, sortable: boolean): LongColumn<RequestRow> => ({
  id: `own-${id}`,
  header: () =>
    sortable ? (
      <Link
        component="button"
        type="button"
        underline={filters.sort === id ? 'always' : 'hover'}
        color="inherit"
        aria-label={filters.sort === id ? `${label}, highest first` : `Sort by ${label}`}
        onClick={() => filters.set('sort', filters.sort === id ? '' : id)}
        sx={{ font: 'inherit', textAlign: 'left' }}
      >
        {label}
        {filters.sort === id ? ' ↓' : ''}
      </Link>
    ) : (
      label
    ),
  cell: ({ row }) => {
    const words = row.original.cells?.[id] ?? '';
    // Numbers stand under one another by their last figure.
    const isNumber = /^[\d.,\s]+[½¼¾]?$/.test(words);
    return (
      <Box
        component="span"
        title={words}
        sx={isNumber ? { display: 'block', textAlign: 'right', pr: 5, fontVariantNumeric: 'tabular-nums' } : {}}
      >
        {words}
      </Box>
    );
  },
  meta: { width: 'minmax(110px, 1fr)' },
});

/** Rows that wait for an answer of the reader can be chosen, to be answered together. */
const chooseColumn = (
  chosen: ReadonlySet<string>,
  rows: readonly RequestRow[],
  onChoose: (ids: readonly string[], on: boolean) => void,
): LongColumn<RequestRow> => ({
  id: 'choose',
  header: () => {
    const ids = rows.filter(row => row.decide).map(row => row.id);
    const all = ids.every(id => chosen.has(id));
    return (
      <Checkbox
        size="small"
        checked={all}
        indeterminate={!all && chosen.size > 0}
        onChange={() => onChoose(ids, !all)}
        slotProps={{ input: { 'aria-label': 'Choose all' } }}
        sx={{ p: 0 }}
      />
    );
  },
  cell: ({ row }) =>
    row.original.decide ? (
      <Checkbox
        size="small"
        checked={chosen.has(row.original.id)}
        onChange={(_, on) => onChoose([row.original.id], on)}
        slotProps={{ input: { 'aria-label': `Choose ${row.original.askerName}` } }}
        sx={{ p: 0 }}
      />
    ) : null,
  meta: { width: '34px' },
});

function Rows({ filters, shape }: { filters: Filters; shape: ListShape | undefined }) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const asked = useSettled(filters.search.toString());
  const found = useInfiniteQuery({
    queryKey: ['requests', 'find', asked],
    queryFn: ({ pageParam, signal }) => {
      const query = new URLSearchParams(asked);
      if (pageParam) query.set('before', String(pageParam));
      return call('GET /requests/find', { query: query.toString(), signal });
    },
    initialPageParam: null as number | null,
    getNextPageParam: page => page.next,
    placeholderData: before => before,
  });
  const rows = useMemo(() => found.data?.pages.flatMap(page => page.rows) ?? [], [found.data]);
  const total = found.data?.pages[0]?.total ?? null;
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = found;
  const onNearEnd = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);
  const shown = filters.columns.join(',');
  const own = filters.shown.join(',');
  const isWhole = !hasNextPage;
  const list = useMemo(
    () => (isWhole && filters.sort ? sorted(rows, filters.sort) : rows),
    [rows, isWhole, filters.sort],
  );
  const mayChoose = rows.some(row => row.decide);
  const set = useRef(filters);
  set.current = filters;
  const columns = useMemo(
    () => [
      ...(mayChoose
        ? [
            chooseColumn(chosen, list, (ids, on) =>
              setChosen(before => new Set(on ? [...before, ...ids] : [...before].filter(one => !ids.includes(one)))),
            ),
          ]
        : []),
      ...shown.split(',').map(column => columnOf(column as RequestColumn)),
      ...own
        .split(',')
        .filter(Boolean)
        .map(id => {
          const label = shape?.columns.find(one => one.id === id)?.label ?? id;
          return ownColumn(id, label, { ...set.current, sort: filters.sort }, isWhole);
        }),
    ],
    [shown, own, shape, mayChoose, chosen, isWhole, filters.sort, list],
  );
  if (found.error) return <FailureNote fault={found.error} />;
  return (
    <>
      <Typography variant="body2" color="textSecondary" role="status" sx={{ mb: 0.5, minHeight: 20 }}>
        {total === null ? 'Looking …' : `${total.toLocaleString('en-GB')} ${total === 1 ? 'request' : 'requests'}`}
      </Typography>
      <AnswerMany rows={list.filter(row => chosen.has(row.id))} onDone={() => setChosen(new Set())} />
      {total === 0 ? (
        <Typography color="textSecondary">
          {filters.whose === 'mine' && filters.search.size === 0
            ? 'What you ask for stands here, with where it is and who has it.'
            : 'Nothing here fits these filters.'}
        </Typography>
      ) : (
        <LongTable
          label="Requests"
          columns={columns}
          rows={list}
          rowKey={row => row.id}
          total={total}
          onNearEnd={onNearEnd}
        />
      )}
    </>
  );
}

export function Find() {
  const { self, now } = useHere();
  const filters = useFilters();
  const narrowed = filtering.some(key => filters.search.has(key));
  const askable = useQuery(askableQuery);
  const [one, ...others] = filters.workflow;
  const shape = useQuery({
    queryKey: ['requests', 'shape', one],
    queryFn: () => call('GET /requests/shape/:workflow', { params: { workflow: one } }),
    enabled: one !== undefined && others.length === 0,
    retry: false,
  }).data;
  const roles = useQuery({
    queryKey: ['people', 'roles'],
    queryFn: () => call('GET /people', { query: { words: '' } }),
  });
  const reads = may(self, 'read every record');
  const scopes = (Object.keys(whoseWords) as Whose[]).filter(
    key => (key !== 'team' || self.hasReports) && (key !== 'care' || self.looksAfterSome) && (key !== 'all' || reads),
  );
  const query = new URLSearchParams(filters.search);
  query.set('columns', filters.columns.join(','));
  return (
    <Box component="section" aria-label="All requests">
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 1.25 }}>
        <TextField
          select
          size="small"
          label="Whose"
          value={filters.whose}
          onChange={event => filters.set('whose', event.target.value === 'mine' ? '' : event.target.value)}
          sx={{ minWidth: 150 }}
        >
          {scopes.map(key => (
            <MenuItem key={key} value={key}>
              {whoseWords[key]}
            </MenuItem>
          ))}
        </TextField>
        <Sets
          place="requests"
          query={filters.search.toString()}
          roles={roles.data?.roles ?? []}
          onTake={filters.setSearch}
        />
        <Box sx={{ flex: 1 }} />
        <Several
          label="Columns"
          value={filters.columns}
          options={requestColumns}
          least={1}
          onChange={value => filters.set('columns', value)}
        />
        {may(self, 'export') && (
          <>
            <Button size="small" component="a" href={`/api/requests/export.csv?${query}`}>
              Download CSV
            </Button>
            <Button size="small" component="a" href={`/api/requests/export.xlsx?${query}`}>
              Download XLSX
            </Button>
          </>
        )}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 1.5, alignItems: 'center' }}>
        <FilterField
          size="small"
          label="Number, name or words"
          value={filters.words}
          onFilter={words => filters.set('words', words)}
          sx={{ width: 190 }}
        />
        <Several
          label="Status"
          value={filters.status}
          options={statusWords}
          onChange={value => filters.set('status', value)}
        />
        <Several
          label="Workflow"
          value={filters.workflow}
          options={Object.fromEntries((askable.data ?? []).map(row => [row.id, row.name]))}
          onChange={value => filters.set('workflow', value)}
        />
        {shape && shape.steps.length > 0 && (
          <Several
            label="At step"
            value={filters.step}
            options={Object.fromEntries(
              shape.steps.map(({ id, words, open }) => [id, open > 0 ? `${words} · ${open}` : words]),
            )}
            onChange={value => filters.set('step', value)}
          />
        )}
        {shape && (
          <Several
            label="Columns of it"
            value={filters.shown}
            options={Object.fromEntries(shape.columns.map(({ id, label }) => [id, label]))}
            onChange={value => filters.set('shown', value.slice(0, mostShown))}
          />
        )}
        {(['from', 'to'] as const).map(end => (
          <Box key={end} sx={{ width: 158 }}>
            <Suspense fallback={<Box sx={{ height: 40 }} />}>
              <DayField
                label={end === 'from' ? 'Asked from' : 'Asked until'}
                date={filters[end]}
                onDate={day => filters.set(end, day)}
                fault={end === 'to' && filters.to !== '' && filters.to < filters.from}
                start={civilDateAt(now, self.zone)}
              />
            </Suspense>
          </Box>
        ))}
        {narrowed && (
          <Button size="small" onClick={() => filters.setSearch(widened(filters), { replace: true })}>
            Without filters
          </Button>
        )}
      </Box>
      <Rows filters={filters} shape={shape} />
    </Box>
  );
}
