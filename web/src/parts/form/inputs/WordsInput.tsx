import TextField from '@mui/material/TextField';
import { boxed, type FieldProps } from '../fieldFrame.ts';

export function WordsInput(props: FieldProps) {
  const { field, value, onChange } = props;
  const long = field.kind === 'long text';
  return (
    <TextField
      {...boxed(props)}
      fullWidth
      multiline={long}
      minRows={long ? 2 : undefined}
      value={value ?? ''}
      onChange={event => onChange(event.target.value)}
    />
  );
}
