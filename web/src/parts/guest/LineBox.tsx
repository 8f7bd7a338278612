/**
 * One box with its name: a line, a few lines, a day, a time, or one of several. Made of the small parts of the library, since
 * the pages of people outside are opened over slow lines, and its whole text field brings menus along that they never open.
 */
import FormControl from '@mui/material/FormControl';
import InputLabel from '@mui/material/InputLabel';
import NativeSelect from '@mui/material/NativeSelect';
import OutlinedInput from '@mui/material/OutlinedInput';
import { type ComponentProps, useId } from 'react';

type Props = {
  label: string;
  value: string | number;
  disabled: boolean;
  wrong?: boolean;
  type?: string;
  rows?: number;
  /** What can be chosen, where it is one of several. */
  options?: readonly { readonly id: string; readonly title: string }[];
  box?: ComponentProps<'input'>;
  onType: (words: string) => void;
};

export function LineBox({ label, value, disabled, wrong = false, type = 'text', rows, options, box, onType }: Props) {
  const id = useId();
  const input = (
    <OutlinedInput
      id={id}
      label={label}
      notched
      {...(options ? {} : { type, value, onChange: event => onType(event.target.value) })}
      {...(rows ? { multiline: true, minRows: rows } : {})}
      {...(box ? { inputProps: box } : {})}
    />
  );
  return (
    <FormControl fullWidth size="medium" disabled={disabled} error={wrong}>
      <InputLabel htmlFor={id} shrink>
        {label}
      </InputLabel>
      {options ? (
        <NativeSelect input={input} value={value} onChange={event => onType(event.target.value)} inputProps={{ id }}>
          <option value=""> </option>
          {options.map(option => (
            <option key={option.id} value={option.id}>
              {option.title}
            </option>
          ))}
        </NativeSelect>
      ) : (
        input
      )}
    </FormControl>
  );
}
