import TextField from '@mui/material/TextField';
import { boxed, type FieldProps } from '../fieldFrame.ts';

/** What is typed as a number while it is one, and the words while it is not. */
export const numberFrom = (text: string): number | string => {
  const plain = text.trim().replace(',', '.');
  return plain !== '' && Number.isFinite(Number(plain)) && !/[.]$/.test(plain) ? Number(plain) : text;
};

export function NumberInput(props: FieldProps) {
  const { field, value, onChange } = props;
  const frame = boxed(props);
  const unit = field.kind === 'money' ? field.currency : undefined;
  return (
    <TextField
      {...frame}
      fullWidth
      label={unit ? `${frame.label}, ${unit}` : frame.label}
      value={value ?? ''}
      onChange={event => onChange(event.target.value === '' ? null : numberFrom(event.target.value))}
      slotProps={{ htmlInput: { inputMode: field.kind === 'whole number' ? 'numeric' : 'decimal' } }}
    />
  );
}
