import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type FieldOf, signings } from '@north-pebble/core/form';
import type { SettingsProps } from './settings.ts';

const words: Record<(typeof signings)[number], string> = {
  read: 'it is read, and said to be read',
  here: 'it is signed in the page',
  'by hand': 'it is printed, signed by hand and given back',
  either: 'it is signed in the page or by hand, as they like',
};

/** A paper: its words or the file that it is, and how it is signed. */
export function PaperSettings({ field, definition, change }: SettingsProps<FieldOf<'paper'>>) {
  const files = definition.form.fields.filter(one => one.kind === 'files' || one.kind === 'document');
  return (
    <>
      <TextField
        select
        size="small"
        label="How it is dealt with"
        value={field.signed}
        onChange={event => change({ signed: event.target.value })}
      >
        {signings.map(signing => (
          <MenuItem key={signing} value={signing}>
            {words[signing]}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        size="small"
        label="The paper is"
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        value={field.from ?? ''}
        onChange={event => change({ from: event.target.value || undefined })}
      >
        <MenuItem value="">made of the words below</MenuItem>
        {files.map(one => (
          <MenuItem key={one.id} value={one.id}>
            the PDF in {one.label}
          </MenuItem>
        ))}
      </TextField>
      {field.from === undefined && (
        <TextField
          size="small"
          multiline
          minRows={4}
          maxRows={14}
          label="Words; names in braces are filled in"
          value={field.text}
          onChange={event => change({ text: event.target.value })}
          helperText="The first line is its title. An empty line begins a paragraph."
        />
      )}
    </>
  );
}

/** What is agreed to, and the number of its version: a new one asks everybody anew. */
export function ConsentSettings({ field, change }: SettingsProps<FieldOf<'consent'>>) {
  return (
    <>
      <TextField
        size="small"
        multiline
        minRows={2}
        label="What is agreed to"
        value={field.text}
        onChange={event => change({ text: event.target.value })}
      />
      <TextField
        size="small"
        label="Version"
        value={field.version}
        onChange={event => change({ version: event.target.value })}
        helperText="Give it another one when the words change: who agreed to the old words did not agree to these."
      />
    </>
  );
}
