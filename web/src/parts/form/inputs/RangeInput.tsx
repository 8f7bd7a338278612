import Box from '@mui/material/Box';
import { DayField } from '../DayField.tsx';
import { FieldGroup } from '../FieldGroup.tsx';
import type { FieldProps } from '../fieldFrame.ts';

const rangeOf = (value: unknown): { from?: string; to?: string } =>
  typeof value === 'object' && value !== null ? value : {};

/** The range once both days are typed. */
export const wholeRange = (typed: unknown): unknown => {
  const { from, to } = rangeOf(typed);
  return from && to ? typed : undefined;
};

export function RangeInput(props: FieldProps) {
  const { value, onChange, fault, closed } = props;
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
    <FieldGroup {...props}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        {end('from', 'First day')}
        {end('to', 'Last day')}
      </Box>
    </FieldGroup>
  );
}
