// biome-ignore-all lint/a11y/useSemanticElements: a grid of which only some lines are there is no table
/**
 * The drawing of the planner: only the lines in sight are there. A place in it, a line and a day, is moved with the arrow
 * keys or pointed at; Shift or dragging makes it a stretch of days; what stands there is said and can be opened.
 */
import Box from '@mui/material/Box';
import { visuallyHidden } from '@mui/utils';
import type { PlannerView } from '@north-pebble/contract';
import { addDays, dateWords, rangeWords, toDay } from '@north-pebble/core/time';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, type PointerEvent, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useYear } from '../../../parts/frame/session.ts';
import { barHeight } from '../../../parts/Page.tsx';
import { DayHeads, headHeight } from './DayHeads.tsx';
import { useInk } from './ink.ts';
import { PersonLine, type Place, placeId, rowHeight, TeamLine, teamHeight } from './Line.tsx';
import { isManyOf, isOpenIn, lineAt, linesOf, type PlannerLine, type Turned, topsOf } from './lines.ts';
import { type PlannerRow, useRows } from './rows.ts';
import { type Drawn, inTile, Tile } from './Tile.tsx';
import { barsOn, personDayWords, teamDayWords } from './words.ts';

/** A line, a day of it counted from the first shown, and the day from which a stretch was drawn. */
type At = { readonly line: number; readonly day: number; readonly since: number };
/** What was chosen, with the element at which it stands. */
export type Chosen = { row: PlannerRow; first: number; last: number; element: HTMLElement };

type Props = {
  view: PlannerView;
  /** Whose days and which, as the API is asked. */
  look: string;
  whose: string;
  count: number;
  turned: Turned;
  onTurn: (team: string, to: 'open' | 'shut') => void;
  onChoose: (chosen: Chosen) => void;
  /** Every line is there, as for paper. */
  whole?: boolean;
};

const narrow = 700;
/** So many tiles fill a window and a little more; those that scroll out are used again for those that come. */
const tilesFor = (height: number): number => Math.ceil(height / (inTile * rowHeight)) + 2;
const heightOf = (line: PlannerLine): number => (line.kind === 'team' ? teamHeight : rowHeight);

/** Days from the first shown to today. */
const daysTo = ({ from, today }: PlannerView): number => toDay(today) - toDay(from);

/** As wide as there is room. */
function useWidth() {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const measure = () => setWidth(element.clientWidth);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, width] as const;
}

const steps = (page: number, count: number): Record<string, readonly [line: number, day: number]> => ({
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  PageUp: [-page, 0],
  PageDown: [page, 0],
  Home: [0, -count],
  End: [0, count],
});

const within = (n: number, last: number): number => Math.min(Math.max(0, n), last);

