import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControl from '@mui/material/FormControl';
import FormControlLabel from '@mui/material/FormControlLabel';
import FormHelperText from '@mui/material/FormHelperText';
import FormLabel from '@mui/material/FormLabel';
import type { FieldOf } from '@north-pebble/core/form';
import { edge, type FieldProps, labelOf } from '../fieldFrame.ts';

export function SeveralInput({
  field,
  value,
  onChange,
  fault,
  closed,
  highlighted,
}: FieldProps<FieldOf<'several choices'>>) {
  const chosen = Array.isArray(value) ? (value as string[]) : [];
  return (
    <FormControl component="fieldset" disabled={closed} error={fault !== undefined} sx={edge(highlighted)}>
      <FormLabel component="legend">{labelOf(field, closed)}</FormLabel>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 2, mb: -1 }}>
        {field.options.map(option => (
          <FormControlLabel
            key={option}
            control={
              <Checkbox
                checked={chosen.includes(option)}
                onChange={(_, on) => onChange(field.options.filter(o => (o === option ? on : chosen.includes(o))))}
              />
            }
            label={option}
          />
        ))}
      </Box>
      <FormHelperText>{fault ?? field.help ?? ' '}</FormHelperText>
    </FormControl>
  );
}
