/** The planner of one's teams: people by days, holidays and free days shaded, held and booked told apart by pattern. */

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import type { PlannerView } from '@north-pebble/contract';
import {
  addDays,
  type CivilDate,
  civilDateAt,
  fromDay,
  isCivilDate,
  monthNames,
  rangeWords,
  toDay,
  weekday,
  yearMonthDay,
  yearOf,
} from '@north-pebble/core/time';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { memo } from 'react';
import { useSearchParams } from 'react-router';
import { plannerQuery } from '../../api/queries.ts';
import { useHere } from '../../parts/frame/session.ts';
import { Loaded, Page } from '../../parts/Page.tsx';
import { ScrollStrip } from '../../parts/ScrollStrip.tsx';
import { AwayList } from './AwayList.tsx';
import { Feeds } from './Feeds.tsx';
import { Needed } from './Needed.tsx';
import { runs } from './runs.ts';

const zooms = { '2 weeks': 14, '5 weeks': 35, '13 weeks': 91, 'a year': 364 } as const;
type Zoom = keyof typeof zooms;

const rowHeight = 26;
const nameWidth = 170;
const ink = 'var(--mui-palette-text-primary)';
const quiet = 'var(--mui-palette-text-secondary)';

const weekdayLetters = ['M', 'T', 'W', 'T', 'F', 'S', 'S'];

function Days({ first, count, cell }: { first: number; count: number; cell: number }) {
  return Array.from({ length: count }, (_, i) => {
    const day = first + i;
    const { day: ofMonth, month } = yearMonthDay(day);
    const isMonday = weekday(day) === 1;
    // Where a week is narrower than a number, the months alone are named.
    const shown = cell >= 18 || (isMonday && cell >= 6);
    return (
      <g key={day}>
        {(ofMonth === 1 || i === 0) && (
          <text x={nameWidth + i * cell + 2} y={11} fontWeight={650} fill={ink}>
            {monthNames[month - 1]}
          </text>
        )}
        {shown && (
          <text x={nameWidth + i * cell + cell / 2} y={27} textAnchor="middle" fill={quiet}>
            {ofMonth}
          </text>
        )}
        {cell >= 18 && (
          <text x={nameWidth + i * cell + cell / 2} y={40} textAnchor="middle" fontSize={10} fill={quiet}>
            {weekdayLetters[weekday(day) - 1]}
          </text>
        )}
      </g>
    );
  });
}

const Row = memo(function Row({
  person,
  y,
  cell,
  from,
}: {
  person: PlannerView['teams'][number]['people'][number];
  y: number;
  cell: number;
  from: CivilDate;
}) {
  const half = cell / 2;
  const bars = runs(person.marks).filter(r => r.mark === 'b' || r.mark === 'p' || r.mark === 'l');
  return (
    <g transform={`translate(0 ${y})`}>
      <text x={0} y={17} fontSize={13} fill={ink}>
        {person.name.length > 22 ? `${person.name.slice(0, 21)}…` : person.name}
      </text>
      {runs(person.marks)
        .filter(r => r.mark === '-' || r.mark === 'h')
        .map(r => (
          <rect
            key={r.from}
            x={nameWidth + r.from * half}
            y={2}
            width={r.length * half}
            height={rowHeight - 4}
            fill={r.mark === 'h' ? 'var(--mui-palette-warning-main)' : ink}
            fillOpacity={r.mark === 'h' ? 0.22 : 0.07}
          />
        ))}
      {bars.map(r => {
        const start = fromDay(toDay(from) + Math.floor(r.from / 2));
        const label = person.entries.find(e => e.from <= start && start <= e.to)?.label ?? 'Away';
        return (
          <rect
            key={r.from}
            x={nameWidth + r.from * half + 0.75}
            y={6}
            width={Math.max(2, r.length * half - 1.5)}
            height={rowHeight - 12}
            rx={5}
            fill={r.mark === 'l' ? 'var(--mui-palette-success-main)' : 'var(--mui-palette-primary-main)'}
            fillOpacity={r.mark === 'b' ? 1 : 0.22}
            stroke={r.mark === 'l' ? 'var(--mui-palette-success-main)' : 'var(--mui-palette-primary-main)'}
            strokeDasharray={r.mark === 'p' ? '3 2' : undefined}
          >
            <title>{`${person.name}. ${label}`}</title>
          </rect>
        );
      })}
    </g>
  );
});

function Team({ team, view, cell }: { team: PlannerView['teams'][number]; view: PlannerView; cell: number }) {
  const count = team.here.length;
  const top = 48;
  const height = top + team.people.length * rowHeight + 24;
  const first = toDay(view.from);
  const today = toDay(view.today) - first;
  const away = team.people.flatMap(p => p.entries.map(e => `${p.name}, ${e.label}`));
  return (
    <Box component="section" aria-label={team.name} sx={{ mb: 4 }}>
      <Typography variant="overline" component="h2" color="textSecondary">
        {team.name}
      </Typography>
      <ScrollStrip label={`${team.name}: days`}>
        <svg
          width={nameWidth + count * cell + 4}
          height={height}
          style={{ fontSize: 11.5, display: 'block' }}
          role="img"
          aria-label={away.length > 0 ? `Away: ${away.join('; ')}` : 'Nobody is away'}
        >
          <Days first={first} count={count} cell={cell} />
          {today >= 0 && today < count && (
            <rect
              x={nameWidth + today * cell}
              y={14}
              width={cell}
              height={height - 16}
              fill="none"
              stroke="var(--mui-palette-primary-main)"
              rx={4}
            />
          )}
          {team.people.map((person, i) => (
            <Row key={person.id} person={person} y={top + i * rowHeight} cell={cell} from={view.from} />
          ))}
          <g transform={`translate(0 ${top + team.people.length * rowHeight})`}>
            <text x={0} y={16} fill={quiet}>
              at work
            </text>
            {cell >= 18 &&
              team.here.map((n, i) => (
                <text
                  key={fromDay(first + i)}
                  x={nameWidth + i * cell + cell / 2}
                  y={16}
                  textAnchor="middle"
                  fontWeight={650}
                  fill={n === 0 ? quiet : 'var(--mui-palette-success-main)'}
                >
                  {n}
                </text>
              ))}
          </g>
        </svg>
      </ScrollStrip>
    </Box>
  );
}

