import Box from '@mui/material/Box';
import { DayField, TimeField } from '../DayField.tsx';
import { boxed, type FieldProps } from '../fieldFrame.ts';
import { textOf } from './textOf.ts';

/** As fields of days and times take the frame. */
function framed(props: FieldProps) {
  const { label, disabled, error, helperText, sx } = boxed(props);
  return { sx, parts: { label, disabled, fault: error, help: helperText } };
}

export function DayInput(props: FieldProps) {
  const { sx, parts } = framed(props);
  return (
    <Box sx={sx}>
      <DayField {...parts} date={textOf(props.value)} onDate={props.onChange} />
    </Box>
  );
}

export function TimeInput(props: FieldProps) {
  const { sx, parts } = framed(props);
  return (
    <Box sx={sx}>
      <TimeField {...parts} time={textOf(props.value)} onTime={props.onChange} />
    </Box>
  );
}
