/** One of several: words, leave types, rows of a list, people. */
import Autocomplete from '@mui/material/Autocomplete';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type FieldOf, listById, rowsToPick } from '@north-pebble/core/form';
import { edge, type FieldProps, labelOf } from '../fieldFrame.ts';

type Option = { id: string; name: string };

function OneOf({
  field,
  value,
  onChange,
  fault,
  closed,
  highlighted,
  options,
}: FieldProps & { options: readonly Option[] }) {
  // What was chosen before and is not offered any more still shows.
  const known = options.some(o => o.id === value);
  return (
    <TextField
      select
      fullWidth
      label={labelOf(field, closed)}
      value={known ? value : ''}
      disabled={closed || (options.length === 1 && field.required && known)}
      error={fault !== undefined}
      helperText={fault ?? field.help ?? ' '}
      onChange={event => onChange(event.target.value || null)}
      sx={edge(highlighted)}
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

function Found({
  field,
  value,
  onChange,
  fault,
  closed,
  highlighted,
  options,
}: FieldProps & { options: readonly Option[] }) {
  return (
    <Autocomplete
      options={options as Option[]}
      value={options.find(o => o.id === value) ?? null}
      disabled={closed}
      getOptionLabel={o => o.name}
      getOptionKey={o => o.id}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      onChange={(_, option) => onChange(option?.id ?? null)}
      sx={edge(highlighted)}
      renderInput={params => (
        <TextField
          {...params}
          label={labelOf(field, closed)}
          error={fault !== undefined}
          helperText={fault ?? field.help ?? ' '}
        />
      )}
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
