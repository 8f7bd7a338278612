import TextField from '@mui/material/TextField';
import { edge, type FieldProps, labelOf } from '../fieldFrame.ts';

/** What is typed as a number while it is one, and the words while it is not. */
export const numberFrom = (text: string): number | string => {
  const plain = text.trim().replace(',', '.');
  return plain !== '' && Number.isFinite(Number(plain)) && !/[.]$/.test(plain) ? Number(plain) : text;
};

export function NumberInput(props: FieldProps) {
  const { field, value, onChange, fault, closed, highlighted } = props;
  const unit = field.kind === 'money' ? field.currency : undefined;
  return (
    <TextField
      fullWidth
      label={unit ? `${labelOf(field, closed)}, ${unit}` : labelOf(field, closed)}
      value={value ?? ''}
      disabled={closed}
      error={fault !== undefined}
      helperText={fault ?? field.help ?? ' '}
      onChange={event => onChange(event.target.value === '' ? null : numberFrom(event.target.value))}
      sx={edge(highlighted)}
      slotProps={{ htmlInput: { inputMode: field.kind === 'whole number' ? 'numeric' : 'decimal' } }}
    />
  );
}
