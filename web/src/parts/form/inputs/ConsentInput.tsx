import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import type { FieldOf } from '@north-pebble/core/form';
import { FieldGroup } from '../FieldGroup.tsx';
import type { FieldProps } from '../fieldFrame.ts';

/** A text that is agreed to by ticking it; when, is said by the house. */
export function ConsentInput(props: FieldProps<FieldOf<'consent'>>) {
  const { field, value, onChange } = props;
  const given = (value ?? null) as { version?: string } | null;
  return (
    <FieldGroup {...props}>
      <FormControlLabel
        control={
          <Checkbox
            checked={given?.version === field.version}
            onChange={(_, on) =>
              onChange(on ? { version: field.version, at: `${new Date().toISOString().slice(0, 19)}Z` } : null)
            }
          />
        }
        label={field.text}
      />
    </FieldGroup>
  );
}

/** Papers are signed by a personal link; here it is only said that there is one. */
export function PaperNote({ field }: FieldProps<FieldOf<'paper'>>) {
  return (
    <Typography variant="body2" color="textSecondary">
      {field.label}: a paper that is signed by a personal link.
    </Typography>
  );
}
