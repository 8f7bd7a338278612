/** Everybody on file: found by any letters of name, post, place or department; what is looked for stands in the address. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { PeopleView, PersonRow } from '@north-pebble/contract';
import { dateWords } from '@north-pebble/core/time';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { recordsQuery } from '../../api/queries.ts';
import { useYear } from '../../parts/frame/session.ts';
import { type LongColumn, LongTable } from '../../parts/LongTable.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { NewPerson } from './NewPerson.tsx';

const standings = [
  ['', 'who work here'],
  ['comes', 'who are to come'],
  ['left', 'who have left'],
  ['all', 'everybody'],
] as const;

function Time({ row }: { row: PersonRow }) {
  const year = useYear();
  if (row.standing === 'comes') return <>comes {dateWords(row.joined, year)}</>;
  if (row.left)
    return (
      <>
        {row.standing === 'left' ? 'left' : 'until'} {dateWords(row.left, year)}
      </>
    );
  return <>since {dateWords(row.joined, year)}</>;
}

const columns: LongColumn<PersonRow>[] = [
  {
    id: 'name',
    header: 'Name',
    cell: ({ row }) => (
      <Link component={RouterLink} to={`/people/${row.original.id}`} sx={{ fontWeight: 600 }}>
        {row.original.name}
      </Link>
    ),
    meta: { width: 'minmax(170px, 1.2fr)' },
  },
  { id: 'post', header: 'Post', cell: ({ row }) => row.original.post ?? '–', meta: { width: 'minmax(150px, 1fr)' } },
  { id: 'place', header: 'Place', cell: ({ row }) => row.original.place, meta: { width: 'minmax(120px, 1fr)' } },
  {
    id: 'department',
    header: 'Department',
    cell: ({ row }) => row.original.department,
    meta: { width: 'minmax(120px, 1fr)' },
  },
  {
    id: 'manager',
    header: 'Line manager',
    cell: ({ row }) => row.original.manager ?? 'nobody on file',
    meta: { width: 'minmax(150px, 1fr)' },
  },
  { id: 'time', header: 'Here', cell: ({ row }) => <Time row={row.original} />, meta: { width: '210px' } },
];

function People({ view }: { view: PeopleView }) {
  const rows = useMemo(() => [...view.rows], [view.rows]);
  const n = view.rows.length + view.more;
  if (n === 0)
    return (
      <Empty title="Nobody is found">Try fewer letters, or look among those who are to come or who have left.</Empty>
    );
  return (
    <>
      <Typography variant="body2" color="textSecondary" role="status" sx={{ mb: 0.5 }}>
        {n === 1 ? 'One person' : `${n.toLocaleString('en-GB')} people`}
        {view.more > 0 && `; the first ${view.rows.length} by name are shown`}
      </Typography>
      <LongTable label="People" columns={columns} rows={rows} rowKey={row => row.id} />
    </>
  );
}

export function PeoplePlace() {
  const [search, setSearch] = useSearchParams();
  const found = useQuery({
    ...recordsQuery(
      search.get('words') ?? '',
      search.get('place') ?? '',
      search.get('department') ?? '',
      search.get('standing') ?? '',
    ),
    placeholderData: keepPreviousData,
  });
  const [isOpen, setIsOpen] = useState(false);
  const choices = found.data?.choices ?? null;
  const set = (key: string) => (event: { target: { value: string } }) => {
    const next = new URLSearchParams(search);
    if (event.target.value) next.set(key, event.target.value);
    else next.delete(key);
    setSearch(next, { replace: true });
  };
  const choice = (key: string, label: string, all: string, options: readonly { id: string; name: string }[]) => (
    <TextField
      select
      label={label}
      value={options.some(one => one.id === search.get(key)) ? search.get(key) : ''}
      onChange={set(key)}
      sx={{ minWidth: 170 }}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
    >
      <MenuItem value="">{all}</MenuItem>
      {options.map(({ id, name }) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <Page
      wide
      title="People"
      sub="Who works here, where, and to whom they report."
      actions={
        <Box sx={{ display: 'flex', gap: 1 }}>
          <Button component={RouterLink} to="/people/lines">
            Reporting lines
          </Button>
          {choices && (
            <>
              <Button component={RouterLink} to="/people/decides">
                Who decides for …?
              </Button>
              <Button component={RouterLink} to="/people/moves">
                Who comes and leaves
              </Button>
            </>
          )}
          {choices && !isOpen && (
            <Button variant="contained" color="primary" onClick={() => setIsOpen(true)}>
              Somebody new
            </Button>
          )}
        </Box>
      }
    >
      {choices && isOpen && <NewPerson choices={choices} onDone={() => setIsOpen(false)} />}
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 2 }}>
        <TextField
          label="Name, post, place or department"
          value={search.get('words') ?? ''}
          onChange={set('words')}
          sx={{ minWidth: 280 }}
          autoFocus
        />
        {choice('place', 'Place', 'every place', found.data?.places ?? [])}
        {choice('department', 'Department', 'every department', found.data?.departments ?? [])}
        <TextField
          select
          label="Those"
          value={search.get('standing') ?? ''}
          onChange={set('standing')}
          sx={{ minWidth: 170 }}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          {standings.map(([value, words]) => (
            <MenuItem key={value} value={value}>
              {words}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <Loaded query={found}>{view => <People view={view} />}</Loaded>
    </Page>
  );
}
