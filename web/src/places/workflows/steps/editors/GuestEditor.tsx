/** A guest: who it is, what they fill in, how long their link is good, and how they are reminded. */
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { type Guest, mostLinkDays, setAt, usualLinkDays } from '@north-pebble/core/workflow';
import { useState } from 'react';
import { Buttons, type Props } from './shared.tsx';

const whole = (text: string, most: number): number => Math.min(most, Number(text.replace(/\D/g, '')));

export function GuestEditor({ edit, definition, onDone }: Props<'guest'>) {
  const { fields, sections = [] } = definition.form;
  const texts = fields.filter(field => field.kind === 'text');
  const names = fields.filter(field => field.kind === 'text' || field.kind === 'person');
  const [name, setName] = useState(edit.guest?.name ?? names[0]?.id ?? '');
  const [mail, setMail] = useState(edit.guest?.mail ?? texts[0]?.id ?? '');
  const [given, setGiven] = useState<readonly string[]>(edit.guest?.sections ?? []);
  const [days, setDays] = useState(String(edit.guest?.days ?? usualLinkDays));
  const [every, setEvery] = useState(edit.guest?.remind ? String(edit.guest.remind.everyDays) : '');
  const [most, setMost] = useState(String(edit.guest?.remind?.atMost ?? 5));
  const [message, setMessage] = useState(edit.guest?.message ?? '');
  const oneOf = (
    label: string,
    value: string,
    set: (id: string) => void,
    options: readonly { id: string; label: string }[],
  ) => (
    <TextField select label={label} value={value} onChange={event => set(event.target.value)}>
      {options.map(one => (
        <MenuItem key={one.id} value={one.id}>
          {one.label}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <form
      onSubmit={event => {
        event.preventDefault();
        const everyDays = whole(every, 30);
        const guest: Guest = {
          name,
          mail,
          sections: sections.map(section => section.id).filter(id => given.includes(id)),
          days: Math.max(1, whole(days, mostLinkDays)),
          ...(everyDays > 0 ? { remind: { everyDays, atMost: Math.max(1, whole(most, 20)) } } : {}),
          ...(message ? { message } : {}),
        };
        onDone(setAt(definition, edit.path, guest));
      }}
    >
      <Box sx={{ display: 'grid', gap: 1.5 }}>
        {oneOf('Who it is: their name stands in', name, setName, names)}
        {oneOf('The link goes to the address in', mail, setMail, texts)}
        <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
          <Typography component="legend" variant="body2" color="textSecondary">
            They fill in
          </Typography>
          <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, columnGap: 1 }}>
            {sections.map(section => (
              <FormControlLabel
                key={section.id}
                sx={{ display: 'flex' }}
                control={
                  <Checkbox
                    size="small"
                    checked={given.includes(section.id)}
                    onChange={(_, on) => setGiven(on ? [...given, section.id] : given.filter(id => id !== section.id))}
                  />
                }
                label={section.title}
              />
            ))}
          </Box>
          {sections.length === 0 && (
            <Typography variant="body2">The form has no sections yet; make one under Form.</Typography>
          )}
        </Box>
        <TextField
          label="Days for which a link is good"
          value={days}
          onChange={event => setDays(event.target.value)}
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
          <TextField
            label="Reminded every so many days"
            value={every}
            placeholder="never"
            onChange={event => setEvery(event.target.value)}
            slotProps={{ htmlInput: { inputMode: 'numeric' }, inputLabel: { shrink: true } }}
          />
          <TextField
            label="At most, times"
            value={most}
            disabled={whole(every, 30) === 0}
            onChange={event => setMost(event.target.value)}
            slotProps={{ htmlInput: { inputMode: 'numeric' } }}
          />
        </Box>
        <TextField
          select
          label="The mail that brings the link"
          value={message}
          onChange={e => setMessage(e.target.value)}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">the house’s own words</MenuItem>
          {definition.messages.map(one => (
            <MenuItem key={one.id} value={one.id}>
              {one.name}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <Buttons disabled={given.length === 0 || !name || !mail} onCancel={() => onDone()} />
    </form>
  );
}
