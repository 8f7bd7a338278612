/** What will happen by itself in the days ahead: how much on which day, and the nearest in words. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { ComingView } from '@north-pebble/contract';
import { momentWords, shortDate } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { scaleBand, scaleLinear } from 'd3-scale';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { comingQuery } from '../../api/queries.ts';
import { useHere, useYear } from '../../parts/frame/session.ts';

const size = { width: 560, height: 84, foot: 16, head: 14 };
const few = 8;

const Label = ({ x, y, words }: { x: number; y: number; words: string }) => (
  <text x={x} y={y} textAnchor="middle" fontSize={10.5} fill="var(--mui-palette-text-secondary)">
    {words}
  </text>
);

/** A bar a day, limits below, reminders and waits above them. */
function Days({ days }: { days: ComingView['days'] }) {
  const year = useYear();
  const total = (day: ComingView['days'][number]) => day.limits + day.reminders + day.others;
  const across = scaleBand(
    days.map(day => day.day),
    [0, size.width],
  ).padding(0.3);
  const up = scaleLinear([0, Math.max(1, ...days.map(total))], [0, size.height - size.foot - size.head]);
  const said = days
    .filter(day => total(day) > 0)
    .map(day => `${shortDate(day.day, year)}: ${day.limits} limits, ${day.reminders} reminders, ${day.others} waits`);
  const floor = size.height - size.foot;
  return (
    <svg
      viewBox={`0 0 ${size.width} ${size.height}`}
      width="100%"
      style={{ maxWidth: size.width }}
      role="img"
      aria-label={`What comes by day. ${said.join('; ')}`}
    >
      {days.map((day, i) => {
        const x = across(day.day) ?? 0;
        const width = across.bandwidth();
        const [limits, all] = [up(day.limits), up(total(day))];
        return (
          <g key={day.day}>
            <rect
              x={x}
              y={floor - all}
              width={width}
              height={all}
              rx={3}
              fill="var(--mui-palette-text-secondary)"
              fillOpacity={0.35}
            />
            <rect
              x={x}
              y={floor - limits}
              width={width}
              height={limits}
              rx={3}
              fill="var(--mui-palette-warning-main)"
            />
            <line x1={x} x2={x + width} y1={floor} y2={floor} stroke="var(--mui-palette-divider)" />
            {total(day) > 0 && <Label x={x + width / 2} y={floor - all - 4} words={String(total(day))} />}
            {(i % 2 === 0 || days.length < 8) && (
              <Label x={x + width / 2} y={size.height - 3} words={shortDate(day.day, year)} />
            )}
          </g>
        );
      })}
    </svg>
  );
}

export function Coming() {
  const { self } = useHere();
  const year = useYear();
  const { data } = useQuery(comingQuery);
  const [all, setAll] = useState(false);
  if (!data) return null;
  const shown = all ? data.next : data.next.slice(0, few);
  return (
    <Box component="section" aria-label="What comes by itself" sx={{ mt: 4, maxWidth: 1080 }}>
      <Typography variant="h2" component="h2" sx={{ mb: 0.5 }}>
        What comes by itself
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1.5 }}>
        {data.next.length === 0
          ? 'No limit and no reminder in the next two weeks.'
          : 'Limits that pass if nobody answers, in amber; reminders and waits that end, in grey.'}
      </Typography>
      {data.next.length > 0 && <Days days={data.days} />}
      <Box component="ol" aria-label="The nearest" sx={{ listStyle: 'none', m: 0, mt: 1, p: 0, fontSize: 14 }}>
        {shown.map(one => (
          <Box
            component="li"
            key={`${one.request}-${one.at}-${one.what}-${one.holderName}`}
            sx={{
              display: 'grid',
              gridTemplateColumns: { xs: '1fr', sm: '132px minmax(0, 2.2fr) minmax(0, 1fr)' },
              gap: { sm: 1.5 },
              py: 0.6,
              borderBottom: '1px solid',
              borderColor: 'divider',
            }}
          >
            <Box sx={{ color: one.what === 'limit' ? 'warning.main' : 'text.secondary' }}>
              {momentWords(one.at, self.zone, year)}
            </Box>
            <Box sx={{ minWidth: 0, overflowWrap: 'anywhere' }}>
              <b>{one.askerName}</b>,{' '}
              <Link component={RouterLink} to={`/requests/${one.request}`}>
                {one.title}
              </Link>
              {one.holderName && ` with ${one.holderName}`}
            </Box>
            <Box sx={{ color: 'text.secondary' }}>{one.words}</Box>
          </Box>
        ))}
      </Box>
      {data.next.length > few && (
        <Button size="small" sx={{ mt: 1 }} onClick={() => setAll(!all)}>
          {all ? 'Show fewer' : `Show ${data.next.length - few} more`}
        </Button>
      )}
    </Box>
  );
}
