/**
 * The reporting lines as an outline: only what is on the screen is drawn, however many posts there are. With keys: up and
 * down, right to open, left to close or to go up, Enter to the holder, M to move the branch.
 */
import Box from '@mui/material/Box';
import type { LinesView } from '@north-pebble/contract';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { Link as RouterLink, useNavigate } from 'react-router';

type Post = LinesView['posts'][number];
type Row = { readonly post: Post; readonly level: number; readonly at: number; readonly of: number };

/** The posts that are open to be seen, in their order, each with how deep it stands. */
export function rowsOf(posts: ReadonlyMap<string, Post>, top: readonly string[], open: ReadonlySet<string>): Row[] {
  const rows: Row[] = [];
  // An own stack, since lines may be long.
  const stack = top.map((id, n) => ({ id, level: 1, at: n + 1, of: top.length })).toReversed();
  for (let next = stack.pop(); next; next = stack.pop()) {
    const { id, level, at, of } = next;
    const post = posts.get(id);
    if (!post) continue;
    rows.push({ post, level, at, of });
    if (!open.has(id)) continue;
    for (let n = post.below.length - 1; n >= 0; n--)
      stack.push({ id: post.below[n] as string, level: level + 1, at: n + 1, of: post.below.length });
  }
  return rows;
}

type Props = {
  posts: ReadonlyMap<string, Post>;
  top: readonly string[];
  open: ReadonlySet<string>;
  onOpen: (post: string, isOpen: boolean) => void;
  onMove: ((post: Post) => void) | null;
};

const rowHeight = 38;
/** So many rows at once. */
const page = 15;

/**
 * The look of every row, said once for all of them: rows are drawn anew at each step through ten thousand posts, and
 * what each would say of its own look costs more than the row itself.
 */
const look = {
  position: 'relative',
  // Nothing outside is laid out anew when a row comes or goes.
  contain: 'strict',
  '& > div': {
    position: 'absolute',
    top: 0,
    left: 0,
    right: 0,
    height: rowHeight,
    display: 'flex',
    gap: 1,
    alignItems: 'center',
    whiteSpace: 'nowrap',
    overflow: 'hidden',
    borderRadius: '6px',
    '&:focus-visible': { outline: '2px solid', outlineColor: 'primary.main', outlineOffset: -2 },
  },
  '& button': { font: 'inherit', color: 'primary.main', background: 'none', border: 0, cursor: 'pointer', py: 0.25 },
  '& a': { color: 'primary.main' },
  '& .below': { minWidth: 44, flexShrink: 0, px: 0.5, fontSize: 14, fontWeight: 600, borderRadius: '6px' },
  '& button.below:hover': { backgroundColor: 'action.hover' },
  '& .title': { fontWeight: 600 },
  '& .vacant': { fontSize: 14, color: 'warning.main' },
  '& .more': { fontSize: 14, color: 'text.secondary' },
  '& .move': { fontSize: 13, textDecoration: 'underline' },
  '& .unseen': { position: 'absolute', width: '1px', height: '1px', overflow: 'hidden', clipPath: 'inset(50%)' },
} as const;

export function Outline({ posts, top, open, onOpen, onMove }: Props) {
  const go = useNavigate();
  const tree = useRef<HTMLDivElement>(null);
  const rows = useMemo(() => rowsOf(posts, top, open), [posts, top, open]);
  const [active, setActive] = useState(0);
  const wantsFocus = useRef(false);
  const virtual = useWindowVirtualizer({
    count: rows.length,
    estimateSize: () => rowHeight,
    overscan: 14,
    scrollMargin: tree.current?.offsetTop ?? 0,
  });
  const current = Math.min(active, rows.length - 1);
  useEffect(() => {
    if (!wantsFocus.current) return;
    const row = tree.current?.querySelector<HTMLElement>(`[data-row="${current}"]`);
    if (row) {
      wantsFocus.current = false;
      row.focus();
    }
  });
  const goTo = (n: number) => {
    const next = Math.max(0, Math.min(rows.length - 1, n));
    wantsFocus.current = true;
    setActive(next);
    virtual.scrollToIndex(next);
  };
  const onKey = (event: KeyboardEvent<HTMLElement>) => {
    if (event.target !== event.currentTarget) return;
    const row = rows[current];
    if (!row) return;
    const { post, level } = row;
    const isOpen = open.has(post.id);
    const up = () => rows.findLastIndex((one, n) => n < current && one.level < level);
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    switch (event.key) {
      case 'ArrowDown':
        goTo(current + 1);
        break;
      case 'ArrowUp':
        goTo(current - 1);
        break;
      case 'PageDown':
        goTo(current + page);
        break;
      case 'PageUp':
        goTo(current - page);
        break;
      case 'Home':
        goTo(0);
        break;
      case 'End':
        goTo(rows.length - 1);
        break;
      case 'ArrowRight':
        if (post.below.length > 0 && !isOpen) onOpen(post.id, true);
        else goTo(current + 1);
        break;
      case 'ArrowLeft':
        if (isOpen && post.below.length > 0) onOpen(post.id, false);
        else goTo(up());
        break;
      case 'Enter':
        if (post.holder) go(`/people/${post.holder.id}`);
        break;
      case 'm':
        if (onMove && !post.mine) onMove(post);
        break;
      default:
        return;
    }
    event.preventDefault();
  };
  return (
    <Box ref={tree} role="tree" aria-label="Reporting lines" sx={look} style={{ height: virtual.getTotalSize() }}>
      {virtual.getVirtualItems().map(({ index, start }) => {
        const { post, level, at, of } = rows[index] as Row;
        const isOpen = open.has(post.id);
        return (
          <div
            key={post.id}
            role="treeitem"
            data-row={index}
            tabIndex={index === current ? 0 : -1}
            aria-level={level}
            aria-posinset={at}
            aria-setsize={of}
            aria-label={`${post.title}, ${post.holder?.name ?? 'vacant'}`}
            {...(post.below.length > 0 ? { 'aria-expanded': isOpen } : {})}
            onKeyDown={onKey}
            onFocus={() => setActive(index)}
            style={{
              transform: `translateY(${start - virtual.options.scrollMargin}px)`,
              paddingLeft: (level - 1) * 22,
            }}
          >
            {post.below.length > 0 ? (
              <button
                type="button"
                className="below"
                tabIndex={-1}
                aria-label={`${post.title}: ${post.all} below`}
                onClick={() => onOpen(post.id, !isOpen)}
              >
                {isOpen ? '–' : '+'} {post.all}
              </button>
            ) : (
              <span className="below" />
            )}
            <span className="title">{post.title}</span>
            {post.holder ? (
              <RouterLink to={`/people/${post.holder.id}`} tabIndex={-1}>
                {post.holder.name}
              </RouterLink>
            ) : (
              <span className="vacant">vacant: it goes up from here</span>
            )}
            <span className="more">
              {post.where}
              {post.holdsOthers && ' · holds another post too'}
              {post.dotted.length > 0 && ` · also answers to ${post.dotted.join(', ')}`}
            </span>
            {onMove && !post.mine && (
              <button type="button" className="move" tabIndex={-1} onClick={() => onMove(post)}>
                Move
                <span className="unseen"> {post.title}</span>
              </button>
            )}
          </div>
        );
      })}
    </Box>
  );
}
