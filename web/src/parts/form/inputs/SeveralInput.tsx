import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import type { FieldOf } from '@north-pebble/core/form';
import { FieldGroup } from '../FieldGroup.tsx';
import type { FieldProps } from '../fieldFrame.ts';

export function SeveralInput(props: FieldProps<FieldOf<'several choices'>>) {
  const { field, value, onChange } = props;
  const chosen = Array.isArray(value) ? (value as string[]) : [];
  return (
    <FieldGroup {...props}>
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
    </FieldGroup>
  );
}
