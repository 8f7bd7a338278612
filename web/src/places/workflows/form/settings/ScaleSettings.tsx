import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import type { FieldOf } from '@north-pebble/core/form';
import { NumberSetting } from './NumberSettings.tsx';
import type { SettingsProps } from './settings.ts';

export function ScaleSettings({ field, change }: SettingsProps<FieldOf<'scale'>>) {
  const words = (key: 'leastWords' | 'mostWords', label: string) => (
    <TextField
      size="small"
      label={label}
      value={field[key]}
      error={field[key].trim() === ''}
      onChange={event => change({ [key]: event.target.value })}
    />
  );
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr', gap: 1 }}>
      <NumberSetting
        label="Lowest mark"
        value={field.least}
        onChange={least => least !== undefined && change({ least })}
      />
      {words('leastWords', 'What it means')}
      <NumberSetting
        label="Highest mark"
        value={field.most}
        fault={
          field.most <= field.least
            ? 'Above the lowest.'
            : field.most - field.least > 20
              ? 'At most 21 marks.'
              : undefined
        }
        onChange={most => most !== undefined && change({ most })}
      />
      {words('mostWords', 'What it means')}
    </Box>
  );
}
