import FormControl from '@mui/material/FormControl';
import FormControlLabel from '@mui/material/FormControlLabel';
import FormHelperText from '@mui/material/FormHelperText';
import FormLabel from '@mui/material/FormLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import { useId } from 'react';
import { edge, type FieldProps, labelOf } from '../fieldFrame.ts';

export function YesNoInput({ field, value, onChange, fault, closed, highlighted }: FieldProps) {
  const id = useId();
  return (
    <FormControl disabled={closed} error={fault !== undefined} sx={edge(highlighted)}>
      <FormLabel id={id}>{labelOf(field, closed)}</FormLabel>
      <RadioGroup
        row
        aria-labelledby={id}
        value={value === true ? 'yes' : value === false ? 'no' : ''}
        onChange={(_, v) => onChange(v === 'yes')}
        sx={{ mb: -1 }}
      >
        <FormControlLabel value="yes" control={<Radio />} label="yes" />
        <FormControlLabel value="no" control={<Radio />} label="no" />
      </RadioGroup>
      <FormHelperText>{fault ?? field.help ?? ' '}</FormHelperText>
    </FormControl>
  );
}
