import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import type { FieldOf } from '@north-pebble/core/form';
import { useState } from 'react';
import type { SettingsProps } from './settings.ts';

/** A number; what is typed stands there until it is one, and what was set comes back when it is left as none. */
export function NumberSetting({
  label,
  value,
  fault,
  onChange,
}: {
  label: string;
  value: number | undefined;
  fault?: string | undefined;
  onChange: (value: number | undefined) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? String(value ?? '');
  const isNumber = text.trim() !== '' && Number.isFinite(Number(text));
  return (
    <TextField
      size="small"
      label={label}
      value={text}
      error={fault !== undefined || (text.trim() !== '' && !isNumber)}
      helperText={fault}
      onBlur={() => setTyped(null)}
      onChange={event => {
        const { value: next } = event.target;
        setTyped(next);
        if (next.trim() === '') onChange(undefined);
        else if (Number.isFinite(Number(next))) onChange(Number(next));
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
