/** A calendar: days of every year and single days, from a country, from a file, or by hand. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { MeasuresView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { readRuleDay, ruleDayWords } from '@north-pebble/core/movingIn';
import { type CivilDate, fullDate, type HolidayRule, holidaysIn } from '@north-pebble/core/time';
import { useMemo, useState } from 'react';
import { fetched } from '../../../api/fetched.ts';
import { ChangeEnd } from '../../../parts/change/ChangeEnd.tsx';
import { ChoiceField } from '../../../parts/change/ChoiceField.tsx';
import { useChange } from '../../../parts/change/useChange.ts';
import { FileButton } from '../../../parts/FileButton.tsx';
import { DayField } from '../../../parts/form/DayField.tsx';
import { Note } from '../../../parts/Notes.tsx';
import { ReadyCountry } from './ReadyCountry.tsx';

type Calendar = MeasuresView['calendars'][number];
type Single = Calendar['holidays'][number];
/** A rule as it is typed: its day in words. */
type TypedRule = { key: number; name: string; on: string; part: Single['part']; from: string; to: string };

const parts = [
  ['day', 'the whole day'],
  ['am', 'the morning'],
  ['pm', 'the afternoon'],
] as const;
let keys = 0;
const typedOf = ({ name, on, part, from, to }: HolidayRule): TypedRule => ({
  key: ++keys,
  name,
  on: ruleDayWords(on),
  part,
  from: from ? String(from) : '',
  to: to ? String(to) : '',
});

function PartChoice({
  value,
  name,
  onChange,
}: {
  value: Single['part'];
  name: string;
  onChange: (part: Single['part']) => void;
}) {
  return (
    <Select
      size="small"
      variant="standard"
      value={value}
      inputProps={{ 'aria-label': `What of the day is off: ${name}` }}
      onChange={event => onChange(event.target.value as Single['part'])}
    >
      {parts.map(([id, words]) => (
        <MenuItem key={id} value={id}>
          {words}
        </MenuItem>
      ))}
    </Select>
  );
}

type Props = { calendar: Calendar | null; view: MeasuresView; onDone: (id: string) => void };

