import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import type { FieldOf } from '@north-pebble/core/form';
import type { SettingsProps } from './settings.ts';

/** A number that may be left open. */
export function NumberSetting({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number | undefined;
  onChange: (value: number | undefined) => void;
}) {
  return (
    <TextField
      size="small"
      label={label}
      value={value ?? ''}
      onChange={event => {
        const { value: text } = event.target;
        onChange(text === '' || Number.isNaN(Number(text)) ? undefined : Number(text));
      }}
    />
  );
}

export function NumberSettings({ field, change }: SettingsProps<FieldOf<'whole number' | 'decimal'>>) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
      <NumberSetting label="At least" value={field.least} onChange={least => change({ least })} />
      <NumberSetting label="At most" value={field.most} onChange={most => change({ most })} />
    </Box>
  );
}

export function MoneySettings({ field, change }: SettingsProps<FieldOf<'money'>>) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
      <TextField
        size="small"
        label="Currency"
        value={field.currency}
        onChange={event =>
          /^[A-Za-z]{0,3}$/.test(event.target.value) && change({ currency: event.target.value.toUpperCase() })
        }
      />
      <NumberSetting label="At most" value={field.most} onChange={most => change({ most })} />
    </Box>
  );
}
