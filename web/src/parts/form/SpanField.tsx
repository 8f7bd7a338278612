/** A leave span: first and last day, each whole or from midday, to midday; with times where the kind of leave allows them. */

import Box from '@mui/material/Box';
import FormHelperText from '@mui/material/FormHelperText';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { DayField, TimeField } from './DayField.tsx';
import { edge } from './fieldFrame.ts';

type Half = 'am' | 'pm';
/** What is being typed: days and times may still be missing or not readable. */
export type HalfTyped = {
  from: { date: string; half: Half };
  to: { date: string; half: Half };
  /** The last day is not known yet. */
  open?: true;
};
export type TimeTyped = { from: { date: string; time: string }; to: { date: string; time: string } };
export type SpanTyped = HalfTyped | TimeTyped;

export const isTimeTyped = (typed: SpanTyped): typed is TimeTyped => 'time' in typed.from;

type End = Partial<{ date: string; half: Half; time: string }>;

export function asTyped(value: unknown): SpanTyped {
  const { from = {}, to = {}, open } = (value ?? {}) as { from?: End; to?: End; open?: boolean };
  const days = { from: from.date ?? '', to: to.date ?? '' };
  if (from.time !== undefined || to.time !== undefined)
    return { from: { date: days.from, time: from.time ?? '' }, to: { date: days.to, time: to.time ?? '' } };
  return {
    from: { date: days.from, half: from.half ?? 'am' },
    to: { date: days.to, half: to.half ?? 'pm' },
    ...(open ? { open: true as const } : {}),
  };
}

/** Whether a span is typed to its end. */
export const isWholeSpan = (typed: SpanTyped): boolean =>
  Boolean(typed.from.date && typed.to.date && (!isTimeTyped(typed) || (typed.from.time && typed.to.time)));

/** The span once it is typed to its end. */
export const wholeSpan = (value: unknown): SpanTyped | undefined => {
  const typed = asTyped(value);
  return isWholeSpan(typed) ? typed : undefined;
};

type Props = {
  label: string;
  value: unknown;
  onChange: (value: SpanTyped) => void;
  /** Whether it may be asked for with times. */
  times?: boolean;
  /** Whether its last day may be told later. */
  openEnd?: boolean;
  disabled?: boolean;
  fault?: string | undefined;
  help?: string | undefined;
  highlighted?: boolean;
};

export function SpanField(props: Props) {
  const {
    label,
    value,
    onChange,
    times = false,
    openEnd = false,
    disabled = false,
    fault,
    help,
    highlighted = false,
  } = props;
  const typed = asTyped(value);
  const timed = isTimeTyped(typed);
  const isOpen = !timed && typed.open === true;
  const choose = (end: 'from' | 'to', choice: Half | 'time' | 'open') => {
    const days = { from: typed.from.date, to: typed.to.date };
    if (choice === 'open') {
      const half = timed ? 'am' : typed.from.half;
      return onChange({ from: { date: days.from, half }, to: { date: days.from, half: 'pm' }, open: true });
    }
    if (choice === 'time')
      onChange({ from: { date: days.from, time: '' }, to: { date: days.to || days.from, time: '' } });
    else if (timed) {
      const halves = { from: 'am' as Half, to: 'pm' as Half, [end]: choice };
      onChange({ from: { date: days.from, half: halves.from }, to: { date: days.to, half: halves.to } });
    } else {
      const { open, ...known } = typed;
      // Whoever says when it ends knows it; another beginning leaves the end as it is.
      onChange({ ...known, [end]: { ...known[end], half: choice }, ...(open && end === 'from' ? { open } : {}) });
    }
  };
  const part = (end: 'from' | 'to', choices: [value: Half, words: string][]) => (
    <TextField
      select
      label={end === 'from' ? 'Begins' : 'Ends'}
      value={timed ? 'time' : end === 'to' && isOpen ? 'open' : typed[end].half}
      disabled={disabled}
      onChange={event => choose(end, event.target.value as Half | 'time' | 'open')}
    >
      {choices.map(([half, words]) => (
        <MenuItem key={half} value={half}>
          {words}
        </MenuItem>
      ))}
      {(times || timed) && <MenuItem value="time">at a time</MenuItem>}
      {end === 'to' && (openEnd || isOpen) && <MenuItem value="open">not known yet</MenuItem>}
    </TextField>
  );
  const time = (end: 'from' | 'to') =>
    timed && (
      <TimeField
        label={end === 'from' ? 'From' : 'To'}
        time={typed[end].time}
        disabled={disabled}
        fault={fault !== undefined}
        onTime={to => onChange({ ...typed, [end]: { ...typed[end], time: to } })}
      />
    );
  const day = (end: 'from' | 'to', date: string) => {
    const next = { ...typed, [end]: { ...typed[end], date } } as SpanTyped;
    // A first day is a whole span of one day until more is said.
    const isAlsoLast = end === 'from' && (!next.to.date || isOpen);
    onChange(isAlsoLast ? ({ ...next, to: { ...next.to, date } } as SpanTyped) : next);
  };
  const columns = timed ? 'minmax(0, 1fr) 150px 110px' : 'minmax(0, 1fr) 170px';
  return (
    <Box role="group" aria-label={label} sx={edge(highlighted)}>
      <Typography variant="body2" sx={{ fontWeight: 600, mb: 1 }}>
        {label}
      </Typography>
      <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { xs: '1fr', sm: columns } }}>
        <DayField
          label="First day"
          date={typed.from.date}
          disabled={disabled}
          fault={fault !== undefined}
          onDate={date => day('from', date)}
        />
        {part('from', [
          ['am', 'in the morning'],
          ['pm', 'at midday'],
        ])}
        {time('from')}
        {isOpen ? (
          <Typography variant="body2" color="textSecondary" sx={{ alignSelf: 'center' }}>
            Say the last day when you know it.
          </Typography>
        ) : (
          <DayField
            label="Last day"
            date={typed.to.date}
            start={typed.from.date}
            disabled={disabled}
            fault={fault !== undefined}
            onDate={date => day('to', date)}
          />
        )}
        {part('to', [
          ['pm', 'in the evening'],
          ['am', 'at midday'],
        ])}
        {time('to')}
      </Box>
      <FormHelperText error={fault !== undefined} role={fault ? 'alert' : undefined}>
        {fault ?? help ?? ' '}
      </FormHelperText>
    </Box>
  );
}
