/** The planner as lists: who is away when, and when some people could all be here. */
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { PlannerView } from '@north-pebble/contract';
import { addDays, type CivilDate, rangeWords } from '@north-pebble/core/time';
import { useMemo, useState } from 'react';
import { useYear } from '../../parts/frame/session.ts';

type Person = PlannerView['teams'][number]['people'][number];

/** Everybody once, though they are in several teams. */
export const everybodyIn = (view: PlannerView): Person[] => [
  ...new Map(view.teams.flatMap(team => team.people).map(person => [person.id, person])).values(),
];

/** Who is away in the days shown, in the order of their first day. */
export const awayIn = (view: PlannerView) =>
  everybodyIn(view)
    .flatMap(({ id, name, entries }) => entries.map(entry => ({ id, name, ...entry })))
    .filter(({ from, to }) => from <= view.to && to >= view.from)
    .sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : a.name < b.name ? -1 : 1));

/** Stretches of days on which everybody of some people is at work, in the morning and in the afternoon. */
export function allHere(view: PlannerView, people: readonly Person[]): { from: CivilDate; to: CivilDate }[] {
  const found: { from: CivilDate; to: CivilDate }[] = [];
  const days = (people[0]?.marks.length ?? 0) / 2;
  for (let n = 0; n < days; n++) {
    const isHere = people.every(({ marks }) => marks[2 * n] === 'w' && marks[2 * n + 1] === 'w');
    if (!isHere) continue;
    const day = addDays(view.from, n);
    const last = found.at(-1);
    if (last && addDays(last.to, 1) === day) last.to = day;
    else found.push({ from: day, to: day });
  }
  return found;
}

export function AwayList({ view }: { view: PlannerView }) {
  const year = useYear();
  const everybody = useMemo(() => everybodyIn(view), [view]);
  const [ids, setIds] = useState<readonly string[]>([]);
  const chosen = everybody.filter(person => ids.includes(person.id));
  const away = awayIn(view);
  const here = chosen.length > 0 ? allHere(view, chosen) : [];
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
        {away.length === 0 ? (
          <Typography color="textSecondary">Nobody is away in these days.</Typography>
        ) : (
          <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
            {away.map(one => (
              <Box
                component="li"
                key={`${one.id} ${one.from} ${one.label}`}
                sx={{
                  display: 'flex',
                  gap: 2,
                  py: 0.6,
                  borderBottom: '1px solid',
                  borderColor: 'divider',
                  fontSize: 14,
                }}
              >
                <Box component="span" sx={{ fontWeight: 600, width: 190, flexShrink: 0 }}>
                  {one.name}
                </Box>
                <span>{one.label}</span>
              </Box>
            ))}
          </Box>
        )}
      </Box>
      <Box component="section" aria-label="When all are here">
        <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
          When all are here
        </Typography>
        <Autocomplete
          multiple
          size="small"
          options={everybody}
          value={chosen}
          getOptionLabel={person => person.name}
          isOptionEqualToValue={(a, b) => a.id === b.id}
          onChange={(_, people) => setIds(people.map(person => person.id))}
          renderInput={params => <TextField {...params} label="Who must be here" />}
        />
        {chosen.length > 0 && (
          <Box component="ul" aria-label="Days on which all are here" sx={{ pl: 2.5, fontSize: 14 }}>
            {here.map(({ from, to }) => (
              <li key={from}>{rangeWords(from, to, year)}</li>
            ))}
          </Box>
        )}
        {chosen.length > 0 && here.length === 0 && (
          <Typography color="textSecondary">On no day shown are they all here. Look at later days.</Typography>
        )}
      </Box>
    </Box>
  );
}
