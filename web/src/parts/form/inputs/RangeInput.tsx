import Box from '@mui/material/Box';
import FormControl from '@mui/material/FormControl';
import FormHelperText from '@mui/material/FormHelperText';
import FormLabel from '@mui/material/FormLabel';
import { DayField } from '../DayField.tsx';
import { edge, type FieldProps, labelOf } from '../fieldFrame.ts';

const rangeOf = (value: unknown): { from?: string; to?: string } =>
  typeof value === 'object' && value !== null ? value : {};

/** The range once both days are typed. */
export const wholeRange = (typed: unknown): unknown => {
  const { from, to } = rangeOf(typed);
  return from && to ? typed : undefined;
};

export function RangeInput(props: FieldProps) {
  const { field, value, onChange, fault, closed, highlighted } = props;
  const range = rangeOf(value);
  const end = (which: 'from' | 'to', label: string) => (
    <DayField
      label={label}
      date={range[which] ?? ''}
      disabled={closed}
      fault={fault !== undefined}
      {...(which === 'to' && range.from ? { start: range.from } : {})}
      onDate={date => onChange({ ...range, [which]: date })}
    />
  );
  return (
    <FormControl component="fieldset" disabled={closed} error={fault !== undefined} sx={edge(highlighted)}>
      <FormLabel component="legend" sx={{ mb: 1 }}>
        {labelOf(field, closed)}
      </FormLabel>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        {end('from', 'First day')}
        {end('to', 'Last day')}
      </Box>
      <FormHelperText>{fault ?? field.help ?? ' '}</FormHelperText>
    </FormControl>
  );
}
