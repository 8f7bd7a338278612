/** One field of a form, whatever its kind, as whoever fills it in sees it. */
import AddOutlined from '@mui/icons-material/AddOutlined';
import CloseOutlined from '@mui/icons-material/CloseOutlined';
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControl from '@mui/material/FormControl';
import FormControlLabel from '@mui/material/FormControlLabel';
import FormHelperText from '@mui/material/FormHelperText';
import FormLabel from '@mui/material/FormLabel';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { type Column, type FieldOf, listById, rowsToPick } from '@north-pebble/core/form';
import { useId } from 'react';
import { DayField, TimeField } from './DayField.tsx';
import { FilesInput } from './FilesInput.tsx';
import { edge, type FieldProps, labelOf } from './fieldFrame.ts';
import { SpanField } from './SpanField.tsx';

function Words({ field, value, onChange, fault, closed, highlighted }: FieldProps) {
  const long = field.kind === 'long text';
  return (
    <TextField
      fullWidth
      multiline={long}
      minRows={long ? 2 : undefined}
      label={labelOf(field, closed)}
      value={value ?? ''}
      disabled={closed}
      error={fault !== undefined}
      helperText={fault ?? field.help ?? ' '}
      onChange={event => onChange(event.target.value)}
      sx={edge(highlighted)}
    />
  );
}

const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');

function DayInput({ field, value, onChange, fault, closed, highlighted }: FieldProps) {
  return (
    <Box sx={edge(highlighted)}>
      <DayField
        label={labelOf(field, closed)}
        date={textOf(value)}
        disabled={closed}
        fault={fault !== undefined}
        help={fault ?? field.help ?? ' '}
        onDate={onChange}
      />
    </Box>
  );
}

function TimeInput({ field, value, onChange, fault, closed, highlighted }: FieldProps) {
  return (
    <Box sx={edge(highlighted)}>
      <TimeField
        label={labelOf(field, closed)}
        time={textOf(value)}
        disabled={closed}
        fault={fault !== undefined}
        help={fault ?? field.help ?? ' '}
        onTime={onChange}
      />
    </Box>
  );
}

/** What is typed as a number while it is one, and the words while it is not. */
export const numberFrom = (text: string): number | string => {
  const plain = text.trim().replace(',', '.');
  return plain !== '' && Number.isFinite(Number(plain)) && !/[.]$/.test(plain) ? Number(plain) : text;
};

function Numeric(props: FieldProps) {
  const { field, value, onChange, fault, closed, highlighted } = props;
  const unit = field.kind === 'money' ? field.currency : undefined;
  return (
    <TextField
      fullWidth
      label={unit ? `${labelOf(field, closed)}, ${unit}` : labelOf(field, closed)}
      value={value ?? ''}
      disabled={closed}
      error={fault !== undefined}
      helperText={fault ?? field.help ?? ' '}
      onChange={event => onChange(event.target.value === '' ? null : numberFrom(event.target.value))}
      sx={edge(highlighted)}
      slotProps={{ htmlInput: { inputMode: field.kind === 'whole number' ? 'numeric' : 'decimal' } }}
    />
  );
}

type Option = { id: string; name: string };

function OneOf({
  field,
  value,
  onChange,
  fault,
  closed,
  highlighted,
  options,
}: FieldProps & { options: readonly Option[] }) {
  // What was chosen before and is not offered any more still shows.
  const known = options.some(o => o.id === value);
  return (
    <TextField
      select
      fullWidth
      label={labelOf(field, closed)}
      value={known ? value : ''}
      disabled={closed || (options.length === 1 && field.required && known)}
      error={fault !== undefined}
      helperText={fault ?? field.help ?? ' '}
      onChange={event => onChange(event.target.value || null)}
      sx={edge(highlighted)}
    >
      {!field.required && <MenuItem value="">nothing</MenuItem>}
      {options.length === 0 && <MenuItem disabled>There is nothing to choose yet.</MenuItem>}
      {options.map(option => (
        <MenuItem key={option.id} value={option.id}>
          {option.name}
        </MenuItem>
      ))}
    </TextField>
  );
}

function Found({
  field,
  value,
  onChange,
  fault,
  closed,
  highlighted,
  options,
}: FieldProps & { options: readonly Option[] }) {
  return (
    <Autocomplete
      options={options as Option[]}
      value={options.find(o => o.id === value) ?? null}
      disabled={closed}
      getOptionLabel={o => o.name}
      getOptionKey={o => o.id}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      onChange={(_, option) => onChange(option?.id ?? null)}
      sx={edge(highlighted)}
      renderInput={params => (
        <TextField
          {...params}
          label={labelOf(field, closed)}
          error={fault !== undefined}
          helperText={fault ?? field.help ?? ' '}
        />
      )}
    />
  );
}

function YesNo({ field, value, onChange, fault, closed, highlighted }: FieldProps) {
  const id = useId();
  return (
    <FormControl disabled={closed} error={fault !== undefined} sx={edge(highlighted)}>
      <FormLabel id={id}>{labelOf(field, closed)}</FormLabel>
      <RadioGroup
        row
        aria-labelledby={id}
        value={value === true ? 'yes' : value === false ? 'no' : ''}
        onChange={(_, v) => onChange(v === 'yes')}
        sx={{ mb: -1 }}
      >
        <FormControlLabel value="yes" control={<Radio />} label="yes" />
        <FormControlLabel value="no" control={<Radio />} label="no" />
      </RadioGroup>
      <FormHelperText>{fault ?? field.help ?? ' '}</FormHelperText>
    </FormControl>
  );
}

