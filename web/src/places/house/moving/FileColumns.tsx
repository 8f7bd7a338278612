/** A file as it was read: which table it is, how it writes dates and decimals, and which of its columns is which. */
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Typography from '@mui/material/Typography';
import { dateForms, matched, movingTables, type TableId, tableIds } from '@north-pebble/core/movingIn';
import { ChoiceField } from '../../../parts/change/ChoiceField.tsx';
import type { ReadFile } from './reading.ts';

const dateWords = {
  'year first': '2026-03-13',
  'day first': '13.03.2026',
  'month first': '03/13/2026',
} as const;

type Props = { file: ReadFile; onChange: (file: ReadFile) => void };

export function FileColumns({ file, onChange }: Props) {
  const { table, form, headings, columns, rows } = file;
  const kind = table && movingTables[table];
  const missing = kind ? kind.columns.filter(one => one.needed && !columns.includes(one.id)) : [];
  return (
    <>
      <Typography variant="body2" color="textSecondary">
        {rows.length === 1 ? 'One line' : `${rows.length.toLocaleString('en-GB')} lines`}, read as {file.encoding}
      </Typography>
      <Box
        sx={{
          display: 'grid',
          gap: 2,
          gridTemplateColumns: { xs: '1fr', sm: 'repeat(3, 1fr)' },
          my: 1.5,
          maxWidth: 720,
        }}
      >
        <ChoiceField
          label="Which table it is"
          value={table ?? ''}
          options={tableIds.map(id => ({ id, name: movingTables[id].name }))}
          onChange={id => onChange({ ...file, table: id as TableId, columns: matched(id as TableId, headings) })}
          fault={table ? undefined : 'Its headings fit none. Say which it is.'}
        />
        <ChoiceField
          label="Dates are written"
          value={form.dates}
          options={dateForms.map(id => ({ id, name: dateWords[id] }))}
          onChange={dates => onChange({ ...file, form: { ...form, dates: dates as (typeof dateForms)[number] } })}
        />
        <ChoiceField
          label="Decimals are written"
          value={form.decimal}
          options={[
            { id: '.', name: '0.5' },
            { id: ',', name: '0,5' },
          ]}
          onChange={decimal => onChange({ ...file, form: { ...form, decimal: decimal as '.' | ',' } })}
        />
      </Box>
      {kind && (
        <Box sx={{ overflowX: 'auto' }}>
          <Box
            component="table"
            sx={{
              fontSize: 13.5,
              borderCollapse: 'collapse',
              '& th, & td': {
                textAlign: 'left',
                pr: 2,
                py: 0.4,
                whiteSpace: 'nowrap',
                maxWidth: 200,
                overflow: 'hidden',
                textOverflow: 'ellipsis',
              },
            }}
          >
            <thead>
              <tr>
                {headings.map((heading, n) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: two columns of a file may be called the same
                  <Box component="th" scope="col" key={n} sx={{ fontWeight: 600 }}>
                    {heading || 'no heading'}
                    <div>
                      <Select
                        variant="standard"
                        size="small"
                        displayEmpty
                        value={columns[n] ?? ''}
                        inputProps={{ 'aria-label': `What “${heading}” is` }}
                        onChange={event =>
                          onChange({
                            ...file,
                            columns: columns.map((one, i) =>
                              i === n ? event.target.value || null : one === event.target.value ? null : one,
                            ),
                          })
                        }
                        sx={{ fontSize: 13, color: columns[n] ? 'text.primary' : 'warning.main' }}
                      >
                        <MenuItem value="">left out</MenuItem>
                        {kind.columns.map(one => (
                          <MenuItem key={one.id} value={one.id}>
                            {one.label}
                          </MenuItem>
                        ))}
                        {kind.own && heading.trim() !== '' && (
                          <MenuItem value={heading.trim()}>its own column</MenuItem>
                        )}
                      </Select>
                    </div>
                  </Box>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.slice(0, 3).map((row, n) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: the first lines as they stand
                <Box component="tr" key={n} sx={{ color: 'text.secondary' }}>
                  {headings.map((_, i) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: the first lines as they stand
                    <td key={i}>{row[i]}</td>
                  ))}
                </Box>
              ))}
            </tbody>
          </Box>
        </Box>
      )}
      {missing.length > 0 && (
        <Typography role="alert" variant="body2" color="error" sx={{ mt: 1 }}>
          {missing.length === 1 ? 'A column is' : 'Columns are'} missing: {missing.map(one => one.label).join(', ')}.
          Say which of the file’s it is.
        </Typography>
      )}
    </>
  );
}
