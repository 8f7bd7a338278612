import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { FieldOf } from '@north-pebble/core/form';
import { isAsked, standingLists } from '@north-pebble/core/form';
import { useAround } from '../../steps/editors/shared.tsx';
import type { SettingsProps } from './settings.ts';

export function PickSettings({ field, definition, change }: SettingsProps<FieldOf<'pick'>>) {
  const { lists } = useAround();
  const all = [...standingLists, ...lists];
  const columns = lists.find(l => l.id === field.list)?.columns ?? [];
  const others = definition.form.fields.filter(f => f.id !== field.id && isAsked(f));
  return (
    <>
      <TextField
        select
        size="small"
        label="List"
        value={all.some(l => l.id === field.list) ? field.list : ''}
        onChange={event => change({ list: event.target.value, where: undefined })}
      >
        {all.map(l => (
          <MenuItem key={l.id} value={l.id}>
            {l.name}
          </MenuItem>
        ))}
      </TextField>
      {columns.length > 0 && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
          <TextField
            select
            size="small"
            label="Only rows whose"
            value={field.where?.column ?? ''}
            onChange={event =>
              change({
                where:
                  event.target.value && others[0]
                    ? { column: event.target.value, field: field.where?.field ?? others[0].id }
                    : undefined,
              })
            }
          >
            <MenuItem value="">every row</MenuItem>
            {columns.map(c => (
              <MenuItem key={c.id} value={c.id}>
                {c.label}
              </MenuItem>
            ))}
          </TextField>
          {field.where && (
            <TextField
              select
              size="small"
              label="is the answer to"
              value={field.where.field}
              onChange={event => change({ where: { column: field.where?.column, field: event.target.value } })}
            >
              {others.map(f => (
                <MenuItem key={f.id} value={f.id}>
                  {f.label}
                </MenuItem>
              ))}
            </TextField>
          )}
        </Box>
      )}
    </>
  );
}
