/** Find or do: one line from which every place, workflow and own request is a few letters away (`/` or Ctrl+K). */
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { askableQuery, requestsQuery, shelfQuery } from '../api/queries.ts';
import { Key } from './Key.tsx';
import { useHere } from './session.ts';

type Way = { group: string; words: string; to: string };

function useWays(open: boolean): Way[] {
  const { self } = useHere();
  const designs = self.rights.length > 0;
  const askable = useQuery({ ...askableQuery, enabled: open });
  const requests = useQuery({ ...requestsQuery, enabled: open });
  const shelf = useQuery({ ...shelfQuery, enabled: open && designs });
  return [
    ...(askable.data ?? []).map(row => ({
      group: 'Do',
      words: `Ask for ${row.name.toLowerCase()}`,
      to: `/ask/${row.id}`,
    })),
    { group: 'Go to', words: 'Desk', to: '/desk' },
    { group: 'Go to', words: 'Requests', to: '/requests' },
    { group: 'Go to', words: 'Planner', to: '/planner' },
    { group: 'Go to', words: 'Balances', to: '/balances' },
    ...(shelf.data ?? []).map(row => ({ group: 'Workflows', words: row.name, to: `/workflows/${row.id}` })),
    ...(requests.data ?? []).map(row => ({
      group: 'Your requests',
      words: `${row.title} (${row.id})`,
      to: `/requests/${row.id}`,
    })),
  ];
}

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

export function FindOrDo() {
  const [open, setOpen] = useState(false);
  const ways = useWays(open);
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const wanted =
        (event.key === '/' && !isTyping(event.target)) || (event.key === 'k' && (event.ctrlKey || event.metaKey));
      if (!wanted) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return (
    <>
      <Button
        onClick={() => setOpen(true)}
        aria-label="Find or do"
        sx={{
          width: { xs: 'auto', lg: 170 },
          minWidth: 40,
          justifyContent: 'space-between',
          color: 'text.secondary',
          fontWeight: 400,
          py: 0.4,
          gap: 1,
        }}
      >
        <span>Find or do</span>
        <Key>/</Key>
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        fullWidth
        maxWidth="sm"
        aria-label="Find or do"
        slotProps={{ paper: { sx: { alignSelf: 'flex-start', mt: 10, p: 2, overflow: 'visible' } } }}
      >
        <Autocomplete
          options={ways}
          groupBy={way => way.group}
          getOptionLabel={way => way.words}
          getOptionKey={way => way.to}
          openOnFocus
          autoHighlight
          onChange={(_, way) => {
            if (!way) return;
            setOpen(false);
            navigate(way.to);
          }}
          renderInput={params => (
            <TextField {...params} autoFocus placeholder="What are you looking for, or what shall be done?" />
          )}
          noOptionsText="Nothing is called that"
        />
      </Dialog>
    </>
  );
}
