/** The days of a request and who of the team is away on them. */

import type { TeamStrip as Team } from '@north-pebble/contract';
import { ScrollStrip } from '../../ScrollStrip.tsx';

const cell = 22;
const row = 16;
const left = 92;

const words = {
  free: 'not at work',
  here: 'here',
  am: 'away in the morning',
  pm: 'away in the afternoon',
  away: 'away',
  held: 'asked for',
};

type Mark = Team['people'][number]['marks'][number];

/** Days away as bars; a half day is half a cell, and days that follow one another are one bar. */
function bars(marks: readonly Mark[]): { mark: Mark; from: number; length: number }[] {
  const found: { mark: Mark; from: number; length: number }[] = [];
  marks.forEach((mark, i) => {
    if (mark === 'here' || mark === 'free') return;
    const half = mark === 'am' || mark === 'pm';
    const last = found.at(-1);
    if (last && !half && last.mark === mark && last.from + last.length === i) last.length++;
    else found.push({ mark, from: mark === 'pm' ? i + 0.5 : i, length: half ? 0.5 : 1 });
  });
  return found;
}

export function TeamStrip({ team }: { team: Team }) {
  const width = left + team.days.length * cell + 4;
  const height = 18 + team.people.length * row + 18;
  const summary = team.people
    .map(p => `${p.name}: ${p.marks.map((mark, i) => `${team.days[i].split('/')[0]} ${words[mark]}`).join(', ')}`)
    .join('. ');
  return (
    <ScrollStrip label="The team in these days">
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`Team. ${summary}. Here: ${team.here.join(', ')}.`}
        style={{ fontSize: 11 }}
      >
        {team.days.map((day, i) => {
          const [ofMonth, , weekday] = day.split('/');
          return (
            <text
              key={day}
              x={left + i * cell + cell / 2}
              y={11}
              textAnchor="middle"
              fill="var(--mui-palette-text-secondary)"
              opacity={Number(weekday) > 5 ? 0.75 : 1}
            >
              {ofMonth}
            </text>
          );
        })}
        {team.people.map((person, r) => (
          <g key={person.name} transform={`translate(0 ${18 + r * row})`}>
            <text x={0} y={11} fill="var(--mui-palette-text-primary)">
              {person.name.length > 15 ? `${person.name.slice(0, 14)}…` : person.name}
            </text>
            {bars(person.marks).map(bar => {
              const asked = bar.mark === 'held';
              return (
                <rect
                  key={bar.from}
                  x={left + bar.from * cell + 0.5}
                  y={1.5}
                  width={bar.length * cell - 1}
                  height={11}
                  rx={4}
                  fill="var(--mui-palette-primary-main)"
                  fillOpacity={asked ? 0.22 : 1}
                  stroke="var(--mui-palette-primary-main)"
                  strokeDasharray={asked ? '3 2' : undefined}
                />
              );
            })}
          </g>
        ))}
        <g transform={`translate(0 ${18 + team.people.length * row})`} fontWeight={700}>
          <text x={0} y={12} fill="var(--mui-palette-text-secondary)" fontWeight={400}>
            at work
          </text>
          {team.here.map((n, i) => (
            <text
              key={team.days[i]}
              x={left + i * cell + cell / 2}
              y={12}
              textAnchor="middle"
              fill="var(--mui-palette-success-main)"
            >
              {n}
            </text>
          ))}
        </g>
      </svg>
    </ScrollStrip>
  );
}