function Legend() {
  const item = (swatch: object, words: string) => (
    <Box component="span" sx={{ display: 'inline-flex', alignItems: 'center', gap: 0.75 }}>
      <Box component="span" sx={{ width: 22, height: 12, borderRadius: '4px', ...swatch }} />
      {words}
    </Box>
  );
  return (
    <Box sx={{ display: 'flex', gap: 2.5, flexWrap: 'wrap', fontSize: 13, color: 'text.secondary', mb: 2 }}>
      {item({ bgcolor: 'primary.main' }, 'booked')}
      {item(
        {
          border: '1px dashed',
          borderColor: 'primary.main',
          bgcolor: 'color-mix(in srgb, var(--mui-palette-primary-main) 22%, transparent)',
        },
        'asked for',
      )}
      {item(
        {
          border: '1px solid',
          borderColor: 'success.main',
          bgcolor: 'color-mix(in srgb, var(--mui-palette-success-main) 22%, transparent)',
        },
        'at work elsewhere',
      )}
      {item({ bgcolor: 'color-mix(in srgb, var(--mui-palette-text-primary) 9%, transparent)' }, 'not a working day')}
      {item({ bgcolor: 'color-mix(in srgb, var(--mui-palette-warning-main) 24%, transparent)' }, 'holiday')}
    </Box>
  );
}

export function PlannerPlace() {
  const { self, now } = useHere();
  const [search, setSearch] = useSearchParams();
  const zoom: Zoom = (Object.keys(zooms) as Zoom[]).find(z => z === search.get('zoom')) ?? '5 weeks';
  const today = civilDateAt(now, self.zone);
  const asList = search.get('show') === 'list';
  const asked = search.get('from');
  const from = asked && isCivilDate(asked) ? (asked as CivilDate) : fromDay(toDay(today) - weekday(toDay(today)) + 1);
  const to = addDays(from, zooms[zoom] - 1);
  const group = ['place', 'department'].flatMap(kind => {
    const id = search.get(kind);
    return id ? [`${kind}=${encodeURIComponent(id)}`] : [];
  })[0];
  const planner = useQuery({ ...plannerQuery(from, to, group), placeholderData: keepPreviousData });
  const choices = planner.data?.groups ?? [];
  const choose = (key: string) =>
    setSearch(
      before => {
        const { place: _p, department: _d, ...rest } = Object.fromEntries(before);
        const [kind, id] = key.split('=');
        return id ? { ...rest, [kind]: decodeURIComponent(id) } : rest;
      },
      { replace: true },
    );
  const go = (day: CivilDate) => setSearch(before => ({ ...Object.fromEntries(before), from: day }), { replace: true });
  const step = Math.max(7, Math.floor(zooms[zoom] / 14) * 7);
  const cell = { '2 weeks': 60, '5 weeks': 27, '13 weeks': 11, 'a year': 3 }[zoom];
  return (
    <Page
      title="Planner"
      sub={rangeWords(from, to, yearOf(today))}
      wide
      actions={
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <Button
            aria-pressed={asList}
            onClick={() =>
              setSearch(
                before => {
                  const { show: _show, ...rest } = Object.fromEntries(before);
                  return asList ? rest : { ...rest, show: 'list' };
                },
                { replace: true },
              )
            }
          >
            {asList ? 'As a drawing' : 'As a list'}
          </Button>
          <Feeds groups={choices} />
          {choices.length > 0 && (
            <TextField
              select
              size="small"
              label="Whose days"
              value={group ?? 'teams'}
              onChange={event => choose(event.target.value)}
              sx={{ minWidth: 190 }}
            >
              <MenuItem value="teams">Your own teams</MenuItem>
              {choices.map(({ kind, id, name }) => (
                <MenuItem key={`${kind}=${id}`} value={`${kind}=${encodeURIComponent(id)}`}>
                  {name}, {kind}
                </MenuItem>
              ))}
            </TextField>
          )}
          <Button onClick={() => go(addDays(from, -step))}>Earlier</Button>
          <Button
            onClick={() =>
              setSearch(
                before => {
                  const { from: _from, ...rest } = Object.fromEntries(before);
                  return rest;
                },
                { replace: true },
              )
            }
          >
            Today
          </Button>
          <Button onClick={() => go(addDays(from, step))}>Later</Button>
          <ToggleButtonGroup
            exclusive
            size="small"
            value={zoom}
            aria-label="How much time to show"
            onChange={(_, next: Zoom | null) =>
              next && setSearch(before => ({ ...Object.fromEntries(before), zoom: next }), { replace: true })
            }
          >
            {(Object.keys(zooms) as Zoom[]).map(z => (
              <ToggleButton
                key={z}
                value={z}
                sx={{ textTransform: 'none', py: 0.5, color: 'text.secondary', bgcolor: 'background.paper' }}
              >
                {z}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
        </Box>
      }
    >
      {!asList && <Legend />}
      <Loaded query={planner}>
        {view => (
          <>
            <Needed view={view} />
            {asList ? (
              <AwayList view={view} />
            ) : (
              view.teams.map(team => <Team key={team.name} team={team} view={view} cell={cell} />)
            )}
          </>
        )}
      </Loaded>
    </Page>
  );
}
