/** A leave span: first and last day, each whole or from midday, to midday. */

import Box from '@mui/material/Box';
import FormHelperText from '@mui/material/FormHelperText';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { DayField } from './DayField.tsx';

/** What is being typed: days may still be missing or not readable. */
export type HalfTyped = { from: { date: string; half: 'am' | 'pm' }; to: { date: string; half: 'am' | 'pm' } };

export function asTyped(value: unknown): HalfTyped {
  const given = value as Partial<HalfTyped> | null | undefined;
  return {
    from: { date: given?.from?.date ?? '', half: given?.from?.half ?? 'am' },
    to: { date: given?.to?.date ?? '', half: given?.to?.half ?? 'pm' },
  };
}

type Props = {
  label: string;
  value: unknown;
  onChange: (value: HalfTyped) => void;
  disabled?: boolean;
  fault?: string | undefined;
  help?: string | undefined;
  highlighted?: boolean;
};

export function SpanField({ label, value, onChange, disabled = false, fault, help, highlighted = false }: Props) {
  const typed = asTyped(value);
  const half = (end: 'from' | 'to', words: [am: string, pm: string], whole: 'am' | 'pm') => (
    <TextField
      select
      label={end === 'from' ? 'Begins' : 'Ends'}
      value={typed[end].half}
      disabled={disabled}
      onChange={event => onChange({ ...typed, [end]: { ...typed[end], half: event.target.value as 'am' | 'pm' } })}
      sx={{ minWidth: 170 }}
    >
      <MenuItem value={whole}>{end === 'from' ? words[0] : words[1]}</MenuItem>
      <MenuItem value={whole === 'am' ? 'pm' : 'am'}>{end === 'from' ? words[1] : words[0]}</MenuItem>
    </TextField>
  );
  return (
    <Box
      role="group"
      aria-label={label}
      sx={highlighted ? { borderLeft: '3px solid', borderColor: 'secondary.main', pl: 1.5 } : undefined}
    >
      <Typography variant="body2" sx={{ fontWeight: 600, mb: 1 }}>
        {label}
      </Typography>
      <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { xs: '1fr', sm: '1fr 170px' } }}>
        <DayField
          label="First day"
          date={typed.from.date}
          disabled={disabled}
          fault={fault !== undefined}
          onDate={date => onChange({ from: { ...typed.from, date }, to: { ...typed.to, date: typed.to.date || date } })}
        />
        {half('from', ['in the morning', 'at midday'], 'am')}
        <DayField
          label="Last day"
          date={typed.to.date}
          start={typed.from.date}
          disabled={disabled}
          fault={fault !== undefined}
          onDate={date => onChange({ ...typed, to: { ...typed.to, date } })}
        />
        {half('to', ['at midday', 'in the evening'], 'pm')}
      </Box>
      <FormHelperText error={fault !== undefined} role={fault ? 'alert' : undefined}>
        {fault ?? help ?? ' '}
      </FormHelperText>
    </Box>
  );
}
