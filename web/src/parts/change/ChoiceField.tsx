/** One of several that are on file, with a fault at its place. */
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';

type Props = {
  label: string;
  value: string;
  options: readonly { readonly id: string; readonly name: string }[];
  onChange: (id: string) => void;
  fault?: string | undefined;
  help?: string | undefined;
  /** What choosing nothing says, where nothing may be chosen. */
  none?: string;
};

export function ChoiceField({ label, value, options, onChange, fault, help, none }: Props) {
  return (
    <TextField
      select
      label={label}
      value={options.some(one => one.id === value) ? value : ''}
      onChange={event => onChange(event.target.value)}
      error={fault !== undefined}
      helperText={fault ?? help}
      slotProps={none === undefined ? {} : { select: { displayEmpty: true }, inputLabel: { shrink: true } }}
    >
      {none !== undefined && <MenuItem value="">{none}</MenuItem>}
      {options.map(({ id, name }) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}