function Several({ field, value, onChange, fault, closed, highlighted }: FieldProps<FieldOf<'several choices'>>) {
  const chosen = Array.isArray(value) ? (value as string[]) : [];
  return (
    <FormControl component="fieldset" disabled={closed} error={fault !== undefined} sx={edge(highlighted)}>
      <FormLabel component="legend">{labelOf(field, closed)}</FormLabel>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 2, mb: -1 }}>
        {field.options.map(option => (
          <FormControlLabel
            key={option}
            control={
              <Checkbox
                checked={chosen.includes(option)}
                onChange={(_, on) => onChange(field.options.filter(o => (o === option ? on : chosen.includes(o))))}
              />
            }
            label={option}
          />
        ))}
      </Box>
      <FormHelperText>{fault ?? field.help ?? ' '}</FormHelperText>
    </FormControl>
  );
}

function DateRange(props: FieldProps) {
  const { field, value, onChange, fault, closed, highlighted } = props;
  const range = typeof value === 'object' && value !== null ? (value as { from?: string; to?: string }) : {};
  const end = (which: 'from' | 'to', label: string) => (
    <DayField
      label={label}
      date={range[which] ?? ''}
      disabled={closed}
      fault={fault !== undefined}
      {...(which === 'to' && range.from ? { start: range.from } : {})}
      onDate={date => onChange({ ...range, [which]: date })}
    />
  );
  return (
    <FormControl component="fieldset" disabled={closed} error={fault !== undefined} sx={edge(highlighted)}>
      <FormLabel component="legend" sx={{ mb: 1 }}>
        {labelOf(field, closed)}
      </FormLabel>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        {end('from', 'First day')}
        {end('to', 'Last day')}
      </Box>
      <FormHelperText>{fault ?? field.help ?? ' '}</FormHelperText>
    </FormControl>
  );
}

function cellValue(column: Column, text: string): unknown {
  if (text === '') return null;
  return column.kind === 'number' || column.kind === 'money' ? numberFrom(text) : text;
}

function TableInput({ field, value, onChange, fault, closed, highlighted }: FieldProps<FieldOf<'table'>>) {
  const rows = Array.isArray(value) ? (value as Record<string, unknown>[]) : [];
  const change = (at: number, column: string, cell: unknown) =>
    onChange(rows.map((row, i) => (i === at ? { ...row, [column]: cell } : row)));
  const empty = Object.fromEntries(field.columns.map(c => [c.id, null]));
  return (
    <FormControl component="fieldset" disabled={closed} error={fault !== undefined} sx={edge(highlighted)}>
      <FormLabel component="legend" sx={{ mb: 1 }}>
        {labelOf(field, closed)}
      </FormLabel>
      {rows.map((row, i) => (
        <Box
          // biome-ignore lint/suspicious/noArrayIndexKey: rows have no identity besides their place
          key={i}
          sx={{
            display: 'grid',
            // On a narrow screen the cells of a row stand below one another, and the row is closed off with a line.
            gridTemplateColumns: {
              xs: 'minmax(0, 1fr) 36px',
              sm: `repeat(${field.columns.length}, minmax(0, 1fr)) 36px`,
            },
            '& > *': { gridColumn: { xs: 1, sm: 'auto' } },
            gap: 1,
            mb: 1,
            pb: { xs: 1.5, sm: 0 },
            borderBottom: { xs: '1px solid', sm: 'none' },
            borderColor: { xs: 'divider' },
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
            ) : (
              <TextField
                key={column.id}
                size="small"
                label={column.label}
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
            sx={{ gridColumn: { xs: '2 !important', sm: 'auto !important' }, gridRow: { xs: 1, sm: 'auto' } }}
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
      <FormHelperText>{fault ?? field.help ?? ' '}</FormHelperText>
    </FormControl>
  );
}

export function FieldInput(props: FieldProps) {
  const { field, house } = props;
  switch (field.kind) {
    case 'leave span':
      return (
        <SpanField
          label={field.label}
          value={props.value}
          onChange={props.onChange}
          times={house.leaveTypes.some(type => type.times && Object.values(props.answers).includes(type.id))}
          disabled={props.closed}
          fault={props.fault}
          help={field.help}
          highlighted={props.highlighted}
        />
      );
    case 'choice': {
      const options =
        field.options === 'leave types'
          ? house.leaveTypes.filter(t => field.only?.includes(t.id) ?? true)
          : field.options.map(name => ({ id: name, name }));
      return <OneOf {...props} options={options} />;
    }
    case 'pick': {
      const rows = rowsToPick(field, listById(house.lists, field.list), props.answers);
      const options = rows.map(row => ({ id: row.id, name: row.title }));
      return options.length > 12 ? <Found {...props} options={options} /> : <OneOf {...props} options={options} />;
    }
    case 'person':
      return <Found {...props} options={house.people} />;
    case 'several choices':
      return <Several {...props} field={field} />;
    case 'yes/no':
      return <YesNo {...props} />;
    case 'whole number':
    case 'decimal':
    case 'money':
      return <Numeric {...props} />;
    case 'date':
      return <DayInput {...props} />;
    case 'time':
      return <TimeInput {...props} />;
    case 'date range':
      return <DateRange {...props} />;
    case 'files':
      return <FilesInput {...props} field={field} />;
    case 'document':
      return <FilesInput {...props} field={field} />;
    case 'table':
      return <TableInput {...props} field={field} />;
    case 'fixed text':
      return (
        <Typography variant="body2" color="textSecondary" sx={{ whiteSpace: 'pre-wrap' }}>
          {field.text}
        </Typography>
      );
    default:
      return <Words {...props} />;
  }
}
