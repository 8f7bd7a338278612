/** Chooses somebody of the directory. */
import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import type { DirectoryIndex, Person } from '@north-pebble/core/people';

export function PersonPicker({
  label,
  value,
  onChange,
  index,
  width,
}: {
  label: string;
  value: string;
  onChange: (id: string) => void;
  index: DirectoryIndex | undefined;
  width?: number;
}) {
  const people = (index?.directory.people ?? []) as Person[];
  return (
    <Autocomplete
      size="small"
      options={people}
      value={people.find(p => p.id === value) ?? null}
      getOptionLabel={p => p.name}
      getOptionKey={p => p.id}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      onChange={(_, person) => onChange(person?.id ?? '')}
      renderInput={params => <TextField {...params} label={label} />}
      sx={{ width: width ?? 240, maxWidth: '100%' }}
    />
  );
}
