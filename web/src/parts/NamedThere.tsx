/** A group or a space of a system, found by any letters of its name: what is not there cannot be picked. */
import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { namedQuery } from '../api/queries.ts';

type Props = {
  label: string;
  connection: string;
  what: 'groups' | 'spaces';
  value: string;
  onChange: (name: string) => void;
  fault?: string | undefined;
};

const nothing = { groups: 'There is no such group', spaces: 'There is no such space' };

export function NamedThere({ label, connection, what, value, onChange, fault }: Props) {
  const [typed, setTyped] = useState(value);
  const wanted = typed === value ? '' : typed;
  const found = useQuery({
    ...namedQuery(connection, what, wanted),
    enabled: connection !== '',
    placeholderData: keepPreviousData,
  });
  const silent = found.isError
    ? 'It could not be asked.'
    : found.data?.fault
      ? `It does not say: ${found.data.fault}.`
      : null;
  const more = found.data?.more ?? 0;
  return (
    <Autocomplete
      options={found.data?.names ?? []}
      value={value || null}
      inputValue={typed}
      filterOptions={all => all}
      isOptionEqualToValue={(a, b) => a.toLowerCase() === b.toLowerCase()}
      loading={found.isFetching}
      loadingText="One moment"
      noOptionsText={silent ?? nothing[what]}
      onInputChange={(_, text) => setTyped(text)}
      onChange={(_, name) => onChange(name ?? '')}
      renderInput={props => (
        <TextField
          {...props}
          label={label}
          error={fault !== undefined}
          helperText={fault ?? silent ?? (more > 0 ? `${more} more: type some letters of the name.` : undefined)}
        />
      )}
    />
  );
}
