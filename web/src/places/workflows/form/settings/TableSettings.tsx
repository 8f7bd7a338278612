import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import type { FieldOf } from '@north-pebble/core/form';
import { type Column, columnKinds, idFrom } from '@north-pebble/core/form';
import { ItemList } from '../../../../parts/form/ItemList.tsx';
import type { SettingsProps } from './settings.ts';

export function TableSettings({ field, change }: SettingsProps<FieldOf<'table'>>) {
  return (
    <ItemList
      key={field.id}
      label="Columns"
      one="column"
      most={12}
      items={field.columns.map(c => c.label)}
      onChange={items => {
        const ids = field.columns.map(c => c.id);
        const columns = items.map(({ words, before }): Column => {
          const known = before === null ? undefined : field.columns[before];
          if (known) return { ...known, label: words };
          const id = idFrom('column', ids);
          ids.push(id);
          return { id, label: words, kind: 'text' };
        });
        if (columns.length > 0) change({ columns });
      }}
      beside={at => (
        <Select
          size="small"
          variant="standard"
          value={field.columns[at]?.kind ?? 'text'}
          inputProps={{ 'aria-label': `What ${field.columns[at]?.label ?? 'it'} takes` }}
          onChange={event => {
            const kind = columnKinds.find(k => k === event.target.value);
            if (kind) change({ columns: field.columns.map((c, i) => (i === at ? { ...c, kind } : c)) });
          }}
        >
          {columnKinds.map(kind => (
            <MenuItem key={kind} value={kind}>
              {kind}
            </MenuItem>
          ))}
        </Select>
      )}
    />
  );
}
