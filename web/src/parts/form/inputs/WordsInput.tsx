import TextField from '@mui/material/TextField';
import { edge, type FieldProps, labelOf } from '../fieldFrame.ts';

export function WordsInput({ field, value, onChange, fault, closed, highlighted }: FieldProps) {
  const long = field.kind === 'long text';
  return (
    <TextField
      fullWidth
      multiline={long}
      minRows={long ? 2 : undefined}
      label={labelOf(field, closed)}
      value={value ?? ''}
      disabled={closed}
      error={fault !== undefined}
      helperText={fault ?? field.help ?? ' '}
      onChange={event => onChange(event.target.value)}
      sx={edge(highlighted)}
    />
  );
}
