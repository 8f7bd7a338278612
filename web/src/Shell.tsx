/** Around every place: who is signed in, the bar, and a word when the house is away. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect } from 'react';
import { Outlet, Link as RouterLink } from 'react-router';
import { call } from './api/client.ts';
import { fetched } from './api/fetched.ts';
import { hearNews } from './api/live.ts';
import { queryClient, sessionQuery } from './api/queries.ts';
import { AwayBanner } from './parts/frame/AwayBanner.tsx';
import { Bar } from './parts/frame/Bar.tsx';
import { HereProvider } from './parts/frame/session.ts';
import { contentId, Loaded } from './parts/Page.tsx';

// Whoever is signed in never sees it.
const SignInPlace = lazy(async () => ({
  default: (await fetched(() => import('./places/signin/SignInPlace.tsx'))).SignInPlace,
}));

/** What waits is told by the server whenever it changes. */
function Live() {
  useEffect(() => {
    return hearNews(() => {
      for (const key of ['desk', 'requests', 'request', 'stuck'])
        void queryClient.invalidateQueries({ queryKey: [key] });
    });
  }, []);
  return null;
}

/** Says why somebody cannot do what they may, and where that is put right. */
function Withheld() {
  return (
    <Box role="status" sx={{ borderBottom: '1px solid', borderColor: 'divider', px: 3, py: 0.75, fontSize: 13.5 }}>
      Some of what you may do waits for a second factor.{' '}
      <Link component={RouterLink} to="/account">
        Set one up
      </Link>
      , or sign in again with its code.
    </Box>
  );
}

/** Said on every page while an administrator sees as somebody else does. */
function SeenAs({ name, by }: { name: string; by: string }) {
  const stop = async () => {
    await call('DELETE /session/as');
    queryClient.clear();
    window.location.assign('/house/roles');
  };
  return (
    <Box
      role="status"
      sx={{
        px: 3,
        py: 0.75,
        fontSize: 14,
        bgcolor: 'secondary.main',
        color: 'secondary.contrastText',
        display: 'flex',
        gap: 2,
      }}
    >
      <span>
        {by} sees North Pebble as {name} does. Nothing can be changed.
      </span>
      <Link component="button" type="button" onClick={() => void stop()} sx={{ color: 'inherit', fontWeight: 650 }}>
        Stop
      </Link>
    </Box>
  );
}

/** Seen only when it has the focus: the first thing that a keyboard comes to. */
const SkipLink = () => (
  <Link
    href={`#${contentId}`}
    onClick={event => {
      event.preventDefault();
      document.getElementById(contentId)?.focus();
    }}
    sx={{
      position: 'absolute',
      left: -9999,
      zIndex: 20,
      bgcolor: 'background.paper',
      px: 2,
      py: 1,
      borderRadius: 2,
      '&:focus': { left: 12, top: 6 },
    }}
  >
    Skip to the page
  </Link>
);

export function Shell() {
  const session = useQuery(sessionQuery);
  return (
    <>
      <AwayBanner />
      <Loaded query={session}>
        {({ self, now, demo, cards, house, isNew }) =>
          self ? (
            <HereProvider value={{ self, now, demo }}>
              <Live />
              <SkipLink />
              <Bar />
              {self.seenBy && <SeenAs name={self.name} by={self.seenBy} />}
              {self.withheld.length > 0 && <Withheld />}
              <Outlet />
            </HereProvider>
          ) : (
            <Box component="main">
              <Suspense>
                <SignInPlace demo={demo} cards={cards} house={house} isNew={isNew} />
              </Suspense>
            </Box>
          )
        }
      </Loaded>
    </>
  );
}
