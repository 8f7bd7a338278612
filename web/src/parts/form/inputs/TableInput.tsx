import AddOutlined from '@mui/icons-material/AddOutlined';
import CloseOutlined from '@mui/icons-material/CloseOutlined';
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Column, FieldOf } from '@north-pebble/core/form';
import { DayField } from '../DayField.tsx';
import { FieldGroup } from '../FieldGroup.tsx';
import type { FieldProps } from '../fieldFrame.ts';
import { numberFrom } from './NumberInput.tsx';
import { textOf } from './textOf.ts';

function cellValue(column: Column, text: string): unknown {
  if (text === '') return null;
  return column.kind === 'number' || column.kind === 'money' ? numberFrom(text) : text;
}

export function TableInput(props: FieldProps<FieldOf<'table'>>) {
  const { field, value, onChange, closed, house } = props;
  const rows = Array.isArray(value) ? (value as Record<string, unknown>[]) : [];
  const change = (at: number, column: string, cell: unknown) =>
    onChange(rows.map((row, i) => (i === at ? { ...row, [column]: cell } : row)));
  const places = house.lists.find(list => list.id === 'places')?.rows.map(row => row.title) ?? [];
  // Many cells stand in as many lines as they need, each row in a frame of its own.
  const isWide = field.columns.length > 4;
  const empty = Object.fromEntries(field.columns.map(c => [c.id, null]));
  return (
    <FieldGroup {...props}>
      {rows.map((row, i) => (
        <Box
          // biome-ignore lint/suspicious/noArrayIndexKey: rows have no identity besides their place
          key={i}
          sx={{
            display: 'grid',
            // On a narrow screen the cells of a row stand below one another, and the row is closed off with a line.
            gridTemplateColumns: {
              xs: 'minmax(0, 1fr) 36px',
              sm: isWide ? 'repeat(3, minmax(0, 1fr)) 36px' : `repeat(${field.columns.length}, minmax(0, 1fr)) 36px`,
            },
            '& > *': { gridColumn: { xs: 1, sm: 'auto' } },
            // Each line of three begins at the left again, beside the button that stands at the end of the first.
            ...(isWide ? { '& > :nth-child(3n+1)': { gridColumn: { xs: 1, sm: 1 } } } : {}),
            gap: 1,
            mb: 1,
            pb: { xs: 1.5, sm: isWide ? 1.5 : 0 },
            borderBottom: { xs: '1px solid', sm: isWide ? '1px solid' : 'none' },
            borderColor: { xs: 'divider', sm: 'divider' },
          }}
        >
          {field.columns.map(column =>
            column.kind === 'yes/no' ? (
              <FormControlLabel
                key={column.id}
                control={<Checkbox checked={row[column.id] === true} onChange={(_, on) => change(i, column.id, on)} />}
                label={column.label}
              />
            ) : column.kind === 'date' ? (
              <DayField
                key={column.id}
                label={column.label}
                date={textOf(row[column.id])}
                disabled={closed}
                onDate={date => change(i, column.id, date || null)}
              />
            ) : column.kind === 'place' ? (
              <Autocomplete
                key={column.id}
                freeSolo
                size="small"
                options={places}
                disabled={closed}
                inputValue={textOf(row[column.id])}
                onInputChange={(_, text) => change(i, column.id, text || null)}
                renderInput={props => <TextField {...props} label={column.label} />}
              />
            ) : column.kind === 'choice' ? (
              <TextField
                key={column.id}
                select
                size="small"
                label={column.label}
                value={row[column.id] ?? ''}
                disabled={closed}
                onChange={event => change(i, column.id, event.target.value || null)}
              >
                <MenuItem value="">–</MenuItem>
                {(column.options ?? []).map(word => (
                  <MenuItem key={word} value={word}>
                    {word}
                  </MenuItem>
                ))}
              </TextField>
            ) : (
              <TextField
                key={column.id}
                size="small"
                label={column.label}
                {...(column.kind === 'time' ? { type: 'time', slotProps: { inputLabel: { shrink: true } } } : {})}
                value={row[column.id] ?? ''}
                disabled={closed}
                onChange={event => change(i, column.id, cellValue(column, event.target.value))}
              />
            ),
          )}
          <IconButton
            aria-label={`Remove row ${i + 1}`}
            disabled={closed}
            onClick={() => onChange(rows.filter((_, n) => n !== i))}
            sx={{
              gridColumn: { xs: '2 !important', sm: isWide ? '4 !important' : 'auto !important' },
              gridRow: { xs: 1, sm: isWide ? 1 : 'auto' },
            }}
          >
            <CloseOutlined fontSize="small" />
          </IconButton>
        </Box>
      ))}
      {!closed && (
        <Button startIcon={<AddOutlined />} onClick={() => onChange([...rows, empty])} sx={{ alignSelf: 'start' }}>
          Add a row
        </Button>
      )}
    </FieldGroup>
  );
}
