/** The bar: places as words, find or do, the demo clock, and oneself. */

import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useColorScheme } from '@mui/material/styles';
import { may } from '@north-pebble/contract';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { NavLink } from 'react-router';
import { call } from '../../api/client.ts';
import { answeredQuery, deskQuery, queryClient, setsQuery } from '../../api/queries.ts';
import { display } from '../../theme/theme.ts';
import { PersonPebble } from '../Pebble.tsx';
import { ClockMark } from './ClockMark.tsx';
import { FindOrDo } from './FindOrDo.tsx';
import { placesFor } from './places.ts';
import { useHere } from './session.ts';

function Mark() {
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1.1,
        font: `650 16px ${display}`,
        letterSpacing: '-0.2px',
        mr: { xs: 0.5, md: 2.5 },
      }}
    >
      <svg width="24" height="22" viewBox="0 0 24 22" aria-hidden="true">
        <path
          d="M12 1.5c6 0 10.3 3.6 10.3 9.2S18.2 20.5 11.6 20.5 1.5 16.8 1.5 11.3 6 1.5 12 1.5z"
          fill="var(--mui-palette-text-primary)"
        />
        <path d="M12 4l2.2 7.2L12 10l-2.2 1.2z" fill="var(--mui-palette-background-default)" />
      </svg>
      <Box component="span" sx={{ display: { xs: 'none', md: 'inline' } }}>
        North Pebble
      </Box>
    </Box>
  );
}

function PlaceLink({ to, children }: { to: string; children: ReactNode }) {
  return (
    <Box
      component={NavLink}
      to={to}
      sx={{
        px: { xs: 1.25, md: 0.9, xl: 1.25 },
        py: 0.6,
        borderRadius: '9px',
        color: 'text.secondary',
        textDecoration: 'none',
        whiteSpace: 'nowrap',
        '&.active': {
          color: 'text.primary',
          fontWeight: 650,
          bgcolor: 'color-mix(in srgb, var(--mui-palette-text-primary) 8%, transparent)',
        },
      }}
    >
      {children}
    </Box>
  );
}

function DeskCount() {
  const { data } = useQuery(deskQuery);
  const { data: answered } = useQuery(answeredQuery);
  return (
    <Count
      n={data?.items.filter(item => !item.aside && !answered.includes(item.request)).length ?? 0}
      words="waiting"
      isQuiet={false}
    />
  );
}

/** What is in the lists that were given to a role of one's own. */
function ListsCount() {
  const { data } = useQuery(setsQuery);
  const n = data?.reduce((sum, set) => sum + (set.count ?? 0), 0) ?? 0;
  return <Count n={n} words="in the lists of your roles" isQuiet />;
}

function Count({ n: waiting, words, isQuiet }: { n: number; words: string; isQuiet: boolean }) {
  if (waiting === 0) return null;
  return (
    <Box
      component="span"
      aria-label={`${waiting} ${words}`}
      sx={{
        display: 'inline-block',
        minWidth: 18,
        textAlign: 'center',
        fontSize: 12,
        fontWeight: 700,
        ...(isQuiet
          ? { bgcolor: 'divider', color: 'text.primary' }
          : { bgcolor: 'primary.main', color: 'primary.contrastText' }),
        borderRadius: '9px',
        ml: 0.75,
        px: 0.6,
      }}
    >
      {waiting}
    </Box>
  );
}

function Oneself() {
  const { self } = useHere();
  const { mode, setMode } = useColorScheme();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const close = () => setAnchor(null);
  const signOut = async () => {
    await call('DELETE /session');
    queryClient.clear();
    window.location.assign('/');
  };
  return (
    <>
      <IconButton
        aria-label={`${self.name}: your menu`}
        onClick={event => setAnchor(event.currentTarget)}
        sx={{ p: 0.5 }}
      >
        <PersonPebble name={self.name} strong />
      </IconButton>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={close}>
        <MenuItem disabled sx={{ opacity: '1 !important' }}>
          {self.name}
        </MenuItem>
        {(['system', 'light', 'dark'] as const).map(choice => (
          <MenuItem
            key={choice}
            selected={mode === choice}
            onClick={() => {
              setMode(choice);
              close();
            }}
          >
            {choice === 'system' ? 'Light or dark as the machine' : choice === 'light' ? 'Light' : 'Dark'}
          </MenuItem>
        ))}
        <MenuItem component={NavLink} to="/cover" onClick={close}>
          Who stands in for you
        </MenuItem>
        <MenuItem component={NavLink} to="/mails" onClick={close}>
          Your mails
        </MenuItem>
        <MenuItem component={NavLink} to="/account" onClick={close}>
          Your account
        </MenuItem>
        {self.keepsLists && (
          <MenuItem component={NavLink} to="/house/lists" onClick={close}>
            Lists that you keep
          </MenuItem>
        )}
        {(may(self, 'read connections') || self.looksAfterSome || self.keepsLists) && (
          <MenuItem component={NavLink} to="/reviews" onClick={close}>
            Access reviews
          </MenuItem>
        )}
        {may(self, 'read connections') && (
          <MenuItem component={NavLink} to="/connections" onClick={close}>
            Connections
          </MenuItem>
        )}
        {may(self, 'keep accounts') && (
          <MenuItem component={NavLink} to="/accounts" onClick={close}>
            Accounts
          </MenuItem>
        )}
        <MenuItem onClick={signOut}>Sign out</MenuItem>
      </Menu>
    </>
  );
}

export function Bar() {
  const here = useHere();
  return (
    <Box
      component="header"
      sx={{
        minHeight: 48,
        display: 'flex',
        alignItems: 'center',
        flexWrap: { xs: 'wrap', md: 'nowrap' },
        justifyContent: 'flex-end',
        gap: 0.5,
        px: { xs: 1, sm: 2.5 },
        borderBottom: '1px solid',
        borderColor: 'divider',
        position: 'sticky',
        top: 0,
        zIndex: 10,
        bgcolor: 'background.default',
      }}
    >
      <Mark />
      <Box
        component="nav"
        aria-label="Places"
        sx={{
          display: 'flex',
          gap: 0.25,
          overflowX: 'auto',
          flex: { xs: '1 0 100%', md: 1 },
          order: { xs: 5, md: 0 },
          py: 0.5,
        }}
      >
        {placesFor(here).map(place => (
          <PlaceLink key={place.to} to={place.to}>
            {place.name}
            {place.name === 'Desk' && <DeskCount />}
            {place.name === 'Requests' && <ListsCount />}
          </PlaceLink>
        ))}
      </Box>
      <FindOrDo />
      {here.demo && <ClockMark />}
      <Oneself />
    </Box>
  );
}
