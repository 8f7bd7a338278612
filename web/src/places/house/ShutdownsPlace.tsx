/** Days on which a place is closed: leave is booked for everybody who works there, and taken back, at once. */
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { LeaveRulesView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { typeOn } from '@north-pebble/core/leave';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { changesQuery, leaveRulesQuery, peopleQuery, queryClient } from '../../api/queries.ts';
import { ChangeEnd } from '../../parts/change/ChangeEnd.tsx';
import { ChangeRow } from '../../parts/change/ChangeRow.tsx';
import { ChoiceField } from '../../parts/change/ChoiceField.tsx';
import { useChange } from '../../parts/change/useChange.ts';
import { DayField } from '../../parts/form/DayField.tsx';
import { Empty, Loaded } from '../../parts/Page.tsx';
import { HouseFrame } from './HouseFrame.tsx';

const halves = [
  ['am', 'morning'],
  ['pm', 'afternoon'],
] as const;
type Half = (typeof halves)[number][0];

function HalfField({ label, value, onHalf }: { label: string; value: Half; onHalf: (half: Half) => void }) {
  return (
    <TextField select label={label} value={value} onChange={event => onHalf(event.target.value as Half)}>
      {halves.map(([id, words]) => (
        <MenuItem key={id} value={id}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  );
}

type Someone = { readonly id: string; readonly name: string };
const empty = {
  name: '',
  place: '',
  department: '',
  type: '',
  from: '',
  fromHalf: 'am' as Half,
  to: '',
  toHalf: 'pm' as Half,
  except: [] as Someone[],
};

function NewShutdown({ view, onDone }: { view: LeaveRulesView; onDone: () => void }) {
  const types = view.types.filter(one => typeOn(one, view.today).takesFrom !== 'nothing');
  const [typed, setTyped] = useState({ ...empty, type: types[0]?.id ?? '' });
  const [words, setWords] = useState('');
  const found = useQuery({ ...peopleQuery(words), enabled: words.trim().length > 1 });
  const isWhole = typed.name.trim() !== '' && typed.type !== '' && typed.from !== '' && typed.to !== '';
  const change = isWhole
    ? ({
        what: 'shutdown',
        name: typed.name.trim(),
        place: typed.place || null,
        department: typed.department || null,
        type: typed.type,
        from: { date: typed.from, half: typed.fromHalf },
        to: { date: typed.to, half: typed.toHalf },
        except: typed.except.map(one => one.id),
      } as unknown as HouseChange)
    : null;
  const changing = useChange(change, () => {
    void queryClient.invalidateQueries({ queryKey: ['leave'] });
    void queryClient.invalidateQueries({ queryKey: ['balance'] });
    onDone();
  });
  const put = (more: Partial<typeof typed>) => changing.put(setTyped)({ ...typed, ...more });
  const { faultOf } = changing;
  return (
    <Box
      component="form"
      aria-label="New shutdown"
      onSubmit={changing.send}
      sx={{ display: 'grid', gap: 2, maxWidth: 600, mb: 4 }}
    >
      <TextField
        label="Name"
        value={typed.name}
        onChange={event => put({ name: event.target.value })}
        error={faultOf('name') !== undefined}
        helperText={faultOf('name') ?? 'It stands on every statement and in the mail that everybody gets.'}
        autoComplete="off"
      />
      <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' } }}>
        <ChoiceField
          label="Place"
          value={typed.place}
          none="Every place"
          options={view.places}
          onChange={place => put({ place })}
          fault={faultOf('place')}
        />
        <ChoiceField
          label="Department"
          value={typed.department}
          none="Every department"
          options={view.departments}
          onChange={department => put({ department })}
          fault={faultOf('department')}
        />
      </Box>
      <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: { xs: '1fr', sm: '1.6fr 1fr' } }}>
        <DayField
          label="First day"
          date={typed.from}
          onDate={from => put({ from })}
          fault={faultOf('from', 'from.date') !== undefined}
          help={faultOf('from', 'from.date')}
        />
        <HalfField label="From the" value={typed.fromHalf} onHalf={fromHalf => put({ fromHalf })} />
        <DayField
          label="Last day"
          date={typed.to}
          onDate={to => put({ to })}
          fault={faultOf('to', 'to.date') !== undefined}
          help={faultOf('to', 'to.date')}
        />
        <HalfField label="To the" value={typed.toHalf} onHalf={toHalf => put({ toHalf })} />
      </Box>
      <ChoiceField
        label="Leave type"
        value={typed.type}
        options={types}
        onChange={type => put({ type })}
        fault={faultOf('type')}
      />
      <Autocomplete
        multiple
        options={(found.data?.people ?? []).map(({ id, name }) => ({ id, name }) as Someone)}
        value={typed.except}
        filterOptions={all => all}
        getOptionLabel={one => one.name}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        onInputChange={(_, next) => setWords(next)}
        onChange={(_, except) => put({ except })}
        noOptionsText={words.trim().length > 1 ? 'Nobody found' : 'Type a name'}
        renderInput={params => (
          <TextField
            {...params}
            label="Exceptions"
            helperText={faultOf('except') ?? 'Those who work on these days all the same.'}
          />
        )}
      />
      <ChangeEnd changing={changing} verb="Book the shutdown" onCancel={onDone} />
    </Box>
  );
}

function Made() {
  const found = useQuery(changesQuery);
  return (
    <Loaded query={found}>
      {({ rows }) => {
        const made = rows.filter(one => one.isShutdown);
        return made.length === 0 ? (
          <Empty title="No shutdowns yet">
            A shutdown books leave for everybody who works at a place. Whoever comes later is not part of it.
          </Empty>
        ) : (
          <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0, maxWidth: 820 }}>
            {made.map(one => (
              <ChangeRow key={one.id} one={one} may />
            ))}
          </Box>
        );
      }}
    </Loaded>
  );
}

export function ShutdownsPlace() {
  const rules = useQuery(leaveRulesQuery);
  const [isNew, setNew] = useState(false);
  return (
    <HouseFrame
      title="Shutdowns"
      sub="Days on which a place is closed and leave is booked for everybody who works there."
      actions={
        isNew ? undefined : (
          <Button variant="contained" onClick={() => setNew(true)}>
            New shutdown
          </Button>
        )
      }
    >
      {isNew && <Loaded query={rules}>{view => <NewShutdown view={view} onDone={() => setNew(false)} />}</Loaded>}
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        Booked
      </Typography>
      <Made />
    </HouseFrame>
  );
}
