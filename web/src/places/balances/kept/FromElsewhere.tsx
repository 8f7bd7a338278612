/** Leave that was decided elsewhere, by hand: what came with a file is put right, and what was forgotten is added. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Switch from '@mui/material/Switch';
import TextField from '@mui/material/TextField';
import type { BalanceView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { isTimed } from '@north-pebble/core/leave';
import { useState } from 'react';
import { queryClient } from '../../../api/queries.ts';
import { ChangeEnd } from '../../../parts/change/ChangeEnd.tsx';
import { useChange } from '../../../parts/change/useChange.ts';
import { DayField, TimeField } from '../../../parts/form/DayField.tsx';

type End = { date: string; half: 'am' | 'pm'; time: string };
type Typed = { type: string; by: 'halves' | 'times'; from: End; to: End; there: boolean };

function typedFor(view: BalanceView, id: string): Typed {
  const known = view.elsewhere.find(one => one.id === id);
  const type = known?.type ?? view.bookable[0]?.id ?? '';
  const [from, to]: [End, End] = [
    { date: '', half: 'am', time: '' },
    { date: '', half: 'pm', time: '' },
  ];
  if (!known) return { type, by: 'halves', from, to, there: true };
  const { span } = known;
  return isTimed(span)
    ? { type, by: 'times', from: { ...from, ...span.from }, to: { ...to, ...span.to }, there: true }
    : { type, by: 'halves', from: { ...from, ...span.from }, to: { ...to, ...span.to }, there: true };
}

/** The change as it is sent; nothing while something is missing. */
function changeOf(person: string, id: string, { type, by, from, to, there }: Typed): HouseChange | null {
  const change = (booking: object | null) => ({ what: 'booking', person, id, booking }) as unknown as HouseChange;
  if (!there) return change(null);
  if (!from.date || !to.date || (by === 'times' && !(from.time && to.time))) return null;
  const end = ({ date, half, time }: End) => (by === 'times' ? { date, time } : { date, half });
  return change({ type, from: end(from), to: end(to) });
}

export function FromElsewhere({ view }: { view: BalanceView }) {
  const [open, setOpen] = useState(false);
  const [id, setId] = useState('new');
  const [typed, setTyped] = useState(() => typedFor(view, 'new'));
  const close = () => setOpen(false);
  const changing = useChange(changeOf(view.person, id, typed), () => {
    close();
    void queryClient.invalidateQueries({ queryKey: ['balance'] });
    void queryClient.invalidateQueries({ queryKey: ['leave'] });
  });
  const put = (more: Partial<Typed>) => changing.put(setTyped)({ ...typed, ...more });
  const { faultOf } = changing;
  const choose = (next: string) => {
    setId(next);
    changing.put(setTyped)(typedFor(view, next));
  };
  const end = (which: 'from' | 'to', label: string) => {
    const one = typed[which];
    const fault = faultOf(`booking.${which}`, `booking.${which}.date`);
    const say = (more: Partial<End>) => put({ [which]: { ...one, ...more } });
    return (
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '2fr 1fr' }, gap: 2 }}>
        <DayField
          label={label}
          date={one.date}
          onDate={date => say({ date })}
          fault={fault !== undefined}
          help={fault ?? ''}
        />
        {typed.by === 'times' ? (
          <TimeField
            label={which === 'from' ? 'From' : 'Until'}
            time={one.time}
            onTime={time => say({ time })}
            fault={false}
            help=""
          />
        ) : (
          <TextField
            select
            label={which === 'from' ? 'From the' : 'Until the'}
            value={one.half}
            onChange={event => say({ half: event.target.value as End['half'] })}
          >
            <MenuItem value="am">morning</MenuItem>
            <MenuItem value="pm">afternoon</MenuItem>
          </TextField>
        )}
      </Box>
    );
  };
  return (
    <>
      <Button
        onClick={() => {
          choose('new');
          setOpen(true);
        }}
      >
        Leave from elsewhere
      </Button>
      <Dialog open={open} onClose={close} fullWidth maxWidth="sm">
        <DialogTitle>Leave of {view.name} decided elsewhere</DialogTitle>
        <DialogContent>
          <Box component="form" onSubmit={changing.send} sx={{ display: 'grid', gap: 2, pt: 1 }}>
            <TextField
              select
              label="Booking"
              value={id}
              onChange={event => choose(event.target.value)}
              error={faultOf('change.id') !== undefined}
              helperText={
                faultOf('change.id') ?? 'Leave that was decided here is changed on its request, not on this page.'
              }
            >
              <MenuItem value="new">A new one</MenuItem>
              {view.elsewhere.map(one => (
                <MenuItem key={one.id} value={one.id}>
                  {one.says}
                </MenuItem>
              ))}
            </TextField>
            {id !== 'new' && (
              <FormControlLabel
                control={<Switch checked={typed.there} onChange={(_, there) => put({ there })} />}
                label="This leave is booked"
              />
            )}
            {typed.there && (
              <>
                <TextField
                  select
                  label="Leave"
                  value={typed.type}
                  onChange={event => put({ type: event.target.value })}
                  error={faultOf('booking.type') !== undefined}
                  helperText={faultOf('booking.type')}
                >
                  {view.bookable.map(one => (
                    <MenuItem key={one.id} value={one.id}>
                      {one.name}
                    </MenuItem>
                  ))}
                </TextField>
                <TextField
                  select
                  label="Begins and ends"
                  value={typed.by}
                  onChange={event => put({ by: event.target.value as Typed['by'] })}
                >
                  <MenuItem value="halves">by half days</MenuItem>
                  <MenuItem value="times">at a time of day</MenuItem>
                </TextField>
                {end('from', 'First day')}
                {end('to', 'Last day')}
              </>
            )}
            <ChangeEnd changing={changing} verb="Save the booking" onCancel={close} />
          </Box>
        </DialogContent>
      </Dialog>
    </>
  );
}
