/** Posts: open, held and closed, with who holds each through time, and who acts while one is vacant. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { PostRow, PostsView } from '@north-pebble/contract';
import { plainLetters } from '@north-pebble/core/people';
import { dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useMemo, useState } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { postsQuery } from '../../../api/queries.ts';
import { ChoiceField } from '../../../parts/change/ChoiceField.tsx';
import { FilterField } from '../../../parts/form/FilterField.tsx';
import { useYear } from '../../../parts/frame/session.ts';
import { type LongColumn, LongTable } from '../../../parts/LongTable.tsx';
import { Empty, Loaded } from '../../../parts/Page.tsx';
import { HouseFrame } from '../HouseFrame.tsx';
import { type Doing, PostChange } from './PostChange.tsx';

const standings = [
  { id: 'held', name: 'held' },
  { id: 'acting', name: 'somebody acts' },
  { id: 'vacant', name: 'vacant' },
  { id: 'closed', name: 'closed' },
];

/** Numbers stand under one another. */
const Right = ({ children }: { children: ReactNode }) => (
  <Box component="span" className="n" sx={{ display: 'block', textAlign: 'right', pr: 1 }}>
    {children}
  </Box>
);

function Holder({ row }: { row: PostRow }) {
  if (row.standing === 'closed') return <>closed</>;
  if (row.holder)
    return (
      <>
        <Link component={RouterLink} to={`/people/${row.holder.id}`}>
          {row.holder.name}
        </Link>
        {row.standing === 'acting' && ' acts'}
      </>
    );
  return (
    <Box component="span" sx={{ color: 'warning.main' }}>
      vacant: goes to {row.meanwhile ?? 'nobody'}
    </Box>
  );
}

const money = (amount: number | null): string => (amount === null ? '–' : amount.toLocaleString('en-GB'));

function Detail({ row, view, onClose }: { row: PostRow; view: PostsView; onClose: () => void }) {
  const year = useYear();
  const [doing, setDoing] = useState<Doing | null>(null);
  return (
    <Box
      component="section"
      aria-label={row.title}
      sx={{ border: '1px solid', borderColor: 'divider', borderRadius: 3, p: 2.5, mb: 3 }}
    >
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {row.title}
        </Typography>
        <Button size="small" onClick={onClose}>
          Close
        </Button>
      </Box>
      <Typography variant="body2" color="textSecondary">
        {row.department.name}, {row.place.name}
        {row.grade !== null && `, grade ${row.grade}`}
        {row.spending !== null && `, may spend ${money(row.spending)} on one request`}
        {row.closed && `, closed: last day ${dateWords(row.closed, year)}`}
      </Typography>
      <Typography variant="body2" sx={{ mt: 0.5 }}>
        {row.reportsTo ? `Reports to ${row.reportsTo.title}` : 'Reports to nobody'};{' '}
        {row.reports === 0
          ? 'nobody reports to it'
          : `${row.reports} ${row.reports === 1 ? 'post reports' : 'posts report'} to it`}
        .{row.standing === 'vacant' && ` What would come to it goes to ${row.meanwhile ?? 'nobody'} meanwhile.`}
      </Typography>
      <Typography variant="h3" sx={{ mt: 2, mb: 0.5 }}>
        Who held it when
      </Typography>
      {row.holders.length === 0 ? (
        <Typography variant="body2" color="textSecondary">
          Nobody yet.
        </Typography>
      ) : (
        <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {row.holders.map(one => (
            <Box component="li" key={`${one.person.id} ${one.from}`} sx={{ fontSize: 14, py: 0.25 }}>
              <Link component={RouterLink} to={`/people/${one.person.id}`}>
                {one.person.name}
              </Link>{' '}
              from {dateWords(one.from, year)}
              {one.to ? ` to ${dateWords(one.to, year)}` : ''}
              {one.main ? '' : ', beside their own post'}
              {one.from > view.today && ' (planned)'}
            </Box>
          ))}
        </Box>
      )}
      {doing ? (
        <PostChange key={doing} doing={doing} row={row} view={view} onDone={() => setDoing(null)} />
      ) : (
        <Box sx={{ display: 'flex', gap: 1, mt: 2, flexWrap: 'wrap' }}>
          <Button variant="contained" onClick={() => setDoing('post')}>
            Change the post
          </Button>
          <Button onClick={() => setDoing('holder')}>Somebody takes it</Button>
          <Button onClick={() => setDoing('acts')}>Somebody acts</Button>
          {row.holder && <Button onClick={() => setDoing('leaves')}>It falls vacant</Button>}
        </Box>
      )}
    </Box>
  );
}