export function Drawing({ view, look, whose, count, turned, onTurn, onChoose, whole = false }: Props) {
  const year = useYear();
  const ink = useInk();
  const [box, width] = useWidth();
  const nameWidth = width < narrow ? 120 : 250;
  const cell = Math.max(0.5, (width - nameWidth - 2) / count);
  // On paper nothing can be unfolded.
  const isFolded = !whole && isManyOf(view);
  const lines = useMemo(() => linesOf(view, turned, isFolded), [view, turned, isFolded]);
  const tops = useMemo(() => topsOf(lines, heightOf), [lines]);
  const topOf = (line: number): number => tops[line] ?? 0;
  const needs = new Map(view.presence.map(one => [one.id, one]));
  const [at, setAt] = useState<At | null>(null);
  const list = useRef<HTMLDivElement>(null);
  const virtual = useWindowVirtualizer({
    count: lines.length,
    estimateSize: line => heightOf(lines[line] as PlannerLine),
    overscan: 4,
    scrollMargin: list.current?.offsetTop ?? 0,
    enabled: !whole,
    // Lines may come a moment after their place: the page is kept free for whoever scrolls.
    useFlushSync: false,
  });
  // Teams that are folded or unfolded make lines of other heights.
  // biome-ignore lint/correctness/useExhaustiveDependencies: measured again when the lines are others
  useEffect(() => virtual.measure(), [lines]);
  const items = virtual.getVirtualItems();
  const first = whole ? 0 : (items[0]?.index ?? 0);
  const last = whole ? lines.length - 1 : (items.at(-1)?.index ?? -1);
  const firstTile = Math.floor(first / inTile);
  const kept = tilesFor(window.innerHeight);
  const lastTile = whole ? Math.floor(last / inTile) : Math.max(Math.floor(last / inTile), firstTile + kept - 1);
  const shown = Array.from({ length: Math.max(0, last - first + 1) }, (_, n) => first + n);
  const wanted: number[] = [];
  for (let n = firstTile * inTile; n < Math.min((lastTile + 1) * inTile, lines.length); n++) {
    const line = lines[n];
    if (line?.kind === 'person') wanted.push(line.row);
  }
  const rowAt = useRows(look, whose, wanted);
  const neededOf = (team: number) => needs.get(view.teams[team]?.presence ?? '');

  function sentenceAt(place: At): string {
    const line = lines[place.line];
    const team = line && view.teams[line.team];
    if (!line || !team) return '';
    if (line.kind === 'team') return teamDayWords(team, neededOf(line.team), view.from, place.day, year);
    const row = rowAt(line.row);
    if (!row) return '…';
    const [from, to] = [Math.min(place.day, place.since), Math.max(place.day, place.since)];
    return from === to
      ? personDayWords(row, view.from, place.day, year)
      : `${row.name}, ${rangeWords(addDays(view.from, from), addDays(view.from, to), year)}`;
  }

  const open = (place: At) => {
    const line = lines[place.line];
    if (!line) return;
    if (line.kind === 'team') {
      const name = view.teams[line.team]?.name ?? '';
      return onTurn(name, isOpenIn(turned, name, isFolded) ? 'shut' : 'open');
    }
    const row = rowAt(line.row);
    // The mark is there once the place has been drawn.
    requestAnimationFrame(() => {
      const element = document.getElementById(placeId);
      if (!element || !row || row.days === null) return;
      onChoose({ row, first: Math.min(place.day, place.since), last: Math.max(place.day, place.since), element });
    });
  };

  const move = (event: KeyboardEvent) => {
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      if (at) open(at);
      return;
    }
    if (event.key === 'Escape') return setAt(null);
    const page = Math.max(1, Math.floor(window.innerHeight / rowHeight / 2));
    const step = steps(page, count)[event.key];
    if (!step || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    // The first key shows where one is: the first line, today.
    const line = at ? within(at.line + step[0], lines.length - 1) : 0;
    const day = at ? within(at.day + step[1], count - 1) : within(daysTo(view), count - 1);
    const isStretch = event.shiftKey && step[0] === 0 && at !== null;
    setAt({ line, day, since: isStretch ? at.since : day });
    virtual.scrollToIndex(line, { align: 'auto' });
  };

  const under = (event: PointerEvent): { line: number; day: number } => {
    const { left, top } = list.current?.getBoundingClientRect() ?? { left: 0, top: 0 };
    return { line: lineAt(tops, event.clientY - top), day: Math.floor((event.clientX - left - nameWidth) / cell) };
  };
  const isDragging = useRef(false);
  const press = (event: PointerEvent) => {
    const { line, day } = under(event);
    if (lines[line]?.kind !== 'person' || event.button !== 0 || day < 0 || day >= count) return;
    isDragging.current = true;
    setAt({ line, day, since: day });
  };
  const drag = (event: PointerEvent<HTMLElement>) => {
    const { line, day } = under(event);
    if (isDragging.current && at) {
      if (within(day, count - 1) !== at.day) setAt({ ...at, day: within(day, count - 1) });
      return;
    }
    const one = lines[line];
    const row = one?.kind === 'person' && day >= 0 ? rowAt(one.row) : undefined;
    const title = row ? barsOn(row, day).map(bar => `${row.name}. ${bar.label}`) : [];
    event.currentTarget.title = title.join('\n');
  };
  const release = () => {
    if (isDragging.current && at) open(at);
    isDragging.current = false;
  };

  const placeOn = (line: number): Place | null =>
    at?.line !== line
      ? null
      : {
          left: nameWidth + Math.min(at.day, at.since) * cell,
          width: Math.max(3, (Math.abs(at.day - at.since) + 1) * cell),
          says: sentenceAt(at),
        };
  const drawn = (n: number): Drawn | null => {
    const line = lines[n];
    const team = line && view.teams[line.team];
    if (!line || !team) return null;
    return line.kind === 'team'
      ? { kind: 'team', top: topOf(n), team, needed: neededOf(line.team) }
      : { kind: 'person', top: topOf(n), row: rowAt(line.row) };
  };
  const today = daysTo(view);
  return (
    <Box ref={box}>
      <Box
        role="grid"
        tabIndex={0}
        aria-label="Days of people"
        aria-rowcount={lines.length + 1}
        {...(at ? { 'aria-activedescendant': placeId } : {})}
        onKeyDown={move}
        sx={{
          userSelect: 'none',
          '&:focus-visible': { outline: '2px solid', outlineColor: 'primary.main', outlineOffset: 4 },
        }}
      >
        <Box
          role="row"
          aria-rowindex={1}
          sx={{
            ...{ position: whole ? 'static' : 'sticky', top: barHeight, zIndex: 2 },
            ...{ bgcolor: 'background.default', height: headHeight, pt: 0.5 },
          }}
        >
          <Box role="columnheader" sx={{ ml: `${nameWidth}px` }}>
            <span style={visuallyHidden}>Days: {rangeWords(view.from, view.to, year)}</span>
            <DayHeads from={view.from} count={count} cell={cell} today={view.today} />
          </Box>
        </Box>
        <div
          ref={list}
          role="rowgroup"
          style={{ position: 'relative', height: topOf(lines.length), overflow: 'clip', touchAction: 'pan-y' }}
          onPointerDown={press}
          onPointerMove={drag}
          onPointerUp={release}
          onPointerCancel={() => {
            isDragging.current = false;
          }}
        >
          {today >= 0 && today < count && (
            <div
              aria-hidden="true"
              style={{
                ...{
                  position: 'absolute',
                  top: 0,
                  bottom: 0,
                  left: nameWidth + today * cell,
                  width: Math.max(2, cell),
                },
                ...{ background: 'var(--mui-palette-primary-main)', opacity: 0.07, pointerEvents: 'none' },
              }}
            />
          )}
          {width > 0 &&
            Array.from({ length: Math.max(0, lastTile - firstTile + 1) }, (_, n) => {
              const from = Math.min((firstTile + n) * inTile, lines.length);
              const to = Math.min(from + inTile, lines.length);
              return (
                <Tile
                  key={whole ? from : (firstTile + n) % kept}
                  top={topOf(from)}
                  left={nameWidth}
                  height={topOf(to) - topOf(from)}
                  lines={Array.from({ length: to - from }, (_, k) => drawn(from + k)).filter(line => line !== null)}
                  {...{ count, cell, ink }}
                />
              );
            })}
          {shown.map(n => {
            const line = lines[n];
            const team = line && view.teams[line.team];
            if (!line || !team) return null;
            const shared = { index: n, top: topOf(n), height: heightOf(line), nameWidth, place: placeOn(n) };
            return line.kind === 'person' ? (
              <PersonLine key={line.row} row={rowAt(line.row)} {...shared} />
            ) : (
              <TeamLine
                key={`team ${line.team}`}
                team={team}
                needed={neededOf(line.team)}
                isOpen={isOpenIn(turned, team.name, isFolded)}
                onTurn={onTurn}
                {...shared}
              />
            );
          })}
        </div>
      </Box>
      <Box role="status" sx={{ fontSize: 13, color: 'text.secondary', minHeight: 20, mt: 0.5 }} className="no-print">
        {at
          ? sentenceAt(at)
          : `Arrow keys move from day to day, Shift makes a stretch of days, Enter opens it. Today is ${dateWords(view.today, year)}.`}
      </Box>
    </Box>
  );
}
