/** The house as it is kept: its pages beside one another. */
import Box from '@mui/material/Box';
import { may } from '@north-pebble/contract';
import type { ReactNode } from 'react';
import { NavLink } from 'react-router';
import { useHere } from '../../parts/frame/session.ts';
import { Page } from '../../parts/Page.tsx';

const pages = [
  ['posts', 'Posts'],
  ['roles', 'Roles and rights'],
  ['patterns', 'Work patterns'],
  ['calendars', 'Calendars and places'],
  ['leave', 'Leave rules'],
  ['shutdowns', 'Shutdowns'],
  ['lists', 'Lists'],
  ['changes', 'What was changed'],
  ['moving', 'Moving in'],
  ['deletions', 'What is deleted'],
] as const;

type Props = { title: string; sub: string; actions?: ReactNode; children: ReactNode };

export function HouseFrame({ title, sub, actions, children }: Props) {
  const { self } = useHere();
  const shown = may(self, 'keep records') ? pages : pages.filter(([path]) => path === 'lists' || path === 'leave');
  return (
    <Page wide title={title} sub={sub} actions={actions}>
      <Box
        component="nav"
        aria-label="The house"
        sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', borderBottom: '1px solid', borderColor: 'divider', mb: 2.5 }}
      >
        {shown.map(([path, words]) => (
          <Box
            key={path}
            component={NavLink}
            to={`/house/${path}`}
            sx={{
              px: 1.25,
              py: 0.9,
              fontSize: 14,
              color: 'text.secondary',
              textDecoration: 'none',
              borderBottom: '2px solid transparent',
              mb: '-1px',
              '&.active': { color: 'text.primary', fontWeight: 650, borderColor: 'primary.main' },
            }}
          >
            {words}
          </Box>
        ))}
      </Box>
      {children}
    </Page>
  );
}

/** A list beside what is chosen of it. */
export function Beside({ list, children }: { list: ReactNode; children: ReactNode }) {
  return (
    <Box
      sx={{
        display: 'grid',
        gap: { xs: 3, md: 4 },
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(200px, 280px) minmax(0, 1fr)' },
        alignItems: 'start',
      }}
    >
      <Box>{list}</Box>
      <Box sx={{ minWidth: 0 }}>{children}</Box>
    </Box>
  );
}

type NamesProps = {
  label: string;
  rows: readonly { readonly id: string; readonly name: string; readonly note: string }[];
  chosen: string | null;
  onChoose: (id: string) => void;
};

/** Names to choose from, each with a word about it. */
export function Names({ label, rows, chosen, onChoose }: NamesProps) {
  return (
    <Box component="ul" aria-label={label} sx={{ listStyle: 'none', p: 0, m: 0 }}>
      {rows.map(({ id, name, note }) => (
        <li key={id}>
          <Box
            component="button"
            type="button"
            aria-current={id === chosen ? 'true' : undefined}
            onClick={() => onChoose(id)}
            sx={{
              display: 'block',
              width: '100%',
              textAlign: 'left',
              font: 'inherit',
              fontSize: 14.5,
              color: 'text.primary',
              border: 0,
              borderLeft: '3px solid',
              borderColor: id === chosen ? 'primary.main' : 'divider',
              bgcolor: id === chosen ? 'action.selected' : 'transparent',
              px: 1.5,
              py: 1,
              cursor: 'pointer',
              '&:hover': { bgcolor: 'action.hover' },
            }}
          >
            {name}
            <Box component="span" sx={{ display: 'block', fontSize: 13, color: 'text.secondary' }}>
              {note}
            </Box>
          </Box>
        </li>
      ))}
    </Box>
  );
}
