/** A new round of wishes: for which days, of whom, and until when wishes are taken. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import type { WishRoundsView } from '@north-pebble/contract';
import type { CivilDate } from '@north-pebble/core/time';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { queryClient, wishRoundsQuery } from '../../api/queries.ts';
import { ChoiceField } from '../../parts/change/ChoiceField.tsx';
import { DayField } from '../../parts/form/DayField.tsx';
import { typedNumber } from '../../parts/form/typedNumber.ts';
import { FailureNote } from '../../parts/Notes.tsx';

const empty = { name: '', type: '', place: '', department: '', from: '', to: '', closes: '', mostAway: '' };

export function NewRound({ choices, onDone }: { choices: NonNullable<WishRoundsView['choices']>; onDone: () => void }) {
  const [typed, setTyped] = useState({ ...empty, type: choices.types[0]?.id ?? '' });
  const make = useMutation({
    mutationFn: () =>
      call('POST /wishes', {
        body: {
          ...typed,
          place: typed.place || null,
          department: typed.department || null,
          from: typed.from as CivilDate,
          to: typed.to as CivilDate,
          closes: typed.closes as CivilDate,
          mostAway: typed.mostAway.trim() === '' ? null : typedNumber(typed.mostAway),
        },
      }),
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: wishRoundsQuery.queryKey });
      onDone();
    },
  });
  const faults = problemOf(make.error)?.faults ?? [];
  const faultOf = (name: string) => faults.find(one => one.field === name)?.message;
  const put = (more: Partial<typeof typed>) => {
    make.reset();
    setTyped({ ...typed, ...more });
  };
  const isWhole = typed.name.trim() !== '' && typed.type && typed.from && typed.to && typed.closes;
  const day = (label: string, name: 'from' | 'to' | 'closes', help = '') => (
    <DayField
      label={label}
      date={typed[name]}
      onDate={date => put({ [name]: date })}
      fault={faultOf(name) !== undefined}
      help={faultOf(name) ?? help}
    />
  );
  return (
    <Box
      component="form"
      aria-label="New round of wishes"
      onSubmit={event => {
        event.preventDefault();
        make.mutate();
      }}
      sx={{ display: 'grid', gap: 2, maxWidth: 600, mb: 4 }}
    >
      <TextField
        label="Name"
        value={typed.name}
        onChange={event => put({ name: event.target.value })}
        error={faultOf('name') !== undefined}
        helperText={faultOf('name') ?? 'Such as Midwinter 2026. It stands in every mail and on statements.'}
        autoComplete="off"
      />
      <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' } }}>
        {day('First day', 'from')}
        {day('Last day', 'to')}
        <ChoiceField
          label="Place"
          value={typed.place}
          none="Every place"
          options={choices.places}
          onChange={place => put({ place })}
          fault={faultOf('place')}
        />
        <ChoiceField
          label="Department"
          value={typed.department}
          none="Every department"
          options={choices.departments}
          onChange={department => put({ department })}
          fault={faultOf('department')}
        />
        <ChoiceField
          label="Leave type"
          value={typed.type}
          options={choices.types}
          onChange={type => put({ type })}
          fault={faultOf('type')}
        />
        <TextField
          label="Away at once, at most"
          value={typed.mostAway}
          onChange={event => put({ mostAway: event.target.value })}
          error={faultOf('mostAway') !== undefined}
          helperText={faultOf('mostAway') ?? 'Empty for any number.'}
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
          autoComplete="off"
        />
        {day('Wishes close on', 'closes', 'The last day on which people can change their wishes.')}
      </Box>
      <FailureNote fault={faults.length === 0 ? make.error : null} />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" color="primary" disabled={!isWhole || make.isPending}>
          Ask everybody
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </Box>
    </Box>
  );
}
