/** The days of a cycle, one under the other, each drawn from midnight to noon of the day after. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import {
  addDays,
  type CivilDate,
  type CycleDay,
  type CycleHalf,
  cycleEnd,
  drawn,
  moved,
  partOf,
  shortDate,
  stretched,
  withDays,
  withPart,
} from '@north-pebble/core/time';
import { type KeyboardEvent, memo, type PointerEvent, useCallback, useEffect, useRef, useState } from 'react';

const halves = ['am', 'pm'] as const;
const halfNames = { am: 'first part', pm: 'second part' } as const;
const at = (minutes: number): string => `${(minutes / cycleEnd) * 100}%`;
const clock = (minutes: number): string => {
  const hours = `${String(Math.floor(minutes / 60) % 24).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
  return minutes > 24 * 60 ? `${hours} the day after` : hours;
};
const said = (day: CycleDay, half: CycleHalf): string => {
  const part = partOf(day, half);
  if (!part) return 'free';
  const counted = day.days?.[half];
  return `${clock(part.start)} to ${clock(part.end)}, counts ${counted === undefined || counted === null ? 'half a day' : `${counted} of a day`}`;
};

type RowProps = {
  n: number;
  day: CycleDay;
  name: string;
  isBad: boolean;
  hasBefore: boolean;
  onDay: (n: number, day: CycleDay) => void;
  onCopy: (n: number) => void;
  onDrop: (n: number) => void;
};

const Row = memo(function Row({ n, day, name, isBad, hasBefore, onDay, onCopy, onDrop }: RowProps) {
  const strip = useRef<HTMLDivElement>(null);
  const [drawing, setDrawing] = useState<{ from: number; to: number } | null>(null);
  const minutesAt = (event: PointerEvent): number => {
    const box = strip.current?.getBoundingClientRect();
    return box ? Math.max(0, Math.min(cycleEnd, ((event.clientX - box.left) / box.width) * cycleEnd)) : 0;
  };
  const keys = (half: CycleHalf) => (event: KeyboardEvent) => {
    const by = event.key === 'ArrowRight' ? 15 : event.key === 'ArrowLeft' ? -15 : 0;
    if (by !== 0) onDay(n, event.shiftKey ? stretched(day, half, by) : moved(day, half, by));
    else if (event.key === 'Delete' || event.key === 'Backspace') onDay(n, withPart(day, half, null));
    else return;
    event.preventDefault();
  };
  const typeDays = (half: CycleHalf) => (text: string) => {
    const counted = text.trim() === '' ? null : Number(text.replace(',', '.'));
    if (counted === null || (Number.isFinite(counted) && counted >= 0 && counted <= 10))
      onDay(n, withDays(day, half, counted));
  };
  return (
    <Box
      role="group"
      aria-label={`Day ${n + 1}${name ? `, ${name}` : ''}`}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '74px minmax(220px, 1fr) auto', md: '92px minmax(0, 1fr) 148px auto' },
        columnGap: 1,
        alignItems: 'center',
        py: 0.4,
      }}
    >
      <Box sx={{ fontSize: 13, color: isBad ? 'error.main' : 'text.secondary' }}>
        <Box component="span" sx={{ fontWeight: 600, color: isBad ? 'error.main' : 'text.primary' }}>
          {n + 1}
        </Box>{' '}
        {name}
      </Box>
      <Box
        ref={strip}
        sx={{
          position: 'relative',
          height: 30,
          borderRadius: '6px',
          border: '1px solid',
          borderColor: isBad ? 'error.main' : 'divider',
          // A line at every sixth hour, and the hours of the day after in another shade.
          background: theme =>
            `linear-gradient(90deg, transparent 66.66%, color-mix(in srgb, ${theme.vars?.palette.text.primary} 6%, transparent) 66.66%), repeating-linear-gradient(90deg, ${theme.vars?.palette.divider} 0 1px, transparent 1px 16.666%)`,
        }}
      >
        {!(day.am && day.pm) && (
          <Box
            component="button"
            type="button"
            aria-label={`Day ${n + 1}: put a part in`}
            onKeyDown={event => {
              if (event.key !== 'Enter' && event.key !== ' ') return;
              event.preventDefault();
              onDay(n, drawn(day, day.am || day.pm ? 13 * 60 : 9 * 60, day.am || day.pm ? 17 * 60 : 12 * 60 + 30));
            }}
            onPointerDown={event => {
              event.currentTarget.setPointerCapture(event.pointerId);
              const from = minutesAt(event);
              setDrawing({ from, to: from });
            }}
            onPointerMove={event => drawing && setDrawing({ ...drawing, to: minutesAt(event) })}
            onPointerUp={() => {
              if (!drawing) return;
              if (Math.abs(drawing.to - drawing.from) >= 10) onDay(n, drawn(day, drawing.from, drawing.to));
              setDrawing(null);
            }}
            onPointerCancel={() => setDrawing(null)}
            sx={{
              position: 'absolute',
              inset: 0,
              width: '100%',
              border: 0,
              p: 0,
              bgcolor: 'transparent',
              cursor: 'crosshair',
              touchAction: 'none',
            }}
          />
        )}
        {drawing && (
          <Box
            sx={{
              position: 'absolute',
              top: 3,
              bottom: 3,
              left: at(Math.min(drawing.from, drawing.to)),
              width: at(Math.abs(drawing.to - drawing.from)),
              bgcolor: 'primary.main',
              opacity: 0.35,
              borderRadius: '5px',
              pointerEvents: 'none',
            }}
          />
        )}
        {halves.map(half => {
          const part = partOf(day, half);
          return (
            part && (
              <Box
                key={half}
                component="button"
                type="button"
                aria-label={`Day ${n + 1}, ${halfNames[half]}: ${said(day, half)}`}
                onKeyDown={keys(half)}
                title={said(day, half)}
                sx={{
                  position: 'absolute',
                  top: 3,
                  bottom: 3,
                  left: at(part.start),
                  width: at(Math.min(part.end, cycleEnd) - part.start),
                  border: 0,
                  p: 0,
                  overflow: 'hidden',
                  whiteSpace: 'nowrap',
                  font: 'inherit',
                  fontSize: 12,
                  color: 'primary.contrastText',
                  bgcolor: 'primary.main',
                  borderRadius: '5px',
                  cursor: 'pointer',
                  '&:focus-visible': { outline: '3px solid', outlineColor: 'secondary.main', outlineOffset: 1 },
                }}
              >
                {day[half]?.[0]}–{clock(part.end).slice(0, 5)}
              </Box>
            )
          );
        })}
      </Box>
      <Box sx={{ display: { xs: 'none', md: 'flex' }, gap: 0.5 }}>
        {halves.map(half => (
          <TextField
            key={half}
            variant="standard"
            disabled={!day[half]}
            value={day[half] ? (day.days?.[half] ?? '') : ''}
            placeholder={day[half] ? '0.5' : ''}
            onChange={event => typeDays(half)(event.target.value)}
            slotProps={{
              htmlInput: {
                'aria-label': `Day ${n + 1}, ${halfNames[half]}: what it counts in days`,
                inputMode: 'decimal',
                style: { fontSize: 13, textAlign: 'right' },
              },
            }}
            sx={{ width: 68 }}
          />
        ))}
      </Box>
      <Box sx={{ display: 'flex', whiteSpace: 'nowrap' }}>
        <Button
          size="small"
          disabled={!hasBefore}
          onClick={() => onCopy(n)}
          aria-label={`Day ${n + 1}: as the day before`}
          sx={{ minWidth: 0, px: 0.75 }}
        >
          as before
        </Button>
        <Button
          size="small"
          onClick={() => onDrop(n)}
          aria-label={`Day ${n + 1}: take it out of the cycle`}
          sx={{ minWidth: 0, px: 0.75 }}
        >
          out
        </Button>
      </Box>
    </Box>
  );
});

type Props = {
  cycle: readonly CycleDay[];
  anchor: CivilDate | '';
  /** The day that is at fault, from 0; −1 for none. */
  bad: number;
  onChange: (cycle: CycleDay[]) => void;
};

