/** The columns of a table in a form, or of a list to pick from: put in their order, named, each with its kind. */
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { type Column, columnKinds, idFrom } from '@north-pebble/core/form';
import { ItemList } from './ItemList.tsx';

type Props = {
  columns: readonly Column[];
  most: number;
  /** Whether there may be none. */
  mayBeNone?: boolean;
  onChange: (columns: Column[]) => void;
};

export function ColumnsField({ columns, most, mayBeNone = false, onChange }: Props) {
  return (
    <ItemList
      label="Columns"
      one="column"
      most={most}
      items={columns.map(c => c.label)}
      onChange={items => {
        const ids = columns.map(c => c.id);
        const next = items.map(({ words, before }): Column => {
          const known = before === null ? undefined : columns[before];
          if (known) return { ...known, label: words };
          const id = idFrom('column', ids);
          ids.push(id);
          return { id, label: words, kind: 'text' };
        });
        if (mayBeNone || next.length > 0) onChange(next);
      }}
      beside={at => (
        <Select
          size="small"
          variant="standard"
          value={columns[at]?.kind ?? 'text'}
          inputProps={{ 'aria-label': `What ${columns[at]?.label ?? 'it'} takes` }}
          onChange={event => {
            const kind = columnKinds.find(k => k === event.target.value);
            if (kind) onChange(columns.map((c, i) => (i === at ? { ...c, kind } : c)));
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
