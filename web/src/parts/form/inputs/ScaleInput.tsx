import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import Typography from '@mui/material/Typography';
import type { FieldOf } from '@north-pebble/core/form';
import { useId } from 'react';
import { FieldGroup } from '../FieldGroup.tsx';
import type { FieldProps } from '../fieldFrame.ts';

/** The marks in a row, with the words for the lowest before it and those for the highest after it. */
export function ScaleInput(props: FieldProps<FieldOf<'scale'>>) {
  const { field, value, onChange, closed } = props;
  const id = useId();
  const { least, most, leastWords, mostWords } = field;
  const marks = Array.from({ length: Math.max(0, most - least + 1) }, (_, n) => least + n);
  const meaning = (mark: number) =>
    mark === least ? `${mark}, ${leastWords}` : mark === most ? `${mark}, ${mostWords}` : String(mark);
  return (
    <FieldGroup {...props} labelId={id}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 1.5, mt: 0.5 }}>
        <Typography variant="body2" color="textSecondary" aria-hidden>
          {leastWords}
        </Typography>
        <RadioGroup
          row
          aria-labelledby={id}
          value={typeof value === 'number' ? String(value) : ''}
          onChange={(_, mark) => onChange(Number(mark))}
        >
          {marks.map(mark => (
            <FormControlLabel
              key={mark}
              value={String(mark)}
              labelPlacement="top"
              label={mark}
              control={<Radio size="small" slotProps={{ input: { 'aria-label': meaning(mark) } }} />}
              sx={{ mx: 0, minWidth: 34, fontVariantNumeric: 'tabular-nums' }}
            />
          ))}
        </RadioGroup>
        <Typography variant="body2" color="textSecondary" aria-hidden>
          {mostWords}
        </Typography>
        {!field.required && !closed && typeof value === 'number' && (
          <Button size="small" onClick={() => onChange(null)}>
            No mark
          </Button>
        )}
      </Box>
    </FieldGroup>
  );
}
