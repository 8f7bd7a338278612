/** Eight weeks of a pattern, with the holidays of a place, from Monday of this week. */
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { MeasuresView } from '@north-pebble/contract';
import {
  addDays,
  type CivilDate,
  type CycleDay,
  calendarIndex,
  fromDay,
  fullDate,
  schedule,
  shortDate,
  toDay,
  weekday,
} from '@north-pebble/core/time';
import { useMemo, useState } from 'react';
import { ChoiceField } from '../../../parts/change/ChoiceField.tsx';

const weeks = 8;
type Props = { cycle: readonly CycleDay[]; anchor: CivilDate; view: MeasuresView };

export function EightWeeks({ cycle, anchor, view }: Props) {
  const [place, setPlace] = useState(view.places[0]?.id ?? '');
  const monday = toDay(view.today) - weekday(toDay(view.today)) + 1;
  const days = useMemo(() => {
    const on = schedule([{ from: '1900-01-01' as CivilDate, anchor, cycle: [...cycle] }]);
    const calendar = view.places.find(one => one.id === place)?.calendar ?? '';
    const off = calendarIndex(view.calendars, calendar);
    return Array.from({ length: weeks * 7 }, (_, n) => {
      const day = monday + n;
      const { am, pm } = on(day);
      return { date: fromDay(day), am: am !== null, pm: pm !== null, off: off.get(day) };
    });
  }, [cycle, anchor, place, view, monday]);
  const words = (day: (typeof days)[number]): string => {
    const work = day.am && day.pm ? 'works' : day.am || day.pm ? 'works one part' : 'free';
    return `${fullDate(day.date)}: ${day.off ? `${day.off.name}, ` : ''}${day.off?.am && day.off.pm ? 'holiday' : work}`;
  };
  return (
    <Box component="section" aria-label="Eight weeks" sx={{ mt: 3 }}>
      <Box
        sx={{
          display: 'flex',
          gap: 2,
          alignItems: 'center',
          flexWrap: 'wrap',
          mb: 1,
          '& .MuiTextField-root': { minWidth: 200 },
        }}
      >
        <Typography variant="h3" component="h3">
          Eight weeks of it
        </Typography>
        <ChoiceField label="With the holidays of" value={place} options={view.places} onChange={setPlace} />
      </Box>
      <Box
        component="ol"
        sx={{
          listStyle: 'none',
          p: 0,
          m: 0,
          display: 'grid',
          gridTemplateColumns: { xs: 'repeat(7, minmax(34px, 1fr))', md: 'repeat(14, minmax(34px, 1fr))' },
          gap: '3px',
          maxWidth: 760,
        }}
      >
        {days.map(day => {
          const whole = day.off?.am && day.off.pm;
          const worked = (half: 'am' | 'pm') => day[half] && !day.off?.[half];
          return (
            <Box
              component="li"
              key={day.date}
              aria-label={words(day)}
              title={words(day)}
              sx={{
                position: 'relative',
                height: 34,
                borderRadius: '5px',
                border: '1px solid',
                borderColor: day.date === view.today ? 'primary.main' : whole ? 'warning.main' : 'divider',
                overflow: 'hidden',
                fontSize: 11,
                color: 'text.secondary',
              }}
            >
              {(['am', 'pm'] as const).map(half => (
                <Box
                  key={half}
                  sx={{
                    position: 'absolute',
                    insetInline: 0,
                    height: '50%',
                    top: half === 'am' ? 0 : '50%',
                    bgcolor: worked(half)
                      ? 'color-mix(in srgb, var(--mui-palette-primary-main) 24%, transparent)'
                      : 'transparent',
                  }}
                />
              ))}
              <Box component="span" sx={{ position: 'absolute', left: 4, top: 2, color: 'text.primary' }}>
                {shortDate(day.date, Number(day.date.slice(0, 4))).split(' ')[1]}
              </Box>
              {day.off && (
                <Box
                  component="span"
                  sx={{ position: 'absolute', right: 4, bottom: 1, color: 'warning.main', fontWeight: 700 }}
                >
                  H
                </Box>
              )}
            </Box>
          );
        })}
      </Box>
      <Typography variant="body2" color="textSecondary" sx={{ mt: 0.75 }}>
        From {fullDate(addDays(fromDay(monday), 0))}. The upper half of a day is its first part; H is a holiday.
      </Typography>
    </Box>
  );
}
