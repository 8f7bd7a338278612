import Box from '@mui/material/Box';
import { DayField, TimeField } from '../DayField.tsx';
import { edge, type FieldProps, labelOf } from '../fieldFrame.ts';
import { textOf } from './textOf.ts';

export function DayInput({ field, value, onChange, fault, closed, highlighted }: FieldProps) {
  return (
    <Box sx={edge(highlighted)}>
      <DayField
        label={labelOf(field, closed)}
        date={textOf(value)}
        disabled={closed}
        fault={fault !== undefined}
        help={fault ?? field.help ?? ' '}
        onDate={onChange}
      />
    </Box>
  );
}

export function TimeInput({ field, value, onChange, fault, closed, highlighted }: FieldProps) {
  return (
    <Box sx={edge(highlighted)}>
      <TimeField
        label={labelOf(field, closed)}
        time={textOf(value)}
        disabled={closed}
        fault={fault !== undefined}
        help={fault ?? field.help ?? ' '}
        onTime={onChange}
      />
    </Box>
  );
}
