/** One of several: words, leave types, rows of a list, people. */
import Autocomplete from '@mui/material/Autocomplete';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type FieldOf, listById, rowsToPick } from '@north-pebble/core/form';
import { boxed, type FieldProps } from '../fieldFrame.ts';

type Option = { id: string; name: string };

type Offered = FieldProps & { options: readonly Option[] };

function OneOf(props: Offered) {
  const { field, value, onChange, options } = props;
  const frame = boxed(props);
  // What was chosen before and is not offered any more still shows.
  const known = options.some(o => o.id === value);
  return (
    <TextField
      {...frame}
      select
      fullWidth
      value={known ? value : ''}
      disabled={frame.disabled || (options.length === 1 && field.required && known)}
      onChange={event => onChange(event.target.value || null)}
    >
      {!field.required && <MenuItem value="">nothing</MenuItem>}
      {options.length === 0 && <MenuItem disabled>There is nothing to choose yet.</MenuItem>}
      {options.map(option => (
        <MenuItem key={option.id} value={option.id}>
          {option.name}
        </MenuItem>
      ))}
    </TextField>
  );
}

function Found(props: Offered) {
  const { value, onChange, options } = props;
  const { label, error, helperText, disabled, sx } = boxed(props);
  return (
    <Autocomplete
      options={options as Option[]}
      value={options.find(o => o.id === value) ?? null}
      disabled={disabled}
      getOptionLabel={o => o.name}
      getOptionKey={o => o.id}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      onChange={(_, option) => onChange(option?.id ?? null)}
      sx={sx}
      renderInput={params => <TextField {...params} label={label} error={error} helperText={helperText} />}
    />
  );
}

export function ChoiceInput(props: FieldProps<FieldOf<'choice'>>) {
  const { field, house } = props;
  const options =
    field.options === 'leave types'
      ? house.leaveTypes.filter(t => field.only?.includes(t.id) ?? true)
      : field.options.map(name => ({ id: name, name }));
  return <OneOf {...props} options={options} />;
}

export function PickInput(props: FieldProps<FieldOf<'pick'>>) {
  const rows = rowsToPick(props.field, listById(props.house.lists, props.field.list), props.answers);
  const options = rows.map(row => ({ id: row.id, name: row.title }));
  return options.length > 12 ? <Found {...props} options={options} /> : <OneOf {...props} options={options} />;
}

export function PersonInput(props: FieldProps) {
  return <Found {...props} options={props.house.people} />;
}
