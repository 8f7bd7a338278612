/** The reporting lines of any day as an outline: who stands under whom, what is vacant, and a branch moved as one. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { LinesView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { fullDate } from '@north-pebble/core/time';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { startTransition, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { linesQuery } from '../../api/queries.ts';
import { ChangeEnd } from '../../parts/change/ChangeEnd.tsx';
import { PostField } from '../../parts/change/PostField.tsx';
import { useChange } from '../../parts/change/useChange.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { Note } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';
import { Outline } from './Outline.tsx';

type Post = LinesView['posts'][number];

function MoveForm({ post, view, onDone }: { post: Post; view: LinesView; onDone: () => void }) {
  const [above, setAbove] = useState('');
  const [from, setFrom] = useState('');
  const choices = useMemo(
    () =>
      view.posts
        .filter(one => one.id !== post.id)
        .map(one => ({ id: one.id, name: one.title, where: one.where, holder: one.holder?.name ?? null })),
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

/** So many branches are opened in one go. */
const atOnce = 2500;

function Lines({ view }: { view: LinesView }) {
  const posts = useMemo(() => new Map(view.posts.map(post => [post.id, post])), [view.posts]);
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set(view.top));
  const [moved, setMoved] = useState<Post | null>(null);
  const running = useRef(0);
  useEffect(() => () => cancelAnimationFrame(running.current), []);
  /** Some at each frame, so that the page answers meanwhile however many there are. */
  const openAll = () => {
    const ids = [...posts.keys()];
    const step = (n: number) => {
      setOpen(new Set(ids.slice(0, n)));
      if (n < ids.length) running.current = requestAnimationFrame(() => step(n + atOnce));
    };
    step(atOnce);
  };
  const take = useCallback((post: Post) => startTransition(() => setMoved(post)), []);
  const vacant = view.posts.filter(post => post.holder === null).length;
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
        <Button size="small" onClick={openAll}>
          Open all
        </Button>
        <Button
          size="small"
          onClick={() => {
            cancelAnimationFrame(running.current);
            setOpen(new Set());
          }}
        >
          Close all
        </Button>
      </Box>
      <Outline
        posts={posts}
        top={view.top}
        open={open}
        onOpen={(id, isOpen) =>
          setOpen(was => {
            const next = new Set(was);
            if (isOpen) next.add(id);
            else next.delete(id);
            return next;
          })
        }
        onMove={view.mayMove ? take : null}
      />
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
