/** A place or a department, changed or made anew. */
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import type { MeasuresView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { useState } from 'react';
import { ChangeEnd } from '../../../parts/change/ChangeEnd.tsx';
import { ChoiceField } from '../../../parts/change/ChoiceField.tsx';
import { useChange } from '../../../parts/change/useChange.ts';

type Place = MeasuresView['places'][number];
type Department = MeasuresView['departments'][number];
type Props = { view: MeasuresView; onDone: () => void };

const grid = { my: 2, display: 'grid', gap: 2, maxWidth: 520 };
const zones = Intl.supportedValuesOf('timeZone').map(id => ({ id, name: id.replaceAll('_', ' ') }));

export function PlaceChange({ place, view, onDone }: Props & { place: Place | null }) {
  const [typed, setTyped] = useState({
    name: place?.name ?? '',
    zone: place?.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone,
    calendar: place?.calendar ?? '',
    head: place?.head ?? '',
  });
  const { name, zone, calendar, head } = typed;
  const change =
    name.trim() && calendar
      ? ({
          what: 'place',
          place: { id: place?.id ?? 'new', name, zone, calendar, head: head || null },
        } as unknown as HouseChange)
      : null;
  const changing = useChange(change, onDone);
  const { faultOf } = changing;
  const put = (more: Partial<typeof typed>) => changing.put(setTyped)({ ...typed, ...more });
  // A zone on file that this browser does not name stays choosable.
  const known = zones.some(one => one.id === zone) ? zones : [{ id: zone, name: zone }, ...zones];
  return (
    <Box component="form" aria-label={place ? place.name : 'A new place'} onSubmit={changing.send} sx={grid}>
      <TextField
        label="Name"
        value={name}
        onChange={event => put({ name: event.target.value })}
        error={faultOf('name') !== undefined}
        helperText={faultOf('name')}
        autoComplete="off"
      />
      <ChoiceField
        label="Time zone"
        value={zone}
        options={known}
        onChange={id => put({ zone: id })}
        fault={faultOf('zone')}
      />
      <ChoiceField
        label="Calendar"
        value={calendar}
        options={view.calendars}
        onChange={id => put({ calendar: id })}
        fault={faultOf('calendar')}
      />
      <ChoiceField
        label="Headed by"
        value={head}
        none="no post"
        options={view.posts}
        onChange={id => put({ head: id })}
        fault={faultOf('head')}
      />
      <ChangeEnd changing={changing} verb="Save the place" onCancel={onDone} />
    </Box>
  );
}

export function DepartmentChange({ department, view, onDone }: Props & { department: Department | null }) {
  const [name, setName] = useState(department?.name ?? '');
  const [head, setHead] = useState(department?.head ?? '');
  const change = name.trim()
    ? ({
        what: 'department',
        department: { id: department?.id ?? 'new', name, head: head || null },
      } as unknown as HouseChange)
    : null;
  const changing = useChange(change, onDone);
  const { faultOf, anew } = changing;
  return (
    <Box
      component="form"
      aria-label={department ? department.name : 'A new department'}
      onSubmit={changing.send}
      sx={grid}
    >
      <TextField
        label="Name"
        value={name}
        onChange={event => {
          setName(event.target.value);
          anew();
        }}
        error={faultOf('name') !== undefined}
        helperText={faultOf('name')}
        autoComplete="off"
      />
      <ChoiceField
        label="Headed by"
        value={head}
        none="no post"
        options={view.posts}
        onChange={id => {
          setHead(id);
          anew();
        }}
        fault={faultOf('head')}
      />
      <ChangeEnd changing={changing} verb="Save the department" onCancel={onDone} />
    </Box>
  );
}
