/** All open requests that count back from a date: who starts when, how far it is, what decides, and who has how much to do. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { PlanRow, PlansView } from '@north-pebble/contract';
import { dateWords } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link as RouterLink, useSearchParams } from 'react-router';
import { plansQuery } from '../../api/queries.ts';
import { Note } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { planColour, shortDay, spareWords, stateWords } from '../../parts/plan/planWords.ts';
import { ScrollStrip } from '../../parts/ScrollStrip.tsx';
import { loads, overloads, weekOf } from './load.ts';
import { Overloads } from './Overloads.tsx';

const order: Record<PlanRow['state'], number> = { late: 0, tight: 1, fine: 2, ready: 3 };

/** Those in trouble first, then those whose date is next. */
const byTrouble = (a: PlanRow, b: PlanRow): number =>
  order[a.state] - order[b.state] || (a.slack ?? 0) - (b.slack ?? 0) || a.date.localeCompare(b.date);

function Done({ row }: { row: PlanRow }) {
  return (
    <Box aria-hidden sx={{ display: 'flex', gap: '3px', mt: 0.5 }}>
      {row.lines
        .filter(line => line.state !== 'not needed')
        .map(line => (
          <Box
            key={line.step}
            sx={{
              width: 16,
              height: 9,
              borderRadius: line.state === 'late' ? '2px' : '5px',
              border: '1.5px solid',
              borderColor: planColour[line.state],
              bgcolor:
                line.state === 'done' ? planColour.done : line.state === 'late' ? planColour.late : 'transparent',
            }}
          />
        ))}
    </Box>
  );
}

function Row({ row, today }: { row: PlanRow; today: PlansView['today'] }) {
  return (
    <Box
      component="li"
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '150px minmax(0, 1.2fr) 150px minmax(0, 1.4fr)' },
        gap: { xs: 0.5, md: 2 },
        py: 1.25,
        borderBottom: '1px solid',
        borderColor: 'divider',
        alignItems: 'baseline',
      }}
    >
      <Box>
        <Typography variant="h3" component="span">
          {dateWords(row.date, Number(today.slice(0, 4)))}
        </Typography>
        <Typography variant="body2" color="textSecondary">
          {row.toGo === 0 ? 'has come' : `${row.toGo} working ${row.toGo === 1 ? 'day' : 'days'} to go`}
        </Typography>
      </Box>
      <Box sx={{ minWidth: 0 }}>
        <Link component={RouterLink} to={`/requests/${row.request}/plan`} sx={{ fontWeight: 600 }}>
          {row.title}
        </Link>
        <Typography variant="body2" color="textSecondary">
          {row.workflowName} · {row.label.toLowerCase()} at {row.placeName}
        </Typography>
      </Box>
      <Box>
        <Typography component="span" sx={{ color: planColour[row.state], fontWeight: 600 }}>
          {row.state === 'late' && row.slack !== null ? spareWords(row.slack) : stateWords[row.state]}
          {row.state !== 'late' && row.slack !== null && row.slack !== 0 && `, ${spareWords(row.slack)}`}
        </Typography>
        <Typography variant="body2" color="textSecondary">
          {row.done} of {row.of} done
        </Typography>
        <Done row={row} />
      </Box>
      <Box>
        <Typography variant="body2">{row.decides ?? 'Nothing is left to do.'}</Typography>
        {row.told && (
          <Typography variant="body2" color="textSecondary">
            Those who are to know were told.
          </Typography>
        )}
      </Box>
    </Box>
  );
}

