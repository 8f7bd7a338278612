import Typography from '@mui/material/Typography';
import type { FieldOf } from '@north-pebble/core/form';
import type { FieldProps } from '../fieldFrame.ts';

export function FixedText({ field }: FieldProps<FieldOf<'fixed text'>>) {
  return (
    <Typography variant="body2" color="textSecondary" sx={{ whiteSpace: 'pre-wrap' }}>
      {field.text}
    </Typography>
  );
}
