/** Around every place: who is signed in, the bar, and a word when the house is away. */
import Box from '@mui/material/Box';
import { useQuery } from '@tanstack/react-query';
import { Outlet } from 'react-router';
import { sessionQuery } from '../api/queries.ts';
import { SignInPlace } from '../places/signin/SignInPlace.tsx';
import { AwayBanner } from './AwayBanner.tsx';
import { Bar } from './Bar.tsx';
import { Loaded } from './Page.tsx';
import { HereProvider } from './session.ts';

export function Shell() {
  const session = useQuery(sessionQuery);
  return (
    <>
      <AwayBanner />
      <Loaded query={session}>
        {({ self, now, demo, cards }) =>
          self ? (
            <HereProvider value={{ self, now, demo }}>
              <Bar />
              <Outlet />
            </HereProvider>
          ) : (
            <Box component="main">
              <SignInPlace demo={demo} cards={cards} />
            </Box>
          )
        }
      </Loaded>
    </>
  );
}
