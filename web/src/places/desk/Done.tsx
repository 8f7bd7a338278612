/** What I did: the last week by day, and a small chart of my weeks. */

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { DeskView } from '@north-pebble/contract';
import { civilDateAt, dateWords, fullDate, shortDate } from '@north-pebble/core/time';
import { scaleBand, scaleLinear } from 'd3-scale';
import { Link as RouterLink } from 'react-router';
import { useYear } from '../../parts/frame/session.ts';

const size = { width: 320, height: 64, foot: 14 };

/** A bar a week; the words below say what a screen reader says. */
function Weeks({ weeks }: { weeks: DeskView['weeks'] }) {
  const year = useYear();
  const most = Math.max(1, ...weeks.map(week => week.done));
  const across = scaleBand(
    weeks.map(week => week.from),
    [0, size.width],
  ).padding(0.25);
  const up = scaleLinear([0, most], [0, size.height - size.foot - 12]);
  const said = weeks.map(week => `${week.done} in the week from ${shortDate(week.from, year)}`).join(', ');
  return (
    <svg width={size.width} height={size.height} role="img" aria-label={`What you did by week: ${said}`}>
      {weeks.map((week, i) => {
        const height = up(week.done);
        const x = across(week.from) ?? 0;
        const last = i === weeks.length - 1;
        return (
          <g key={week.from}>
            <title>{`${week.done} in the week from ${fullDate(week.from)}`}</title>
            <rect
              x={x}
              y={size.height - size.foot - height}
              width={across.bandwidth()}
              height={Math.max(height, 1)}
              rx={3}
              fill={last ? 'var(--mui-palette-primary-main)' : 'var(--mui-palette-text-secondary)'}
              fillOpacity={last ? 1 : 0.45}
            />
            {week.done > 0 && (
              <text
                x={x + across.bandwidth() / 2}
                y={size.height - size.foot - height - 3}
                textAnchor="middle"
                fontSize={10.5}
                fill="var(--mui-palette-text-secondary)"
              >
                {week.done}
              </text>
            )}
            {(last || i === 0) && (
              <text
                x={last ? x + across.bandwidth() : x}
                y={size.height - 2}
                textAnchor={last ? 'end' : 'start'}
                fontSize={10.5}
                fill="var(--mui-palette-text-secondary)"
              >
                {last ? 'this week' : shortDate(week.from, year)}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}

export function Done({ desk }: { desk: DeskView }) {
  const year = useYear();
  if (desk.done.length === 0 && desk.weeks.every(week => week.done === 0)) return null;
  let last = '';
  return (
    <Box component="section" sx={{ mt: 4 }} aria-label="What you did this week">
      <Typography variant="overline" component="h2" color="textSecondary">
        What you did this week
      </Typography>
      {desk.done.length === 0 && <Typography color="textSecondary">Nothing yet.</Typography>}
      {desk.done.map(line => {
        const day = dateWords(civilDateAt(line.at, desk.zone), year);
        const heading = day === last ? '' : day;
        last = day;
        return (
          <Box
            key={`${line.request}-${line.at}`}
            sx={{ display: 'grid', gridTemplateColumns: '130px 1fr', fontSize: 13.5, py: 0.35 }}
          >
            <Box sx={{ color: 'text.secondary' }}>{heading}</Box>
            <Link component={RouterLink} to={`/requests/${line.request}`} color="textPrimary" sx={{ fontWeight: 400 }}>
              {line.text}
            </Link>
          </Box>
        );
      })}
      <Box sx={{ mt: 2 }}>
        <Weeks weeks={desk.weeks} />
      </Box>
    </Box>
  );
}
