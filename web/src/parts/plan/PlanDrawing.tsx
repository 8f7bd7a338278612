/**
 * A plan drawn: time falls down to the date, a column for each holder. A stone is the work; the pale channel behind it
 * runs from the day on which it can be finished to the last on which it may be; the dark line is the chain that decides.
 */
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import useMediaQuery from '@mui/material/useMediaQuery';
import type { PlanLineView, PlanView } from '@north-pebble/contract';
import { scaleLinear } from 'd3-scale';
import { curveBumpY, line as linePath } from 'd3-shape';
import { useMemo } from 'react';
import { ScrollStrip } from '../ScrollStrip.tsx';
import { type PlanStone, planShape } from './drawing.ts';
import { planColour, planStanding, shortDay, spareWords, stateWords } from './planWords.ts';

const ink = 'var(--mui-palette-text-primary)';
const quiet = 'var(--mui-palette-text-secondary)';
const rule = 'var(--mui-palette-divider)';
const paper = 'var(--mui-palette-background-paper)';

const left = 96;
const headHeight = 52;
const leastColumn = 150;
const mostColumn = 230;
/** What the drawing has on a wide screen. */
const room = 872;
const stoneWidth = 26;
const leastRow = 17;

/** A name cut to what a column holds; whole in the title. */
const cut = (text: string, most: number): string =>
  text.length > most ? `${text.slice(0, most - 1).trimEnd()}…` : text;

/** Late is angular, tight has a ring, fine and done are round. */
function Stone({ at, x, y }: { at: PlanStone; x: number; y: (row: number) => number }) {
  const { line, stone } = at;
  const top = y(stone.top) + 2;
  const height = Math.max(20, y(stone.bottom) - y(stone.top) - 4);
  const colour = planColour[line.state];
  const round = line.state === 'late' ? 4 : stoneWidth / 2;
  return (
    <g>
      {line.state === 'tight' && (
        <rect
          x={x - stoneWidth / 2 - 3}
          y={top - 3}
          width={stoneWidth + 6}
          height={height + 6}
          rx={round + 3}
          fill="none"
          stroke={colour}
          strokeWidth={1.5}
        />
      )}
      <rect x={x - stoneWidth / 2} y={top} width={stoneWidth} height={height} rx={round} fill={colour} />
      <text
        x={x}
        y={top + height / 2 + 4}
        textAnchor="middle"
        fill={paper}
        fontWeight={650}
        fontSize={line.number.length > 3 ? 9.5 : 12}
      >
        {line.number}
      </text>
    </g>
  );
}

const underline = (line: PlanLineView, today: PlanView['today']): string =>
  line.days
    ? spareWords(line.days.slack)
    : line.doneAt
      ? `done ${shortDay(line.doneAt.slice(0, 10) as never, today)}`
      : 'done';

