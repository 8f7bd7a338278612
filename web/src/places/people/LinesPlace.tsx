/** The reporting lines of any day as an outline: who stands under whom, what is vacant, and a branch moved as one. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { LinesView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { fullDate } from '@north-pebble/core/time';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { linesQuery } from '../../api/queries.ts';
import { ChangeEnd } from '../../parts/change/ChangeEnd.tsx';
import { PostField } from '../../parts/change/PostField.tsx';
import { useChange } from '../../parts/change/useChange.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { Note } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';

type Post = LinesView['posts'][number];
type Around = {
  posts: ReadonlyMap<string, Post>;
  open: ReadonlySet<string>;
  onOpen: (post: string) => void;
  onMove: ((post: Post) => void) | null;
};

function Branch({ id, around }: { id: string; around: Around }) {
  const post = around.posts.get(id);
  if (!post) return null;
  const isOpen = around.open.has(id);
  return (
    <li>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline', py: 0.5, flexWrap: 'wrap' }}>
        {post.below.length > 0 ? (
          <Button
            size="small"
            aria-expanded={isOpen}
            aria-label={`${post.title}: ${post.all} below`}
            onClick={() => around.onOpen(id)}
            sx={{ minWidth: 44, px: 0.5, py: 0 }}
          >
            {isOpen ? '–' : '+'} {post.all}
          </Button>
        ) : (
          <Box component="span" sx={{ width: 44 }} />
        )}
        <Typography component="span" sx={{ fontWeight: 600 }}>
          {post.title}
        </Typography>
        {post.holder ? (
          <Link component={RouterLink} to={`/people/${post.holder.id}`}>
            {post.holder.name}
          </Link>
        ) : (
          <Typography component="span" variant="body2" sx={{ color: 'warning.main' }}>
            vacant: it goes up from here
          </Typography>
        )}
        <Typography component="span" variant="body2" color="textSecondary">
          {post.where}
          {post.holdsOthers && ' · holds another post too'}
        </Typography>
        {around.onMove && !post.mine && (
          <Link component="button" type="button" sx={{ fontSize: 13 }} onClick={() => around.onMove?.(post)}>
            Move
            <Box
              component="span"
              sx={{ position: 'absolute', width: 1, height: 1, overflow: 'hidden', clipPath: 'inset(50%)' }}
            >
              {' '}
              {post.title}
            </Box>
          </Link>
        )}
      </Box>
      {isOpen && post.below.length > 0 && (
        <Box
          component="ul"
          sx={{ listStyle: 'none', m: 0, pl: 3, borderLeft: '1px solid', borderColor: 'divider', ml: 2.5 }}
        >
          {post.below.map(below => (
            <Branch key={below} id={below} around={around} />
          ))}
        </Box>
      )}
    </li>
  );
}

function MoveForm({ post, view, onDone }: { post: Post; view: LinesView; onDone: () => void }) {
  const [above, setAbove] = useState('');
  const [from, setFrom] = useState('');
  const choices = useMemo(
    () =>
      view.posts
        .filter(one => one.id !== post.id)
        .map(one => ({ id: one.id, name: one.title, where: one.where, holder: one.holder?.name ?? null }))
        .sort((a, b) => a.name.localeCompare(b.name)),
    [view.posts, post.id],
  );
  const change =
    above === '' || from === ''
      ? null
      : ({ what: 'line', post: post.id, from, reportsTo: above } as unknown as HouseChange);
  const changing = useChange(change, onDone);
  const { faultOf, anew } = changing;
  return (
    <Box
      component="form"
      aria-label={`Move ${post.title}`}
      onSubmit={changing.send}
      sx={{ display: 'grid', gap: 2, maxWidth: 560, mb: 3 }}
    >
      <Typography variant="h3" component="h2">
        Move {post.title}
        {post.all > 0 && `, with ${post.all === 1 ? 'the one post' : `all ${post.all} posts`} below it`}
      </Typography>
      <PostField
        label="Reports to"
        posts={choices}
        value={above}
        onChange={next => {
          setAbove(next);
          anew();
        }}
        fault={faultOf('reportsTo', 'post', 'change')}
      />
      <DayField
        label="From"
        date={from}
        onDate={next => {
          setFrom(next);
          anew();
        }}
        fault={faultOf('from') !== undefined}
        help={faultOf('from')}
      />
      <ChangeEnd changing={changing} verb="Move it" onCancel={onDone} />
    </Box>
  );
}

function Lines({ view }: { view: LinesView }) {
  const posts = useMemo(() => new Map(view.posts.map(post => [post.id, post])), [view.posts]);
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set(view.top));
  const [moved, setMoved] = useState<Post | null>(null);
  const vacant = view.posts.filter(post => post.holder === null).length;
  const around: Around = {
    posts,
    open,
    onOpen: id => setOpen(was => (was.has(id) ? new Set([...was].filter(one => one !== id)) : new Set([...was, id]))),
    onMove: view.mayMove ? setMoved : null,
  };
  return (
    <>
      {moved && <MoveForm key={moved.id} post={moved} view={view} onDone={() => setMoved(null)} />}
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1 }}>
        {view.posts.length} posts on {fullDate(view.day)}
        {vacant > 0 && `, ${vacant} of them vacant`}.
      </Typography>
      {view.loose.length > 0 && (
        <Note tone="stop" title="These hang on nothing">
          {view.loose.map(id => posts.get(id)?.title ?? id).join(', ')}: the line goes in a circle there, or to a post
          that is not on file.
        </Note>
      )}
      <Box sx={{ display: 'flex', gap: 1, mb: 1 }}>
        <Button size="small" onClick={() => setOpen(new Set(view.posts.map(post => post.id)))}>
          Open all
        </Button>
        <Button size="small" onClick={() => setOpen(new Set())}>
          Close all
        </Button>
      </Box>
      <Box component="ul" aria-label="Reporting lines" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {view.top.map(id => (
          <Branch key={id} id={id} around={around} />
        ))}
      </Box>
    </>
  );
}

export function LinesPlace() {
  const [search, setSearch] = useSearchParams();
  const day = search.get('day') ?? '';
  const found = useQuery({ ...linesQuery(day), placeholderData: keepPreviousData });
  return (
    <Page
      wide
      title="Reporting lines"
      sub="Who stands under whom, on any day."
      actions={
        <Button component={RouterLink} to="/people">
          People
        </Button>
      }
    >
      <Box sx={{ maxWidth: 220, mb: 2 }}>
        <DayField
          label="On"
          date={day || (found.data?.today ?? '')}
          onDate={next => setSearch(next ? { day: next } : {}, { replace: true })}
        />
      </Box>
      <Loaded query={found}>{view => <Lines key={view.day} view={view} />}</Loaded>
    </Page>
  );
}
