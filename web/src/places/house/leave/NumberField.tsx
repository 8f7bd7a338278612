/** A number that is typed; what is no number yet stays in the field and is told. */
import TextField from '@mui/material/TextField';
import { useState } from 'react';

type Props = {
  label: string;
  value: number | null;
  onNumber: (value: number | null) => void;
  fault?: string | undefined;
  help?: string | undefined;
  width?: number;
};

export function NumberField({ label, value, onNumber, fault, help, width = 150 }: Props) {
  const [text, setText] = useState(value === null ? '' : String(value));
  const isNumber = text.trim() === '' || Number.isFinite(Number(text.replace(',', '.')));
  const told = fault ?? (isNumber ? undefined : 'Write a number, as 12 or 2.5.');
  return (
    <TextField
      label={label}
      value={text}
      onChange={event => {
        setText(event.target.value);
        const typed = event.target.value.trim().replace(',', '.');
        if (typed === '') onNumber(null);
        else if (Number.isFinite(Number(typed))) onNumber(Number(typed));
      }}
      error={told !== undefined}
      helperText={told ?? help}
      autoComplete="off"
      slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      sx={{ width }}
    />
  );
}
