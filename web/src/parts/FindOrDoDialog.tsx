/** The dialog of find or do; loaded when it is first opened. */
import Autocomplete from '@mui/material/Autocomplete';
import Dialog from '@mui/material/Dialog';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { askableQuery, requestsQuery, shelfQuery } from '../api/queries.ts';
import { useHere } from './session.ts';

type Way = { group: string; words: string; to: string };

function useWays(): Way[] {
  const { self } = useHere();
  const designs = self.rights.length > 0;
  const askable = useQuery(askableQuery);
  const requests = useQuery(requestsQuery);
  const shelf = useQuery({ ...shelfQuery, enabled: designs });
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

export function FindOrDoDialog({ onClose }: { onClose: () => void }) {
  const ways = useWays();
  const navigate = useNavigate();
  return (
    <Dialog
      open
      onClose={onClose}
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
          onClose();
          navigate(way.to);
        }}
        renderInput={params => (
          <TextField {...params} autoFocus placeholder="What are you looking for, or what shall be done?" />
        )}
        noOptionsText="Nothing is called that"
      />
    </Dialog>
  );
}
