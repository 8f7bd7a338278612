/** The planner: people by days, from one’s own teams to the whole house, drawn, as lists, or for paper. */
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { may, type PlannerView } from '@north-pebble/contract';
import { addDays, civilDateAt, rangeWords, toDay, yearOf } from '@north-pebble/core/time';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { plannerQuery } from '../../api/queries.ts';
import { FilterField } from '../../parts/form/FilterField.tsx';
import { useHere } from '../../parts/frame/session.ts';
import { FailureNote } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { PendingBar } from '../../parts/request/deciding/PendingBar.tsx';
import { usePendingDecisions } from '../../parts/request/deciding/pending.ts';
import { Sets } from '../../parts/Sets.tsx';
import { AwayList } from './AwayList.tsx';
import { type Asked, askedOf, turnedIn, withChanged, withGroup, withTurned, type Zoom, zooms } from './address.ts';
import { Beside } from './Beside.tsx';
import { type Chosen, Drawing } from './drawing/Drawing.tsx';
import { Legend } from './drawing/Legend.tsx';
import { Feeds } from './Feeds.tsx';
import { Needed } from './Needed.tsx';

type Change = (next: (before: URLSearchParams) => URLSearchParams) => void;
type Group = PlannerView['groups'][number];
const kindWords = { house: 'The house', place: 'Places', department: 'Departments', line: 'Reporting lines' } as const;

function Whose({
  groups,
  asked,
  words,
  change,
}: {
  groups: readonly Group[];
  asked: Asked;
  words: string;
  change: Change;
}) {
  const keyOf = ({ kind, id }: Group) => `${kind}=${id}`;
  return (
    <>
      {groups.length > 0 && (
        <Autocomplete
          size="small"
          options={groups}
          value={groups.find(group => keyOf(group) === asked.group) ?? null}
          groupBy={({ kind }) => kindWords[kind]}
          getOptionLabel={({ name }) => name}
          getOptionKey={keyOf}
          isOptionEqualToValue={(a, b) => keyOf(a) === keyOf(b)}
          onChange={(_, group) => change(before => withGroup(before, group ? keyOf(group) : ''))}
          renderInput={params => <TextField {...params} label="Whose days" placeholder="your own teams" />}
          sx={{ width: 240 }}
        />
      )}
      <FilterField
        label="Name"
        value={words}
        onFilter={typed => change(before => withChanged(before, { words: typed }))}
        sx={{ width: { xs: 116, sm: 150 } }}
        slotProps={{ htmlInput: { maxLength: 100 } }}
      />
    </>
  );
}

