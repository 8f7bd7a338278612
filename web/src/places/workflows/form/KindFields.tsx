/** The settings of a field that only its kind has: every kind with what draws them, or nothing to set. */
import type { FieldKind, FieldOf } from '@north-pebble/core/form';
import type { ComponentType } from 'react';
import { ChoiceSettings, SeveralSettings } from './settings/ChoiceSettings.tsx';
import { DocumentSettings, FilesSettings } from './settings/FilesSettings.tsx';
import { FixedTextSettings } from './settings/FixedTextSettings.tsx';
import { MoneySettings, NumberSettings } from './settings/NumberSettings.tsx';
import { ConsentSettings, PaperSettings } from './settings/PaperSettings.tsx';
import { PickSettings } from './settings/PickSettings.tsx';
import { ScaleSettings } from './settings/ScaleSettings.tsx';
import type { SettingsProps } from './settings/settings.ts';
import { TableSettings } from './settings/TableSettings.tsx';

const settings: { readonly [K in FieldKind]: ComponentType<SettingsProps<FieldOf<K>>> | null } = {
  text: null,
  'long text': null,
  'whole number': NumberSettings,
  decimal: NumberSettings,
  money: MoneySettings,
  scale: ScaleSettings,
  'yes/no': null,
  choice: ChoiceSettings,
  'several choices': SeveralSettings,
  date: null,
  time: null,
  'leave span': null,
  'date range': null,
  person: null,
  pick: PickSettings,
  files: FilesSettings,
  table: TableSettings,
  document: DocumentSettings,
  paper: PaperSettings,
  consent: ConsentSettings,
  'fixed text': FixedTextSettings,
};

export function KindFields(props: SettingsProps) {
  // The field and what draws its settings are of one kind, which the types cannot follow.
  const Settings = settings[props.field.kind] as ComponentType<SettingsProps> | null;
  return Settings && <Settings {...props} />;
}