export function PlanDrawing({ plan }: { plan: PlanView }) {
  const shape = useMemo(() => planShape(plan), [plan]);
  const isNarrow = useMediaQuery('(max-width: 700px)');
  const rowHeight = Math.max(leastRow, Math.min(26, 420 / Math.max(1, shape.days.length)));
  const rows = shape.days.length;
  const y = scaleLinear([0, rows], [headHeight + 10, headHeight + 10 + rows * rowHeight]);
  const columnWidth = Math.max(
    leastColumn,
    Math.min(isNarrow ? leastColumn : mostColumn, (room - left - 8) / Math.max(1, shape.width)),
  );
  const letters = Math.floor((columnWidth - 56) / 5.7);
  const width = left + Math.max(1, shape.width) * columnWidth + 8;
  const height = y(rows) + 18;
  const x = (column: number) => left + column * columnWidth + 34;
  const byStep = new Map(shape.stones.map(stone => [stone.line.step, stone]));
  const chain = plan.chain.flatMap(step => byStep.get(step) ?? []);
  const bump = linePath<[number, number]>().curve(curveBumpY);
  const links = chain.slice(1).map((to, n) => {
    const from = chain[n];
    const start: [number, number] = [x(from.column), y(from.stone.bottom) - 3];
    const end: [number, number] = [x(to.column), y(to.stone.top) + 3];
    return { key: `${from.line.step} ${to.line.step}`, d: bump([start, end]) ?? '' };
  });
  const label = `The plan back from ${plan.label}, ${shortDay(plan.date, plan.today)}: ${planStanding(plan)}. The same stands in the table.`;
  return (
    <Box sx={{ bgcolor: 'background.paper', border: '1px solid', borderColor: 'divider', borderRadius: '14px', p: 1 }}>
      <ScrollStrip label="The plan back from the date">
        <svg
          viewBox={`0 0 ${width} ${height}`}
          role="img"
          aria-label={label}
          width={width}
          style={{ display: 'block', fontSize: 11.5, maxWidth: 'none' }}
        >
          {shape.columns.map(column => (
            <g key={column.holder}>
              <title>{column.holder}</title>
              <text x={x(column.from) - stoneWidth / 2} y={24} fill={ink} fontWeight={650} fontSize={12.5}>
                {cut(column.holder, Math.floor(((columnWidth - 8) * column.count) / 7))}
              </text>
            </g>
          ))}
          {shape.days.map((day, n) => {
            const toGo = shape.date - n;
            const isMarked = toGo > 0 && toGo % 5 === 0;
            // Not where today or the date is written.
            const isFree = Math.abs(shape.today - n) * rowHeight > 30 && Math.abs(shape.date - n) * rowHeight > 30;
            return (
              <g key={day}>
                <line
                  x1={left - 10}
                  x2={width - 8}
                  y1={y(n)}
                  y2={y(n)}
                  stroke={rule}
                  strokeWidth={isMarked ? 1.2 : 0.5}
                />
                {isMarked && isFree && (
                  <>
                    <text x={8} y={y(n) + 4} fill={ink} fontWeight={650} fontSize={12.5}>
                      {toGo}
                    </text>
                    <text x={8} y={y(n) + 18} fill={quiet}>
                      {shortDay(day, plan.today)}
                    </text>
                  </>
                )}
              </g>
            );
          })}
          {shape.stones.map(({ line, column, channel }) =>
            channel ? (
              <rect
                key={line.step}
                x={x(column) - 8}
                y={y(channel.top)}
                width={16}
                height={Math.max(0, y(channel.bottom) - y(channel.top))}
                rx={8}
                fill={planColour[line.state]}
                opacity={0.16}
              />
            ) : null,
          )}
          {links.map(({ key, d }) => (
            <path key={key} d={d} fill="none" stroke={ink} strokeWidth={2.2} />
          ))}
          {shape.stones.map(stone => (
            <g key={stone.line.step}>
              <title>{`${stone.line.number} ${stone.line.what}: ${stateWords[stone.line.state]}, ${underline(stone.line, plan.today)}`}</title>
              <Stone at={stone} x={x(stone.column)} y={y} />
              <text x={x(stone.column) + stoneWidth / 2 + 6} y={y(stone.stone.top) + 13} fill={ink}>
                {cut(stone.line.what, letters)}
              </text>
              <text x={x(stone.column) + stoneWidth / 2 + 6} y={y(stone.stone.top) + 27} fill={quiet}>
                {cut(
                  underline(stone.line, plan.today).replace('working days', 'days').replace('working day', 'day'),
                  letters,
                )}
              </text>
            </g>
          ))}
          <line
            x1={left - 10}
            x2={width - 8}
            y1={y(shape.today)}
            y2={y(shape.today)}
            stroke="var(--mui-palette-primary-main)"
            strokeWidth={2}
          />
          <g transform={`translate(4 ${y(shape.today) - 9})`}>
            <rect width={64} height={18} rx={9} fill="var(--mui-palette-primary-main)" />
            <text x={32} y={13} textAnchor="middle" fill={paper} fontWeight={600}>
              today
            </text>
          </g>
          <path d={wave(left - 10, width - 8, y(shape.date))} fill="none" stroke={ink} strokeWidth={2} />
          {shape.date !== shape.today && (
            <>
              <text x={8} y={y(shape.date) + 4} fill={ink} fontWeight={650} fontSize={12.5}>
                {cut(plan.label, 13)}
              </text>
              <text x={8} y={y(shape.date) + 18} fill={quiet}>
                {shortDay(plan.date, plan.today)}
              </text>
            </>
          )}
        </svg>
      </ScrollStrip>
      <Typography variant="body2" color="textSecondary" sx={{ px: 1.5, pb: 1, pt: 0.5 }}>
        A stone is the work, as early as it can be done; the pale channel behind it runs to the last day on which it may
        be finished. The dark line is the chain that decides. Late is angular, tight has a ring.
      </Typography>
    </Box>
  );
}

/** The line of the date: a shore. */
function wave(from: number, to: number, y: number): string {
  const step = 90;
  let d = `M${from} ${y}`;
  for (let x = from, n = 0; x < to; x += step, n++) {
    const next = Math.min(to, x + step);
    d += ` Q${(x + next) / 2} ${y + (n % 2 === 0 ? 6 : -6)} ${next} ${y}`;
  }
  return d;
}