/** Who has how much to do in which week; a number opens what it is made of, and until when each could wait. */
function LoadTable({ rows, today }: { rows: readonly PlanRow[]; today: PlansView['today'] }) {
  const { weeks, holders } = useMemo(() => loads(rows), [rows]);
  const [open, setOpen] = useState<{ holder: string; week: string } | null>(null);
  if (holders.length === 0) return null;
  const opened = open && holders.find(one => one.holder === open.holder)?.weeks.get(open.week as never);
  const cell = { py: 0.5, px: 1, borderBottom: '1px solid', borderColor: 'divider', textAlign: 'right' } as const;
  return (
    <Box component="section" aria-label="Load by week" sx={{ mt: 4 }}>
      <Typography variant="h3" component="h2">
        Who has how much to do
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1 }}>
        Tasks by the week in which they can begin at the earliest. A number opens what it is made of.
      </Typography>
      <ScrollStrip label="Load by week">
        <Box component="table" aria-label="Load by week" sx={{ borderCollapse: 'collapse', fontSize: 14 }}>
          <thead>
            <tr>
              <Box
                component="th"
                scope="col"
                sx={{ ...cell, textAlign: 'left', color: 'text.secondary', fontWeight: 500 }}
              >
                Holder
              </Box>
              {weeks.map(week => (
                <Box
                  component="th"
                  scope="col"
                  key={week}
                  sx={{ ...cell, color: 'text.secondary', fontWeight: 500, whiteSpace: 'nowrap' }}
                >
                  {shortDay(week, today)}
                </Box>
              ))}
            </tr>
          </thead>
          <tbody>
            {holders.slice(0, 60).map(({ holder, weeks: own }) => (
              <tr key={holder}>
                <Box component="th" scope="row" sx={{ ...cell, textAlign: 'left', fontWeight: 400, pr: 3 }}>
                  {holder}
                </Box>
                {weeks.map(week => {
                  const n = own.get(week)?.length ?? 0;
                  const isOpen = open?.holder === holder && open.week === week;
                  return (
                    <Box component="td" key={week} sx={cell}>
                      {n > 0 && (
                        <Link
                          component="button"
                          aria-expanded={isOpen}
                          aria-label={`${holder}, week of ${shortDay(week, today)}: ${n}`}
                          onClick={() => setOpen(isOpen ? null : { holder, week })}
                          sx={{ fontSize: 14, fontWeight: n > 3 ? 700 : 400 }}
                        >
                          {n}
                        </Link>
                      )}
                    </Box>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Box>
      </ScrollStrip>
      {open && opened && (
        <Box component="ul" aria-label={`Tasks of ${open.holder}`} sx={{ mt: 1.5, pl: 2.5 }}>
          {opened.map(({ row, line, week, until }) => (
            <li key={`${row.request} ${line.step}`}>
              <Link component={RouterLink} to={`/requests/${row.request}/plan`}>
                {row.title}
              </Link>
              : {line.number} {line.what}
              {line.days && `, ${spareWords(line.days.slack)}`}
              {until > week
                ? `. It could wait until the week of ${shortDay(until, today)}.`
                : line.days && line.days.slack < 0
                  ? '. It cannot wait.'
                  : '. It belongs into this week.'}
            </li>
          ))}
        </Box>
      )}
    </Box>
  );
}

function Moves({ rows, today }: { rows: readonly PlanRow[]; today: PlansView['today'] }) {
  const all = useMemo(() => overloads(loads(rows).holders), [rows]);
  return <Overloads all={all} today={today} />;
}

function Plans({ view }: { view: PlansView }) {
  const [search, setSearch] = useSearchParams();
  const wanted = {
    workflow: search.get('workflow') ?? '',
    place: search.get('place') ?? '',
    state: search.get('state') ?? '',
  };
  const set = (key: string) => (event: { target: { value: string } }) => {
    const next = new URLSearchParams(search);
    if (event.target.value) next.set(key, event.target.value);
    else next.delete(key);
    setSearch(next, { replace: true });
  };
  const rows = view.rows
    .filter(row => !wanted.workflow || row.workflowName === wanted.workflow)
    .filter(row => !wanted.place || row.placeName === wanted.place)
    .filter(row => !wanted.state || row.state === wanted.state)
    .sort(byTrouble);
  const choices = (values: string[]) => [...new Set(values)].sort();
  const late = view.rows.filter(row => row.state === 'late').length;
  const thisWeek = view.rows.filter(row => weekOf(row.date) === weekOf(view.today)).length;
  if (view.rows.length === 0 && view.unknown.length === 0)
    return (
      <Empty title="Nothing counts back from a date now">
        Requests that have a first day, a last day or another date to be ready for stand here with their plans, those in
        trouble first.
      </Empty>
    );
  return (
    <>
      <Typography sx={{ mb: 1.5 }}>
        {late === 0
          ? 'None of them is late.'
          : late === 1
            ? `One of ${view.rows.length} is late as it stands.`
            : `${late} of ${view.rows.length} are late as they stand.`}{' '}
        {thisWeek === 1 && 'One has its date this week.'}
        {thisWeek > 1 && `${thisWeek} have their dates this week.`}
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 1 }}>
        {(
          [
            ['workflow', 'Workflow', choices(view.rows.map(row => row.workflowName))],
            ['place', 'Place', choices(view.rows.map(row => row.placeName))],
            ['state', 'State', ['late', 'tight', 'fine', 'ready']],
          ] as const
        ).map(([key, label, values]) => (
          <TextField
            key={key}
            select
            label={label}
            value={wanted[key]}
            onChange={set(key)}
            sx={{ minWidth: 170 }}
            slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
          >
            <MenuItem value="">all</MenuItem>
            {values.map(value => (
              <MenuItem key={value} value={value}>
                {value}
              </MenuItem>
            ))}
          </TextField>
        ))}
      </Box>
      {view.unknown.map(({ request, title, why }) => (
        <Note key={request} tone="waiting" title={`${title} has no plan`}>
          {why}.{' '}
          <Link component={RouterLink} to={`/requests/${request}`}>
            {request}
          </Link>
        </Note>
      ))}
      <Box component="ol" aria-label="Plans" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {rows.map(row => (
          <Row key={row.request} row={row} today={view.today} />
        ))}
      </Box>
      {rows.length === 0 && <Typography color="textSecondary">None is left with these filters.</Typography>}
      {view.more > 0 && (
        <Typography color="textSecondary" sx={{ mt: 1 }}>
          Those with the nearest dates are shown; more lie farther ahead.
        </Typography>
      )}
      <LoadTable rows={rows} today={view.today} />
      {rows.length > 0 && <Moves rows={rows} today={view.today} />}
    </>
  );
}

export function PlansPlace() {
  const plans = useQuery(plansQuery);
  return (
    <Page
      wide
      title="Plans back from a date"
      sub="Who starts or leaves when, how far it is, and what decides."
      actions={
        <Button component={RouterLink} to="/requests">
          Requests
        </Button>
      }
    >
      <Loaded query={plans}>{view => <Plans view={view} />}</Loaded>
    </Page>
  );
}