export function CalendarEditor({ calendar, view, onDone }: Props) {
  const [name, setName] = useState(calendar?.name ?? '');
  const [buildsOn, setBuildsOn] = useState(calendar?.buildsOn ?? '');
  const [rules, setRules] = useState<TypedRule[]>(() => (calendar?.rules ?? []).map(typedOf));
  const [holidays, setHolidays] = useState<readonly (Single & { key: number })[]>(() =>
    (calendar?.holidays ?? []).map(one => ({ ...one, key: ++keys })),
  );
  const [fresh, setFresh] = useState<{ name: string; date: string; part: Single['part'] }>({
    name: '',
    date: '',
    part: 'day',
  });
  const [read, setRead] = useState<{ text: string; left: readonly string[] } | null>(null);
  const [isReady, setIsReady] = useState(false);
  const wrong = rules.filter(one => one.name.trim() === '' || readRuleDay(one.on) === undefined);
  const sent = useMemo(
    () => ({
      id: calendar?.id ?? 'new',
      name,
      buildsOn: buildsOn || null,
      rules: rules.flatMap((one): HolidayRule[] => {
        const on = readRuleDay(one.on);
        const years = { ...(one.from ? { from: Number(one.from) } : {}), ...(one.to ? { to: Number(one.to) } : {}) };
        return on ? [{ name: one.name, part: one.part, on, ...years }] : [];
      }),
      holidays: holidays.map(({ date, part, name: called }) => ({ date, part, name: called })),
    }),
    [calendar, name, buildsOn, rules, holidays],
  );
  const isOther =
    calendar === null ||
    JSON.stringify([sent.name, sent.buildsOn, sent.rules, sent.holidays]) !==
      JSON.stringify([calendar.name, calendar.buildsOn, calendar.rules, calendar.holidays]);
  const change =
    isOther && name.trim() !== '' && wrong.length === 0
      ? ({ what: 'calendar', calendar: sent } as unknown as HouseChange)
      : null;
  const changing = useChange(change, () => onDone(calendar?.id ?? ''));
  const { faultOf, anew } = changing;
  const put =
    <T,>(set: (next: T) => void) =>
    (next: T) => {
      set(next);
      anew();
    };
  const putRule = (key: number, more: Partial<TypedRule>) =>
    put(setRules)(rules.map(one => (one.key === key ? { ...one, ...more } : one)));
  const year = Number(view.today.slice(0, 4));
  const [shownYear, setShownYear] = useState(year);
  const inYear = useMemo(
    () => holidaysIn([...view.calendars, { ...sent, id: '·' }], '·', shownYear),
    [view.calendars, sent, shownYear],
  );
  const addDays = (more: { rules: readonly HolidayRule[]; holidays: readonly Single[] }) => {
    const has = new Set(holidays.map(one => `${one.date} ${one.part}`));
    const words = new Set(rules.map(one => `${one.on} ${one.part}`));
    put(setRules)([...rules, ...more.rules.map(typedOf).filter(one => !words.has(`${one.on} ${one.part}`))]);
    setHolidays([
      ...holidays,
      ...more.holidays.filter(one => !has.has(`${one.date} ${one.part}`)).map(one => ({ ...one, key: ++keys })),
    ]);
  };
  const readFile = async ([file]: readonly File[]) => {
    if (!file) return;
    const { readCalendar } = await fetched(() => import('@north-pebble/core/formats'));
    const found = file.size < 2_000_000 ? readCalendar(await file.text()) : undefined;
    if (!found) {
      setRead({ text: `${file.name} is no calendar file. It begins with BEGIN:VCALENDAR.`, left: [] });
      return;
    }
    addDays(found);
    setRead({
      text: `${found.rules.length + found.holidays.length} days were read from ${file.name}.`,
      left: found.left.map(one => `${one.name}: ${one.why}`),
    });
  };
  return (
    <Box component="form" aria-label={calendar ? calendar.name : 'A new calendar'} onSubmit={changing.send}>
      <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, maxWidth: 720 }}>
        <TextField
          label="Name"
          value={name}
          onChange={event => put(setName)(event.target.value)}
          error={faultOf('calendar.name') !== undefined}
          helperText={faultOf('calendar.name')}
          autoComplete="off"
        />
        <ChoiceField
          label="Builds on"
          value={buildsOn}
          none="no other calendar"
          options={view.calendars.filter(one => one.id !== calendar?.id)}
          onChange={put(setBuildsOn)}
          fault={faultOf('buildsOn')}
        />
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', my: 2 }}>
        <Button onClick={() => setIsReady(!isReady)} aria-expanded={isReady}>
          From a country
        </Button>
        <FileButton accept=".ics,text/calendar" onFiles={readFile}>
          From a calendar file
        </FileButton>
        {calendar && (
          <Button component="a" href={`/api/calendars/${calendar.id}/file.ics`} download>
            Write a calendar file
          </Button>
        )}
      </Box>
      {isReady && (
        <ReadyCountry
          onTake={found => {
            addDays(found);
            if (name === '') setName(found.name);
            setIsReady(false);
          }}
        />
      )}
      {read && (
        <Note tone={read.left.length > 0 ? 'waiting' : 'now'} title={read.text} role="status">
          {read.left.length > 0 && `Not taken over: ${read.left.join(' ')}`}
        </Note>
      )}
      <Typography variant="h3" component="h2">
        Days of every year
      </Typography>
      {rules.length === 0 && (
        <Typography variant="body2" color="textSecondary">
          None yet.
        </Typography>
      )}
      {rules.map(one => {
        const isWrong = one.on !== '' && readRuleDay(one.on) === undefined;
        return (
          <Box
            key={one.key}
            role="group"
            aria-label={one.name || 'A day of every year'}
            sx={{ display: 'flex', gap: 1, alignItems: 'end', flexWrap: 'wrap', py: 0.5 }}
          >
            <TextField
              variant="standard"
              label="Name"
              value={one.name}
              onChange={event => putRule(one.key, { name: event.target.value })}
              sx={{ width: 190 }}
            />
            <TextField
              variant="standard"
              label="On"
              value={one.on}
              onChange={event => putRule(one.key, { on: event.target.value })}
              error={isWrong}
              placeholder="25 December"
              helperText={isWrong ? 'As in 25 December, last Monday of August, Easter + 1.' : undefined}
              sx={{ width: 210 }}
            />
            <PartChoice value={one.part} name={one.name} onChange={part => putRule(one.key, { part })} />
            <TextField
              variant="standard"
              label="First year"
              value={one.from}
              onChange={event => putRule(one.key, { from: event.target.value.replaceAll(/\D/g, '').slice(0, 4) })}
              sx={{ width: 76 }}
            />
            <TextField
              variant="standard"
              label="Last year"
              value={one.to}
              onChange={event => putRule(one.key, { to: event.target.value.replaceAll(/\D/g, '').slice(0, 4) })}
              sx={{ width: 76 }}
            />
            <Button
              size="small"
              aria-label={`Take out ${one.name}`}
              onClick={() => put(setRules)(rules.filter(other => other.key !== one.key))}
            >
              out
            </Button>
          </Box>
        );
      })}
      <Button
        size="small"
        onClick={() => put(setRules)([...rules, { key: ++keys, name: '', on: '', part: 'day', from: '', to: '' }])}
      >
        A day of every year
      </Button>
      <Typography variant="h3" component="h2" sx={{ mt: 2 }}>
        Single days
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {holidays
          .toSorted((a, b) => (a.date < b.date ? -1 : 1))
          .map(one => (
            <Box component="li" key={one.key} sx={{ fontSize: 14.5, py: 0.25 }}>
              {fullDate(one.date)}: {one.name}
              {one.part !== 'day' && `, ${parts.find(([id]) => id === one.part)?.[1]}`}
              <Button
                size="small"
                aria-label={`Take out ${one.name}, ${fullDate(one.date)}`}
                onClick={() => put(setHolidays)(holidays.filter(other => other.key !== one.key))}
              >
                out
              </Button>
            </Box>
          ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'end', flexWrap: 'wrap', mt: 1 }}>
        <Box sx={{ width: 190 }}>
          <DayField
            label="Day"
            date={fresh.date}
            onDate={date => setFresh({ ...fresh, date })}
            fault={faultOf('date') !== undefined}
            help={faultOf('date')}
          />
        </Box>
        <TextField
          label="What it is called"
          value={fresh.name}
          onChange={event => setFresh({ ...fresh, name: event.target.value })}
        />
        <PartChoice value={fresh.part} name="the new day" onChange={part => setFresh({ ...fresh, part })} />
        <Button
          disabled={fresh.date === '' || fresh.name.trim() === ''}
          onClick={() => {
            put(setHolidays)([
              ...holidays,
              { key: ++keys, date: fresh.date as CivilDate, part: fresh.part, name: fresh.name.trim() },
            ]);
            setFresh({ name: '', date: '', part: 'day' });
          }}
        >
          Add the day
        </Button>
      </Box>
      {isOther && (
        <Box sx={{ display: 'grid', gap: 2, mt: 2.5, maxWidth: 720 }}>
          <ChangeEnd changing={changing} verb="Save the calendar" onCancel={() => onDone(calendar?.id ?? '')} />
        </Box>
      )}
      <Box component="section" aria-label={`Holidays of ${shownYear}`} sx={{ mt: 3 }}>
        <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
          <Typography variant="h3" component="h2">
            All of {shownYear}
          </Typography>
          <Button size="small" onClick={() => setShownYear(shownYear - 1)}>
            {shownYear - 1}
          </Button>
          <Button size="small" onClick={() => setShownYear(shownYear + 1)}>
            {shownYear + 1}
          </Button>
        </Box>
        {inYear.length === 0 ? (
          <Typography variant="body2" color="textSecondary">
            No day is off.
          </Typography>
        ) : (
          <Typography variant="body2" component="div" sx={{ columns: { md: 2 }, maxWidth: 760 }}>
            {inYear.map(day => (
              <div key={day.date}>
                {fullDate(day.date)}: {day.name}
                {day.am && day.pm ? '' : day.am ? ' (morning)' : ' (afternoon)'}
              </div>
            ))}
          </Typography>
        )}
      </Box>
    </Box>
  );
}
