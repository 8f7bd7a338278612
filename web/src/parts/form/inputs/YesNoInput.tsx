import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import { useId } from 'react';
import { FieldGroup } from '../FieldGroup.tsx';
import type { FieldProps } from '../fieldFrame.ts';

export function YesNoInput(props: FieldProps) {
  const { value, onChange } = props;
  const id = useId();
  return (
    <FieldGroup {...props} labelId={id}>
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
    </FieldGroup>
  );
}
