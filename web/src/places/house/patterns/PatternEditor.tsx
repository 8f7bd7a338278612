/** A pattern edited by drawing, by keys and by typing; what follows is shown before it is saved. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { MeasuresView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import {
  amountWords,
  asWholeDay,
  type CivilDate,
  type CycleDay,
  cycleMinutes,
  wholeShift,
} from '@north-pebble/core/time';
import { useState } from 'react';
import { ChangeEnd } from '../../../parts/change/ChangeEnd.tsx';
import { useChange } from '../../../parts/change/useChange.ts';
import { DayField } from '../../../parts/form/DayField.tsx';
import { Note } from '../../../parts/Notes.tsx';
import { CycleDays } from './CycleDays.tsx';
import { EightWeeks } from './EightWeeks.tsx';

type Pattern = MeasuresView['patterns'][number];
const shiftsTitle = (days: readonly number[]): string =>
  days.length === 1
    ? `The shift on day ${days[0]} counts half a day of leave`
    : `The shifts on days ${days.slice(0, 12).join(', ')}${days.length > 12 ? ' and more' : ''} count half a day of leave each`;

type Props = { pattern: Pattern | null; view: MeasuresView; onDone: (id: string) => void };

const week: CycleDay[] = Array.from({ length: 7 }, () => ({}));
const longest = 366;

export function PatternEditor({ pattern, view, onDone }: Props) {
  const [name, setName] = useState(pattern?.name ?? '');
  const [anchor, setAnchor] = useState<string>(pattern?.anchor ?? '');
  const [cycle, setCycle] = useState<CycleDay[]>(pattern ? [...pattern.cycle] : week);
  const [past, setPast] = useState<CycleDay[][]>([]);
  const isOther =
    pattern === null ||
    name !== pattern.name ||
    anchor !== pattern.anchor ||
    JSON.stringify(cycle) !== JSON.stringify(pattern.cycle);
  const change =
    isOther && name.trim() !== '' && anchor !== ''
      ? ({ what: 'pattern', pattern: { id: pattern?.id ?? 'new', name, anchor, cycle } } as unknown as HouseChange)
      : null;
  const changing = useChange(change, () => onDone(pattern?.id ?? ''));
  const { faultOf } = changing;
  const put = (next: CycleDay[]) => {
    setPast([...past.slice(-49), cycle]);
    setCycle(next);
    changing.anew();
  };
  const undo = () => {
    const before = past.at(-1);
    if (!before) return;
    setCycle(before);
    setPast(past.slice(0, -1));
    changing.anew();
  };
  const bad = cycle.findIndex((_, i) => faultOf(`cycle.${i}`) !== undefined);
  const hours = cycleMinutes(cycle) / 60;
  const shifts = cycle.flatMap((day, n) => (wholeShift(day) === null ? [] : [n + 1]));
  return (
    <Box component="form" aria-label={pattern ? pattern.name : 'A new pattern'} onSubmit={changing.send}>
      <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: { xs: '1fr', sm: '1.4fr 1fr' }, maxWidth: 720 }}>
        <TextField
          label="Name"
          value={name}
          onChange={event => {
            setName(event.target.value);
            changing.anew();
          }}
          error={faultOf('pattern.name') !== undefined}
          helperText={faultOf('pattern.name')}
          autoComplete="off"
        />
        <DayField
          label="Its first day falls on"
          date={anchor}
          onDate={date => {
            setAnchor(date);
            changing.anew();
          }}
          help="Any day on which the cycle begins."
        />
      </Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline', flexWrap: 'wrap', mt: 2.5 }}>
        <Typography variant="h3" component="h2" sx={{ flex: 1 }}>
          {cycle.length} days, {amountWords(hours)} hours in a cycle
          {cycle.length !== 7 && `, ${amountWords(Math.round((hours * 700) / cycle.length) / 100)} a week on average`}
        </Typography>
        <Button size="small" onClick={undo} disabled={past.length === 0}>
          Undo
        </Button>
        <Button size="small" onClick={() => put([...cycle, {}])} disabled={cycle.length >= longest}>
          One day more
        </Button>
        <Button
          size="small"
          onClick={() => put([...cycle, ...cycle].slice(0, longest))}
          disabled={cycle.length * 2 > longest}
        >
          The same once more
        </Button>
      </Box>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1 }}>
        Draw a part on a day, or press Enter on it. Arrows move a part by a quarter of an hour, with Shift they move its
        end; Delete takes it away.
      </Typography>
      <CycleDays cycle={cycle} anchor={anchor as CivilDate | ''} bad={bad} onChange={put} />
      <FormControlLabel
        control={
          <Checkbox
            checked={cycle.every(day => day.holidays === 'worked')}
            indeterminate={cycle.some(day => day.holidays === 'worked') && cycle.some(day => !day.holidays)}
            onChange={(_, on) =>
              put(cycle.map(({ holidays: _h, ...day }) => (on ? { ...day, holidays: 'worked' as const } : day)))
            }
          />
        }
        label="Holidays are worked"
      />
      {shifts.length > 0 && (
        <Box sx={{ maxWidth: 720 }}>
          <Note tone="waiting" title={shiftsTitle(shifts)}>
            A part that is alone on its day counts half a day unless something else is said, and this one is a whole
            shift.{' '}
            <Button size="small" onClick={() => put(cycle.map(asWholeDay))}>
              Count {shifts.length === 1 ? 'it' : 'them'} as whole days
            </Button>
          </Note>
        </Box>
      )}
      {bad >= 0 && (
        <Typography role="alert" variant="body2" color="error" sx={{ mt: 1 }}>
          {faultOf(`cycle.${bad}`)}
        </Typography>
      )}
      {isOther && (
        <Box sx={{ display: 'grid', gap: 2, mt: 2, maxWidth: 720 }}>
          <ChangeEnd changing={changing} verb="Save the pattern" onCancel={() => onDone(pattern?.id ?? '')} />
        </Box>
      )}
      {anchor !== '' && <EightWeeks cycle={cycle} anchor={anchor as CivilDate} view={view} />}
    </Box>
  );
}
