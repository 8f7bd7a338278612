/** Chooses somebody who works here, or a role that somebody holds, by any part of the name. */
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { PersonId } from '@north-pebble/core/people';
import type { ToWhom } from '@north-pebble/core/workflow';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { peopleQuery } from '../../api/queries.ts';

type Option = { key: string; name: string; what: string; to: ToWhom };

export function PersonField({
  label,
  roles = false,
  fault,
  onChange,
}: {
  label: string;
  /** Whether a role may be chosen too. */
  roles?: boolean;
  fault?: string;
  onChange: (to: ToWhom | null) => void;
}) {
  const [words, setWords] = useState('');
  const [chosen, setChosen] = useState<Option | null>(null);
  const found = useQuery({ ...peopleQuery(words === chosen?.name ? '' : words), placeholderData: keepPreviousData });
  const options: Option[] = [
    ...(found.data?.people ?? []).map(p => ({
      key: p.id,
      name: p.name,
      what: p.what,
      to: { person: p.id as PersonId },
    })),
    ...(roles ? (found.data?.roles ?? []) : []).map(role => ({
      key: `role ${role}`,
      name: role,
      what: 'whoever has this role',
      to: { role },
    })),
  ];
  return (
    <Autocomplete
      options={options}
      value={chosen}
      loading={found.isFetching}
      filterOptions={all => all}
      getOptionLabel={option => option.name}
      getOptionKey={option => option.key}
      isOptionEqualToValue={(a, b) => a.key === b.key}
      onInputChange={(_, value) => setWords(value)}
      onChange={(_, option) => {
        setChosen(option);
        onChange(option?.to ?? null);
      }}
      noOptionsText={found.isFetching ? 'One moment' : 'Nobody is called that'}
      renderOption={({ key, ...props }, option) => (
        <Box component="li" key={key} {...props}>
          <span>
            {option.name}{' '}
            <Typography component="span" variant="body2" color="textSecondary">
              {option.what}
            </Typography>
          </span>
        </Box>
      )}
      renderInput={params => (
        <TextField {...params} label={label} error={fault !== undefined} helperText={fault ?? undefined} />
      )}
    />
  );
}