export function CycleDays({ cycle, anchor, bad, onChange }: Props) {
  // What the rows call reads the cycle as it is then, so that a row is drawn again only when its own day changes.
  const latest = useRef({ cycle, onChange });
  useEffect(() => {
    latest.current = { cycle, onChange };
  });
  const onDay = useCallback((n: number, day: CycleDay) => {
    const { cycle: now, onChange: tell } = latest.current;
    tell(now.map((one, i) => (i === n ? day : one)));
  }, []);
  const onCopy = useCallback((n: number) => {
    const { cycle: now, onChange: tell } = latest.current;
    tell(now.map((one, i) => (i === n ? (now[n - 1] ?? {}) : one)));
  }, []);
  const onDrop = useCallback((n: number) => {
    const { cycle: now, onChange: tell } = latest.current;
    if (now.length > 1) tell(now.filter((_, i) => i !== n));
  }, []);
  return (
    <Box sx={{ overflowX: 'auto' }}>
      <Box
        aria-hidden
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '74px minmax(220px, 1fr) auto', md: '92px minmax(0, 1fr) 148px auto' },
          columnGap: 1,
          fontSize: 12,
          color: 'text.secondary',
        }}
      >
        <span />
        <Box sx={{ position: 'relative', height: 18 }}>
          {[0, 6, 12, 18, 24, 30].map(hour => (
            <Box component="span" key={hour} sx={{ position: 'absolute', left: at(hour * 60), pl: 0.25 }}>
              {hour === 24 ? 'day after' : `${String(hour % 24).padStart(2, '0')}`}
            </Box>
          ))}
        </Box>
        <Box sx={{ display: { xs: 'none', md: 'block' } }}>counts in days</Box>
        <Box sx={{ visibility: 'hidden', whiteSpace: 'nowrap' }}>as before out ……</Box>
      </Box>
      {cycle.map((day, n) => (
        <Row
          // biome-ignore lint/suspicious/noArrayIndexKey: a day of a cycle is known by its number alone
          key={n}
          n={n}
          day={day}
          name={anchor === '' ? '' : (shortDate(addDays(anchor, n), 0).split(' ')[0] ?? '')}
          isBad={n === bad}
          hasBefore={n > 0}
          onDay={onDay}
          onCopy={onCopy}
          onDrop={onDrop}
        />
      ))}
    </Box>
  );
}