function Posts({ view }: { view: PostsView }) {
  const [search, setSearch] = useSearchParams();
  const words = search.get('words') ?? '';
  const standing = search.get('standing') ?? '';
  const chosen = view.rows.find(one => one.id === search.get('post'));
  const set = (key: string, value: string) => {
    const next = new URLSearchParams(search);
    if (value) next.set(key, value);
    else next.delete(key);
    setSearch(next, { replace: true });
  };
  const rows = useMemo(() => {
    const parts = plainLetters(words).split(/\s+/).filter(Boolean);
    return view.rows.filter(row => {
      const letters = plainLetters([row.title, row.department.name, row.place.name, row.holder?.name].join(' '));
      return (
        (standing === '' ? row.standing !== 'closed' : row.standing === standing) &&
        parts.every(one => letters.includes(one))
      );
    });
  }, [view.rows, words, standing]);
  const columns = useMemo(
    (): LongColumn<PostRow>[] => [
      {
        id: 'title',
        header: 'Post',
        cell: ({ row }) => (
          <Link component={RouterLink} to={`?post=${row.original.id}`} sx={{ fontWeight: 600 }}>
            {row.original.title}
          </Link>
        ),
        meta: { width: 'minmax(180px, 1.3fr)' },
      },
      {
        id: 'holder',
        header: 'Held by',
        cell: ({ row }) => <Holder row={row.original} />,
        meta: { width: 'minmax(200px, 1.3fr)' },
      },
      {
        id: 'department',
        header: 'Department',
        cell: ({ row }) => row.original.department.name,
        meta: { width: 'minmax(120px, 1fr)' },
      },
      {
        id: 'place',
        header: 'Place',
        cell: ({ row }) => row.original.place.name,
        meta: { width: 'minmax(110px, 1fr)' },
      },
      {
        id: 'above',
        header: 'Reports to',
        cell: ({ row }) => row.original.reportsTo?.title ?? 'nobody',
        meta: { width: 'minmax(130px, 1fr)' },
      },
      {
        id: 'grade',
        header: () => <Right>Grade</Right>,
        cell: ({ row }) => <Right>{row.original.grade ?? '–'}</Right>,
        meta: { width: '70px' },
      },
      {
        id: 'spending',
        header: () => <Right>May spend</Right>,
        cell: ({ row }) => <Right>{money(row.original.spending)}</Right>,
        meta: { width: '100px' },
      },
    ],
    [],
  );
  return (
    <>
      {chosen && <Detail key={chosen.id} row={chosen} view={view} onClose={() => set('post', '')} />}
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 2, '& > *': { minWidth: 280 } }}>
        <FilterField label="Post, holder, place or department" value={words} onFilter={typed => set('words', typed)} />
        <ChoiceField
          label="Those"
          value={standing}
          none="that are there"
          options={standings}
          onChange={value => set('standing', value)}
        />
      </Box>
      {rows.length === 0 ? (
        <Empty title="No post is found">Try fewer letters, or look among those that are closed.</Empty>
      ) : (
        <>
          <Typography variant="body2" color="textSecondary" role="status" sx={{ mb: 0.5 }}>
            {rows.length === 1 ? 'One post' : `${rows.length.toLocaleString('en-GB')} posts`}
          </Typography>
          <LongTable label="Posts" columns={columns} rows={rows} rowKey={row => row.id} />
        </>
      )}
    </>
  );
}

export function PostsPlace() {
  const found = useQuery(postsQuery);
  const [isNew, setIsNew] = useState(false);
  return (
    <HouseFrame
      title="Posts"
      sub="What somebody may hold here: whom each reports to, who holds it, and who acts while nobody does."
      actions={
        found.data &&
        !isNew && (
          <Button variant="contained" color="primary" onClick={() => setIsNew(true)}>
            A new post
          </Button>
        )
      }
    >
      <Loaded query={found}>
        {view => (
          <>
            {isNew && <PostChange doing="new" row={null} view={view} onDone={() => setIsNew(false)} />}
            <Posts view={view} />
          </>
        )}
      </Loaded>
    </HouseFrame>
  );
}
