/** The days above the rows: months, days and their weekdays, as far as there is room for them. */
import { type CivilDate, fromDay, monthNames, toDay, weekday, yearMonthDay, yearOf } from '@north-pebble/core/time';

const ink = 'var(--mui-palette-text-primary)';
const quiet = 'var(--mui-palette-text-secondary)';
const weekdayLetters = ['M', 'T', 'W', 'T', 'F', 'S', 'S'];
export const headHeight = 46;

/** What the name of a month takes up, whole or in three letters, in pixels. */
const monthRoom = 62;
const shortRoom = 24;
/** Days narrower than this have the names of months in three letters. */
const narrow = 4;

/**
 * Where months are named: each at its first day; the one that has begun before the first day shown there, where its name
 * ends before the next month begins.
 * @param first number of the first day shown, @param cell pixels a day
 */
export function namedMonths(first: number, count: number, cell: number): ReadonlySet<number> {
  const room = cell < narrow ? shortRoom : monthRoom;
  const begins = Array.from({ length: count }, (_, i) => i).filter(i => yearMonthDay(first + i).day === 1);
  const named = new Set<number>();
  let last = Number.NEGATIVE_INFINITY;
  for (const i of begins) {
    if ((i - last) * cell < room) continue;
    named.add(i);
    last = i;
  }
  if ((begins[0] ?? count) * cell >= room) named.add(0);
  return named;
}

type Props = { from: CivilDate; count: number; cell: number; today: CivilDate };

export function DayHeads({ from, count, cell, today }: Props) {
  const first = toDay(from);
  const now = toDay(today) - first;
  const named = namedMonths(first, count, cell);
  return (
    <svg width={count * cell} height={headHeight} style={{ fontSize: 11.5, display: 'block' }} aria-hidden="true">
      {now >= 0 && now < count && (
        <rect
          x={now * cell}
          y={15}
          width={Math.max(cell, 2)}
          height={headHeight - 15}
          fill="var(--mui-palette-primary-main)"
          fillOpacity={0.18}
          rx={Math.min(4, cell / 2)}
        />
      )}
      {Array.from({ length: count }, (_, i) => {
        const day = first + i;
        const { day: ofMonth, month } = yearMonthDay(day);
        const name = monthNames[month - 1] ?? '';
        const isNamed = named.has(i);
        const isWeekStart = weekday(day) === 1;
        return (
          <g key={day}>
            {isNamed && (
              <text x={i * cell + 2} y={11} fontWeight={650} fill={ink}>
                {cell < narrow ? name.slice(0, 3) : i === 0 ? `${name} ${yearOf(fromDay(day))}` : name}
              </text>
            )}
            {(cell >= 18 || (isWeekStart && cell >= 6)) && (
              <text x={i * cell + cell / 2} y={28} textAnchor="middle" fill={quiet}>
                {ofMonth}
              </text>
            )}
            {cell >= 18 && (
              <text x={i * cell + cell / 2} y={41} textAnchor="middle" fontSize={10} fill={quiet}>
                {weekdayLetters[weekday(day) - 1]}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