/** One of several, side by side. */
function Choice<K extends string>({
  label,
  value,
  options,
  onChoose,
}: {
  label: string;
  value: K;
  options: Readonly<Record<K, string>>;
  onChoose: (chosen: K) => void;
}) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={value}
      aria-label={label}
      onChange={(_, chosen: K | null) => chosen && onChoose(chosen)}
    >
      {(Object.entries(options) as [K, string][]).map(([key, words]) => (
        <ToggleButton
          key={key}
          value={key}
          sx={{ textTransform: 'none', py: 0.5, color: 'text.secondary', bgcolor: 'background.paper' }}
        >
          {words}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

const zoomWords = Object.fromEntries(Object.keys(zooms).map(zoom => [zoom, zoom])) as Record<Zoom, string>;
const showWords = { drawing: 'Drawing', list: 'List', paper: 'Paper' } as const;

function Time({ asked, change }: { asked: Asked; change: Change }) {
  const put = (changed: Readonly<Record<string, string>>) => change(before => withChanged(before, changed));
  const step = Math.max(7, Math.floor(zooms[asked.zoom] / 14) * 7);
  return (
    <Box sx={{ display: 'contents', '& > button': { px: { xs: 1.25, sm: 2 }, minWidth: 0 } }}>
      <Button onClick={() => put({ from: addDays(asked.from, -step) })}>Earlier</Button>
      <Button onClick={() => put({ from: '' })}>Today</Button>
      <Button onClick={() => put({ from: addDays(asked.from, step) })}>Later</Button>
      <Choice label="How much time to show" value={asked.zoom} options={zoomWords} onChoose={zoom => put({ zoom })} />
    </Box>
  );
}

/** More than so many people are not put on paper at once. */
const mostOnPaper = 400;

function Paper({ people }: { people: number }) {
  if (people > mostOnPaper)
    return (
      <Empty title={`${people.toLocaleString('en-GB')} people do not fit on paper`}>
        Choose a place, a department or a line of at most {mostOnPaper} people, or take the table.
      </Empty>
    );
  return (
    <Button variant="contained" onClick={() => window.print()} sx={{ mb: 2 }}>
      Print
    </Button>
  );
}

export function PlannerPlace() {
  const { self, now } = useHere();
  const [search, setSearch] = useSearchParams();
  const change: Change = useCallback(next => setSearch(next, { replace: true }), [setSearch]);
  const today = civilDateAt(now, self.zone);
  const asked = askedOf(search, today);
  const planner = useQuery({ ...plannerQuery(asked.look), placeholderData: keepPreviousData });
  // Until others are there, those before stay, with their own days and rows.
  const drawn = useRef(asked);
  if (!planner.isPlaceholderData) drawn.current = asked;
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [fault, setFault] = useState<unknown>(null);
  const { pending, decide, undo, flush } = usePendingDecisions((_, failed) => setFault(failed));
  const turnedText = JSON.stringify([search.getAll('open'), search.getAll('shut')]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the teams are others only when their names are
  const turned = useMemo(() => turnedIn(search), [turnedText]);
  const onTurn = useCallback(
    (team: string, to: 'open' | 'shut') => change(before => withTurned(before, team, to)),
    [change],
  );
  const groups = planner.data?.groups ?? [];
  return (
    <Page
      title="Planner"
      sub={rangeWords(asked.from, asked.to, yearOf(today))}
      wide
      actions={
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <Choice
            label="How to show it"
            value={asked.show}
            options={showWords}
            onChoose={show => change(before => withChanged(before, { show: show === 'drawing' ? '' : show }))}
          />
          <Feeds groups={groups} />
        </Box>
      }
    >
      <Box className="no-print" sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mb: 1.5 }}>
        <Whose groups={groups} asked={asked} words={search.get('words') ?? ''} change={change} />
        <Time asked={asked} change={change} />
        <Box sx={{ flex: 1 }} />
        <Sets place="planner" query={String(search)} onTake={query => setSearch(query)} />
        {may(self, 'export') && (
          <Button size="small" component="a" href={`/api/planner/file.csv?${asked.look}`} download>
            Download CSV
          </Button>
        )}
      </Box>
      {fault !== null && <FailureNote fault={fault} />}
      <Loaded query={planner}>
        {view => {
          const people = view.teams.reduce((sum, team) => sum + team.people, 0);
          const length = toDay(view.to) - toDay(view.from) + 1;
          return (
            <>
              <Needed view={view} />
              {asked.show === 'paper' && <Paper people={people} />}
              {asked.show === 'list' && <AwayList view={view} look={asked.look} />}
              {people === 0 && <Empty title="Nobody is found">Try fewer letters, or look at others.</Empty>}
              {asked.show !== 'list' && people > 0 && (asked.show !== 'paper' || people <= mostOnPaper) && (
                <>
                  <Legend />
                  <Drawing
                    view={view}
                    look={drawn.current.look}
                    whose={drawn.current.whose}
                    count={length}
                    turned={turned}
                    onTurn={onTurn}
                    onChoose={setChosen}
                    whole={asked.show === 'paper'}
                  />
                </>
              )}
              {chosen && (
                <Beside
                  chosen={chosen}
                  view={view}
                  seesBalance={may(self, 'read every record')}
                  onClose={() => setChosen(null)}
                  onDecide={decision => {
                    setFault(null);
                    decide([decision]);
                  }}
                />
              )}
            </>
          );
        }}
      </Loaded>
      {planner.isPlaceholderData && (
        <Typography role="status" variant="body2" color="textSecondary">
          Looking at other days …
        </Typography>
      )}
      <PendingBar pending={pending} onUndo={undo} onSend={() => flush()} />
    </Page>
  );
}
