/** The columns of a table in a form, or of a list to pick from: put in their order, named, each with its kind. */
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import TextField from '@mui/material/TextField';
import { type Column, columnKinds, idFrom, usualCurrency } from '@north-pebble/core/form';
import { ItemList } from './ItemList.tsx';

type Props = {
  columns: readonly Column[];
  most: number;
  /** Whether there may be none. */
  mayBeNone?: boolean;
  /** Whether columns can be for the public page of the list. */
  mayBeOutside?: boolean;
  onChange: (columns: Column[]) => void;
};

export function ColumnsField({ columns, most, mayBeNone = false, mayBeOutside = false, onChange }: Props) {
  const put = (at: number, change: Partial<Column>) =>
    onChange(columns.map((c, i) => (i === at ? { ...c, ...change } : c)));
  return (
    <>
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
              const { options: _, currency: __, ...rest } = columns[at] as Column;
              if (kind)
                onChange(
                  columns.map((c, i) =>
                    i === at ? { ...rest, kind, ...(kind === 'choice' ? { options: ['One', 'Another'] } : {}) } : c,
                  ),
                );
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
      {mayBeOutside &&
        columns.map((column, at) => (
          <FormControlLabel
            key={`${column.id} outside`}
            control={
              <Checkbox
                size="small"
                checked={column.outside === true}
                onChange={(_, on) => put(at, { outside: on ? true : undefined })}
              />
            }
            label={`Anybody outside may read ${column.label}`}
          />
        ))}
      {columns.map((column, at) =>
        column.kind === 'choice' ? (
          <ItemList
            key={column.id}
            label={`Choices of ${column.label}`}
            one="choice"
            items={column.options ?? []}
            onChange={items => items.length > 0 && put(at, { options: items.map(item => item.words) })}
          />
        ) : column.kind === 'money' ? (
          <TextField
            key={column.id}
            size="small"
            label={`Currency of ${column.label}`}
            value={column.currency ?? usualCurrency}
            onChange={event => {
              const currency = event.target.value.toUpperCase().slice(0, 3);
              if (/^[A-Z]{3}$/.test(currency)) put(at, { currency });
            }}
            sx={{ mt: 1, maxWidth: 220 }}
          />
        ) : null,
      )}
    </>
  );
}
