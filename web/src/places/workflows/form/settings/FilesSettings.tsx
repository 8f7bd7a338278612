import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { FieldOf } from '@north-pebble/core/form';
import { type FileKind, fileKinds, largestFile, usualLargest } from '@north-pebble/core/form';
import type { SettingsProps } from './settings.ts';

/** Which files a field takes: of which kinds, how large, and of several how many. */
export function FilesSettings({ field, change }: SettingsProps<FieldOf<'files' | 'document'>>) {
  const numberFrom = (text: string, most: number) => {
    const n = Math.round(Number(text));
    return text.trim() === '' || !(n >= 1) ? undefined : Math.min(n, most);
  };
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 140px 140px' }, gap: 1 }}>
      <TextField
        select
        size="small"
        label="Takes (everything, if empty)"
        value={field.takes ?? []}
        slotProps={{ select: { multiple: true } }}
        onChange={event => {
          const takes = event.target.value as unknown as FileKind[];
          change({ takes: takes.length > 0 ? takes : undefined });
        }}
      >
        {fileKinds.map(kind => (
          <MenuItem key={kind} value={kind}>
            {kind}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        size="small"
        type="number"
        label="Up to, in MB"
        placeholder={String(usualLargest)}
        value={field.largest ?? ''}
        slotProps={{ inputLabel: { shrink: true }, htmlInput: { min: 1, max: largestFile } }}
        onChange={event => change({ largest: numberFrom(event.target.value, largestFile) })}
      />
      {field.kind === 'files' && (
        <TextField
          size="small"
          type="number"
          label="At most, files"
          placeholder="20"
          value={field.most ?? ''}
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { min: 1, max: 20 } }}
          onChange={event => change({ most: numberFrom(event.target.value, 20) })}
        />
      )}
    </Box>
  );
}

export function DocumentSettings(props: SettingsProps<FieldOf<'document'>>) {
  const { field, change } = props;
  return (
    <>
      <FormControlLabel
        control={<Checkbox checked={field.expires} onChange={(_, on) => change({ expires: on })} />}
        label="It has a day on which it expires"
      />
      <FormControlLabel
        control={
          <Checkbox
            checked={field.numbered ?? false}
            onChange={(_, on) => change({ numbered: on ? true : undefined })}
          />
        }
        label="Its number is asked for; others see the last letters of it"
      />
      <FormControlLabel
        control={
          <Checkbox checked={field.issued ?? false} onChange={(_, on) => change({ issued: on ? true : undefined })} />
        }
        label="The day it was issued is asked for"
      />
      <FilesSettings {...props} />
    </>
  );
}
