/** The shape of a page: heading, what it says, and its states of loading and failing. */
import Box from '@mui/material/Box';
import Skeleton from '@mui/material/Skeleton';
import Typography from '@mui/material/Typography';
import { type ReactNode, useEffect, useRef } from 'react';
import { FailureNote } from './Notes.tsx';

/** How high the bar is that stays on top. */
export const barHeight = 48;

/** Where a page begins, for whoever does not want to go through the bar first. */
export const contentId = 'content';

export function Page({
  title,
  sub,
  actions,
  children,
  wide = false,
  stays = false,
}: {
  title: string;
  sub?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
  wide?: boolean;
  /** The heading and what can be done stay in sight while a long page scrolls. */
  stays?: boolean;
}) {
  useEffect(() => {
    document.title = `${title} · North Pebble`;
  }, [title]);
  const main = useRef<HTMLElement>(null);
  // What had the focus is gone with the page before: whoever uses the keyboard goes on here, and not at the top.
  useEffect(() => {
    const isLater = ((history.state as { idx?: number } | null)?.idx ?? 0) > 0;
    if (isLater && document.activeElement === document.body) main.current?.focus({ preventScroll: true });
  }, []);
  return (
    <Box
      component="main"
      id={contentId}
      ref={main}
      tabIndex={-1}
      sx={{ px: { xs: 2, sm: 3.5 }, pt: 2, pb: 6, maxWidth: wide ? 'none' : 1180, '&:focus': { outline: 'none' } }}
    >
      <Box
        sx={{
          display: 'flex',
          alignItems: 'flex-end',
          gap: 2,
          flexWrap: 'wrap',
          mb: 2,
          ...(stays && {
            position: { md: 'sticky' },
            top: { md: barHeight },
            zIndex: 3,
            bgcolor: 'background.default',
            py: 1,
            mt: -1,
            borderBottom: '1px solid',
            borderColor: 'divider',
          }),
        }}
      >
        <Box sx={{ flex: 1, minWidth: 240 }}>
          <Typography variant="h1">{title}</Typography>
          {sub && (
            <Typography variant="body2" component="div" color="textSecondary" sx={{ mt: 0.5 }}>
              {sub}
            </Typography>
          )}
        </Box>
        {actions}
      </Box>
      {children}
    </Box>
  );
}

export function LoadingLines({ lines = 6 }: { lines?: number }) {
  return (
    <Box role="status" aria-busy="true" aria-label="Loading">
      {Array.from({ length: lines }, (_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the lines are all alike
        <Skeleton key={i} height={44} sx={{ maxWidth: 760, transform: 'none', mb: 1, borderRadius: 2 }} />
      ))}
    </Box>
  );
}

/** Shows the page's shape while loading, the fault when it failed, and the content when it is there. */
export function Loaded<T>({
  query,
  children,
}: {
  query: { data: T | undefined; error: unknown; isPending: boolean };
  children: (data: T) => ReactNode;
}) {
  if (query.data !== undefined) return children(query.data);
  if (query.error) return <FailureNote fault={query.error} />;
  return <LoadingLines />;
}

export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box sx={{ py: 5, maxWidth: 520 }}>
      <Typography variant="h2" component="p">
        {title}
      </Typography>
      <Typography color="textSecondary" component="div" sx={{ mt: 0.5 }}>
        {children}
      </Typography>
    </Box>
  );
}
