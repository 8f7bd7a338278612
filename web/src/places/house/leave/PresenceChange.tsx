/** How many people of a place or a department are needed here at once. */
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { LeaveRulesView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { presenceSentence } from '@north-pebble/core/leave';
import { fullDate } from '@north-pebble/core/time';
import { useState } from 'react';
import { ChangeEnd } from '../../../parts/change/ChangeEnd.tsx';
import { ChoiceField } from '../../../parts/change/ChoiceField.tsx';
import { useChange } from '../../../parts/change/useChange.ts';
import { DayField } from '../../../parts/form/DayField.tsx';
import { Note } from '../../../parts/Notes.tsx';
import { NumberField } from './NumberField.tsx';

type One = LeaveRulesView['presence'][number];
const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

const shortTitle = (days: number): string =>
  days === 1
    ? 'On one day in the next eight weeks it cannot be met'
    : `On ${days} days in the next eight weeks it cannot be met`;

type Props = { one: One | null; view: LeaveRulesView; onDone: () => void };

export function PresenceChange({ one, view, onDone }: Props) {
  const [typed, setTyped] = useState({
    name: one?.name ?? '',
    place: one?.place ?? '',
    department: one?.department ?? '',
    people: one?.people ?? 1,
    weekdays: one?.weekdays ?? [],
    from: one?.from ?? '',
    to: one?.to ?? '',
  });
  const [drops, setDrops] = useState(false);
  const presence = {
    id: one?.id ?? 'new',
    name: typed.name.trim(),
    place: typed.place || null,
    department: typed.department || null,
    people: typed.people,
    weekdays: [...typed.weekdays].sort(),
    from: typed.from || null,
    to: typed.to || null,
  };
  const change = typed.name.trim() ? ({ what: 'presence', presence, needed: true } as unknown as HouseChange) : null;
  const changing = useChange(change, onDone);
  const { there: _, short: _s, ...kept } = one ?? { there: 0, short: null };
  const dropping = useChange(
    one ? ({ what: 'presence', presence: kept, needed: false } as unknown as HouseChange) : null,
    onDone,
  );
  const { faultOf } = changing;
  const put = (more: Partial<typeof typed>) => changing.put(setTyped)({ ...typed, ...more });
  const named = {
    place: (id: string) => view.places.find(p => p.id === id)?.name ?? id,
    department: (id: string) => view.departments.find(d => d.id === id)?.name ?? id,
  };
  if (one && !view.mayKeep) return <Typography>{presenceSentence(kept as never, named)}</Typography>;
  return (
    <Box component="section" aria-label={one?.name ?? 'A new least number'}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        {one?.name ?? 'A new least number'}
      </Typography>
      <Typography sx={{ mb: 2 }}>
        {presenceSentence(presence as never, named)}
        {one && ` ${one.there} are there today.`}
      </Typography>
      {one?.short && (
        <Box sx={{ maxWidth: 560, mb: 2 }}>
          <Note tone="waiting" title={shortTitle(one.short.days)}>
            The work patterns schedule fewer people than are needed, though nobody is away. The first such day is{' '}
            {fullDate(one.short.first)}.
          </Note>
        </Box>
      )}
      <Box component="form" onSubmit={changing.send} sx={{ display: 'grid', gap: 2, maxWidth: 560 }}>
        <TextField
          label="Name"
          value={typed.name}
          onChange={event => put({ name: event.target.value })}
          error={faultOf('name') !== undefined}
          helperText={faultOf('name') ?? 'As it is said: “this leaves 3 of the tide watch”.'}
          autoComplete="off"
        />
        <NumberField
          label="So many are needed"
          value={typed.people}
          onNumber={people => people !== null && people >= 1 && put({ people: Math.floor(people) })}
          fault={faultOf('people')}
          width={220}
        />
        <ChoiceField
          label="Of the department"
          value={typed.department}
          none="any"
          options={view.departments}
          onChange={department => put({ department })}
          fault={faultOf('department')}
        />
        <ChoiceField
          label="At the place"
          value={typed.place}
          none="any"
          options={view.places}
          onChange={place => put({ place })}
          fault={faultOf('place')}
        />
        <Box role="group" aria-label="On these weekdays; on all where none is chosen">
          {weekdays.map((name, n) => (
            <FormControlLabel
              key={name}
              control={
                <Checkbox
                  size="small"
                  checked={typed.weekdays.includes(n + 1)}
                  onChange={(_event, on) =>
                    put({ weekdays: on ? [...typed.weekdays, n + 1] : typed.weekdays.filter(day => day !== n + 1) })
                  }
                />
              }
              label={name}
            />
          ))}
        </Box>
        <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
          <DayField label="From" date={typed.from} onDate={from => put({ from })} help="Nothing for always." />
          <DayField label="Until" date={typed.to} onDate={to => put({ to })} help="Nothing for no end." />
        </Box>
        <ChangeEnd changing={changing} verb="Save it" onCancel={onDone} />
      </Box>
      {one && (
        <Box sx={{ mt: 2 }}>
          {drops ? (
            <Box component="form" onSubmit={dropping.send} sx={{ display: 'grid', gap: 2, maxWidth: 560 }}>
              <ChangeEnd changing={dropping} verb="Take it away" onCancel={() => setDrops(false)} />
            </Box>
          ) : (
            <Link component="button" type="button" onClick={() => setDrops(true)}>
              No least number is needed any more
            </Link>
          )}
        </Box>
      )}
    </Box>
  );
}
