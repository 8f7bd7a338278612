import type { FieldOf } from '@north-pebble/core/form';
import { ColumnsField } from '../../../../parts/form/ColumnsField.tsx';
import type { SettingsProps } from './settings.ts';

export const TableSettings = ({ field, change }: SettingsProps<FieldOf<'table'>>) => (
  <ColumnsField key={field.id} columns={field.columns} most={12} onChange={columns => change({ columns })} />
);
