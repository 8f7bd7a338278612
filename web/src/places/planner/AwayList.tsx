/** The planner as lists: who is away when, and when some people could all be here. */
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { PlannerAway, PlannerView } from '@north-pebble/contract';
import { rangeWords } from '@north-pebble/core/time';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { plannerAwayQuery, plannerRowsQuery } from '../../api/queries.ts';
import { useYear } from '../../parts/frame/session.ts';
import { Loaded } from '../../parts/Page.tsx';
import { allHere } from './allHere.ts';

function Away({ away }: { away: PlannerAway }) {
  if (away.all === 0) return <Typography color="textSecondary">Nobody is away in these days.</Typography>;
  return (
    <>
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {away.rows.map(one => (
          <Box
            component="li"
            key={`${one.id} ${one.from} ${one.label}`}
            sx={{ display: 'flex', gap: 2, py: 0.6, borderBottom: '1px solid', borderColor: 'divider', fontSize: 14 }}
          >
            <Box component="span" sx={{ fontWeight: 600, width: { xs: 120, sm: 190 }, flexShrink: 0 }}>
              {one.name}
            </Box>
            {one.request ? (
              <Link component={RouterLink} to={`/requests/${one.request}`}>
                {one.label}
              </Link>
            ) : (
              <span>{one.label}</span>
            )}
          </Box>
        ))}
      </Box>
      {away.all > away.rows.length && (
        <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
          These are the first {away.rows.length} of {away.all.toLocaleString('en-GB')}. All of them are in the table;
          fewer days or people make a shorter list.
        </Typography>
      )}
    </>
  );
}

type Option = { id: string; name: string };
/** So many are offered at once, and at most so many must be here. */
const mostOffered = 20;
const mostChosen = 40;

function AllHere({ view, look }: { view: PlannerView; look: string }) {
  const year = useYear();
  const [chosen, setChosen] = useState<readonly Option[]>([]);
  const [words, setWords] = useState('');
  const looked = useDeferredValue(words);
  const among = new URLSearchParams(look);
  if (looked.trim()) among.set('words', looked.trim());
  const offered = useQuery({
    ...plannerRowsQuery(String(among), `take=${mostOffered}`),
    placeholderData: keepPreviousData,
  });
  const ids = chosen.map(one => one.id).join(',');
  const rows = useQuery({
    ...plannerRowsQuery(look, `only=${encodeURIComponent(ids)}&take=${mostChosen}`),
    enabled: ids !== '',
    placeholderData: keepPreviousData,
  });
  const here = rows.data && chosen.length > 0 ? allHere(view, rows.data) : [];
  return (
    <>
      <Autocomplete
        multiple
        size="small"
        options={
          [...chosen, ...(offered.data?.rows ?? []).filter(row => !chosen.some(one => one.id === row.id))] as Option[]
        }
        value={[...chosen]}
        filterOptions={options => options}
        filterSelectedOptions
        getOptionLabel={one => one.name}
        getOptionKey={one => one.id}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        onChange={(_, people) => setChosen(people.slice(0, mostChosen).map(({ id, name }) => ({ id, name })))}
        inputValue={words}
        onInputChange={(_, typed) => setWords(typed)}
        noOptionsText="Nobody of these has such a name."
        renderInput={params => <TextField {...params} label="Who must be here" />}
      />
      {chosen.length > 0 && rows.data && (
        <Box component="ul" aria-label="Days on which all are here" sx={{ pl: 2.5, fontSize: 14 }}>
          {here.map(({ from, to }) => (
            <li key={from}>{rangeWords(from, to, year)}</li>
          ))}
        </Box>
      )}
      {chosen.length > 0 && rows.data && here.length === 0 && (
        <Typography color="textSecondary">On no day shown are they all here. Look at later days.</Typography>
      )}
    </>
  );
}

export function AwayList({ view, look }: { view: PlannerView; look: string }) {
  const away = useQuery({ ...plannerAwayQuery(look), placeholderData: keepPreviousData });
  return (
    <Box
      sx={{
        display: 'grid',
        gap: { xs: 3, md: 5 },
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1.4fr) minmax(260px, 1fr)' },
        alignItems: 'start',
        mb: 4,
      }}
    >
      <Box component="section" aria-label="Who is away">
        <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
          Who is away
        </Typography>
        <Loaded query={away}>{found => <Away away={found} />}</Loaded>
      </Box>
      <Box component="section" aria-label="When all are here">
        <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
          When all are here
        </Typography>
        <AllHere view={view} look={look} />
      </Box>
    </Box>
  );
}
