import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { FieldOf } from '@north-pebble/core/form';
import { ItemList } from '../../../../parts/form/ItemList.tsx';
import { useAround } from '../../steps/editors/shared.tsx';
import type { SettingsProps } from './settings.ts';

export function ChoiceSettings({ field, change }: SettingsProps<FieldOf<'choice'>>) {
  const { leaveTypes } = useAround();
  const { options, only } = field;
  return (
    <>
      <FormControlLabel
        control={
          <Checkbox
            checked={options === 'leave types'}
            onChange={(_, on) => change({ options: on ? 'leave types' : ['First', 'Second'], only: undefined })}
          />
        }
        label="The house’s leave types"
      />
      {options === 'leave types' ? (
        <TextField
          select
          size="small"
          label="Only these"
          value={only ?? []}
          slotProps={{ select: { multiple: true } }}
          onChange={event => {
            const chosen = event.target.value as unknown as string[];
            change({ only: chosen.length > 0 ? chosen : undefined });
          }}
        >
          {leaveTypes.map(t => (
            <MenuItem key={t.id} value={t.id}>
              {t.name}
            </MenuItem>
          ))}
        </TextField>
      ) : (
        <OptionsField key={field.id} options={options} change={change} />
      )}
    </>
  );
}

function OptionsField({ options, change }: { options: readonly string[]; change: SettingsProps['change'] }) {
  return (
    <ItemList
      label="Choices"
      one="choice"
      items={options as string[]}
      onChange={items => items.length > 0 && change({ options: items.map(item => item.words) })}
    />
  );
}

export function SeveralSettings({ field, change }: SettingsProps<FieldOf<'several choices'>>) {
  return (
    <>
      <OptionsField key={field.id} options={field.options} change={change} />
      <FormControlLabel
        control={<Checkbox checked={field.all ?? false} onChange={(_, on) => change({ all: on ? true : undefined })} />}
        label="A checklist: all of them must be ticked"
      />
    </>
  );
}
