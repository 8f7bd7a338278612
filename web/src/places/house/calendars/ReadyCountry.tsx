/** Ready holidays of a country or a part of it, to begin from. */
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { ReadyHolidays } from '@north-pebble/contract';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { readyHolidaysQuery } from '../../../api/queries.ts';
import { FailureNote } from '../../../parts/Notes.tsx';

type Named = ReadyHolidays['countries'][number];
type Props = { onTake: (found: ReadyHolidays & { name: string }) => void };

export function ReadyCountry({ onTake }: Props) {
  const [country, setCountry] = useState<Named | null>(null);
  const [region, setRegion] = useState<Named | null>(null);
  const found = useQuery({
    ...readyHolidaysQuery(country?.id ?? '', region?.id ?? ''),
    placeholderData: keepPreviousData,
  });
  const view = found.data;
  const n = (view?.rules.length ?? 0) + (view?.holidays.length ?? 0);
  const pick = (label: string, options: readonly Named[], value: Named | null, set: (one: Named | null) => void) => (
    <Autocomplete
      options={[...options]}
      value={value}
      getOptionLabel={one => one.name}
      getOptionKey={one => one.id}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      onChange={(_, one) => set(one)}
      sx={{ width: 240 }}
      renderInput={params => <TextField {...params} label={label} />}
    />
  );
  return (
    <Box sx={{ mb: 2 }}>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
        {pick('Country', view?.countries ?? [], country, one => {
          setCountry(one);
          setRegion(null);
        })}
        {view && view.regions.length > 0 && pick('Part of it (may stay empty)', view.regions, region, setRegion)}
        <Button
          variant="contained"
          disabled={!country || !view || found.isFetching || n === 0}
          onClick={() => view && onTake({ ...view, name: region?.name ?? country?.name ?? '' })}
        >
          Put them in
        </Button>
      </Box>
      <FailureNote fault={found.error} />
      {country && view && !found.isFetching && (
        <Typography variant="body2" color="textSecondary" sx={{ mt: 0.75 }}>
          {view.rules.length} days of every year
          {view.holidays.length > 0 && ` and ${view.holidays.length} single days of the next years, which no rule says`}
          . Check them against what holds where you are.
        </Typography>
      )}
    </Box>
  );
}
