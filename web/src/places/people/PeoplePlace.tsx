/** Everybody on file: found by any letters of name, post, place or department; what is looked for stands in the address. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Link from '@mui/material/Link';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { PeopleColumn, PeopleView, PersonRow } from '@north-pebble/contract';
import { dateWords } from '@north-pebble/core/time';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { recordChoicesQuery, recordsQuery } from '../../api/queries.ts';
import { FilterField } from '../../parts/form/FilterField.tsx';
import { useYear } from '../../parts/frame/session.ts';
import { type LongColumn, LongTable } from '../../parts/LongTable.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { Sets } from '../../parts/Sets.tsx';
import { type Sorted, SortHeading } from '../../parts/SortHeading.tsx';
import { NewPerson } from './NewPerson.tsx';

const standings = [
  ['', 'who work here'],
  ['comes', 'who are to come'],
  ['left', 'who have left'],
  ['all', 'everybody'],
] as const;

function Time({ row }: { row: PersonRow }) {
  const year = useYear();
  if (row.joined && row.standing === 'comes') return <>comes {dateWords(row.joined, year)}</>;
  if (row.left)
    return (
      <>
        {row.standing === 'left' ? 'left' : 'until'} {dateWords(row.left, year)}
      </>
    );
  return row.joined ? <>since {dateWords(row.joined, year)}</> : '–';
}

const named: readonly (readonly [PeopleColumn, string, string])[] = [
  ['post', 'Post', 'minmax(150px, 1fr)'],
  ['place', 'Place', 'minmax(120px, 1fr)'],
  ['department', 'Department', 'minmax(120px, 1fr)'],
  ['manager', 'Line manager', 'minmax(150px, 1fr)'],
  ['joined', 'Here', '210px'],
  ['mail', 'Mail', 'minmax(190px, 1.2fr)'],
];
const usual = 'post place department manager joined';

/** What is looked for, as it stands in the address. */
const keys = ['words', 'place', 'department', 'standing', 'sort', 'down'] as const;
const findOf = (search: URLSearchParams): Record<string, string> =>
  Object.fromEntries(keys.flatMap(key => (search.get(key) ? [[key, search.get(key) as string]] : [])));

function columnsOf(shown: string, sorted: Sorted<PeopleColumn>): LongColumn<PersonRow>[] {
  return [
    {
      id: 'name',
      header: () => <SortHeading by="name" words="Name" sorted={sorted} />,
      cell: ({ row }) => (
        <Link component={RouterLink} to={`/people/${row.original.id}`} sx={{ fontWeight: 600 }}>
          {row.original.name}
        </Link>
      ),
      meta: { width: 'minmax(170px, 1.2fr)' },
    },
    ...named
      .filter(([column]) => shown.split(' ').includes(column))
      .map(
        ([column, words, width]): LongColumn<PersonRow> => ({
          id: column,
          header: () => <SortHeading by={column} words={words} sorted={sorted} />,
          cell: ({ row }) => (column === 'joined' ? <Time row={row.original} /> : (row.original[column] ?? '–')),
          meta: { width },
        }),
      ),
  ];
}

/** Which columns are shown. */
function Columns({ shown, onShow }: { shown: string; onShow: (shown: string) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const own = shown.split(' ');
  return (
    <>
      <Button size="small" aria-haspopup="menu" onClick={event => setAnchor(event.currentTarget)}>
        Columns
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {named.map(([column, words]) => (
          <MenuItem
            key={column}
            role="menuitemcheckbox"
            aria-checked={own.includes(column)}
            onClick={() =>
              onShow(named.flatMap(([id]) => ((id === column) !== own.includes(id) ? [id] : [])).join(' ') || 'post')
            }
          >
            <Checkbox
              checked={own.includes(column)}
              size="small"
              tabIndex={-1}
              slotProps={{ input: { 'aria-hidden': true } }}
              sx={{ p: 0, mr: 1 }}
            />
            {words}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}

function People({ view, columns }: { view: PeopleView; columns: LongColumn<PersonRow>[] }) {
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
        {view.more > 0 && `; the first ${view.rows.length} are shown`}
      </Typography>
      <LongTable label="People" columns={columns} rows={rows} rowKey={row => row.id} />
    </>
  );
}

export function PeoplePlace() {
  const [search, setSearch] = useSearchParams();
  const find = findOf(search);
  const found = useQuery({ ...recordsQuery(find), placeholderData: keepPreviousData });
  const [isOpen, setIsOpen] = useState(false);
  const mayAdd = found.data?.mayAdd ?? false;
  const choices = useQuery({ ...recordChoicesQuery, enabled: mayAdd && isOpen });
  const put = (key: string) => (value: string) => {
    const next = new URLSearchParams(search);
    if (value) next.set(key, value);
    else next.delete(key);
    setSearch(next, { replace: true });
  };
  const set = (key: string) => (event: { target: { value: string } }) => put(key)(event.target.value);
  const by = search.get('sort') ?? 'name';
  const down = search.get('down') === 'yes';
  const shown = search.get('columns') ?? usual;
  const latest = useRef(search);
  useEffect(() => {
    latest.current = search;
  });
  const onSort = useCallback(
    (column: PeopleColumn) => {
      const next = new URLSearchParams(latest.current);
      const isAgain = (next.get('sort') ?? 'name') === column && next.get('down') !== 'yes';
      next.set('sort', column);
      if (isAgain) next.set('down', 'yes');
      else next.delete('down');
      setSearch(next, { replace: true });
    },
    [setSearch],
  );
  const columns = useMemo(() => columnsOf(shown, { by, down, onSort }), [shown, by, down, onSort]);
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
          {mayAdd && (
            <>
              <Button component={RouterLink} to="/people/decides">
                Who decides for …?
              </Button>
              <Button component={RouterLink} to="/people/moves">
                Who comes and leaves
              </Button>
            </>
          )}
          {mayAdd && !isOpen && (
            <Button variant="contained" color="primary" onClick={() => setIsOpen(true)}>
              Somebody new
            </Button>
          )}
        </Box>
      }
    >
      {isOpen && <Loaded query={choices}>{all => <NewPerson choices={all} onDone={() => setIsOpen(false)} />}</Loaded>}
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 2 }}>
        <FilterField
          label="Name, post, place or department"
          value={search.get('words') ?? ''}
          onFilter={put('words')}
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
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 1 }}>
        <Sets place="people" query={search.toString()} onTake={query => setSearch(query)} />
        <Box sx={{ flex: 1 }} />
        <Columns
          shown={shown}
          onShow={next => {
            const query = new URLSearchParams(search);
            query.set('columns', next);
            setSearch(query, { replace: true });
          }}
        />
        {found.data?.mayExport && (
          <Button size="small" component="a" href={`/api/records/file.csv?${new URLSearchParams(find)}`} download>
            Download CSV
          </Button>
        )}
      </Box>
      <Loaded query={found}>{view => <People view={view} columns={columns} />}</Loaded>
    </Page>
  );
}
