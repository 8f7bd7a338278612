/** The balance over the year as steps: solid up to today, dashed for what is ahead. */
import type { StatementOf } from '@north-pebble/core/leave';
import { amountOfUnit, amountWords, monthNames, toDay } from '@north-pebble/core/time';
import { extent } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { curveStepAfter, line } from 'd3-shape';
import { ScrollStrip } from '../../parts/ScrollStrip.tsx';

const width = 720;
const height = 150;
const margin = { left: 34, right: 12, top: 14, bottom: 22 };

type Point = { day: number; balance: number };

/** The balance after each day that moved it; a line of several days is a step a day. */
function pointsOf({ lines, unit }: StatementOf, wanted: StatementOf['unit']): Point[] {
  return lines.flatMap(line => {
    // What is counted in another unit is no height of this line.
    if ((line.unit ?? unit) !== wanted) return [];
    let balance = line.balance - line.amount;
    return (line.days ?? [line]).map(day => {
      balance += day.amount;
      return { day: toDay(day.date), balance };
    });
  });
}

export function BalanceChart({
  statement,
  ahead,
  today,
}: {
  statement: StatementOf;
  ahead: StatementOf;
  today: string;
}) {
  const year = Number(today.slice(0, 4));
  const first = toDay(`${year}-01-01`);
  const last = toDay(`${year}-12-31`);
  const now = toDay(today);
  const before = statement.lines.filter(l => toDay(l.date) < first && l.unit === undefined).at(-1)?.balance ?? 0;
  const past: Point[] = [
    // Of what was counted in another unit, nothing is drawn: the line begins where this one does.
    ...(statement.lines.some(l => l.unit !== undefined && toDay(l.date) >= first)
      ? []
      : [{ day: first, balance: before }]),
    ...pointsOf(statement, statement.unit).filter(p => p.day >= first),
    { day: now, balance: statement.balance },
  ];
  const future: Point[] = [
    { day: now, balance: statement.balance },
    ...pointsOf(ahead, statement.unit).filter(p => p.day > now),
    // A plan in another unit that is to come ends it.
    ...(ahead.unit === statement.unit ? [{ day: last, balance: ahead.balance }] : []),
  ];
  const [low = 0, high = 1] = extent([...past, ...future], p => p.balance);
  const x = scaleLinear([first, last], [margin.left, width - margin.right]);
  const y = scaleLinear([Math.min(0, low), Math.max(1, high)], [height - margin.bottom, margin.top]).nice(4);
  const path = line<Point>()
    .x(p => x(p.day))
    .y(p => y(p.balance))
    .curve(curveStepAfter);
  const label = `Balance over ${year}: ${amountWords(statement.balance)} today, ${amountOfUnit(ahead.balance, ahead.unit)} at the end of the year.`;
  return (
    <ScrollStrip label="The balance over the year">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label={label}
        style={{ width: '100%', minWidth: 320, fontSize: 11, display: 'block' }}
      >
        {y.ticks(4).map(tick => (
          <g key={tick}>
            <line
              x1={margin.left}
              x2={width - margin.right}
              y1={y(tick)}
              y2={y(tick)}
              stroke="var(--mui-palette-divider)"
            />
            <text x={margin.left - 8} y={y(tick) + 4} textAnchor="end" fill="var(--mui-palette-text-secondary)">
              {amountWords(tick)}
            </text>
          </g>
        ))}
        {monthNames.map((month, i) => (
          <text
            key={month}
            x={x(toDay(`${year}-${String(i + 1).padStart(2, '0')}-15`))}
            y={height - 6}
            textAnchor="middle"
            fill="var(--mui-palette-text-secondary)"
          >
            {month.slice(0, 3)}
          </text>
        ))}
        <line
          x1={x(now)}
          x2={x(now)}
          y1={margin.top}
          y2={height - margin.bottom}
          stroke="var(--mui-palette-primary-main)"
          strokeDasharray="2 3"
        />
        <text x={x(now) + 5} y={margin.top + 8} fill="var(--mui-palette-primary-main)">
          today
        </text>
        <path d={path(past) ?? ''} fill="none" stroke="var(--mui-palette-primary-main)" strokeWidth={2.2} />
        <path
          d={path(future) ?? ''}
          fill="none"
          stroke="var(--mui-palette-primary-main)"
          strokeWidth={2}
          strokeDasharray="5 4"
          opacity={0.75}
        />
      </svg>
    </ScrollStrip>
  );
}
