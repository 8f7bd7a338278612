import TextField from '@mui/material/TextField';
import type { FieldOf } from '@north-pebble/core/form';
import type { SettingsProps } from './settings.ts';

export function FixedTextSettings({ field, change }: SettingsProps<FieldOf<'fixed text'>>) {
  return (
    <TextField
      size="small"
      multiline
      minRows={2}
      label="Words"
      value={field.text}
      onChange={event => change({ text: event.target.value })}
    />
  );
}
