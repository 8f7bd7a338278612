/** Where the stones of a plan stand: time falls down the page in working days, a column for each holder. */
import type { PlanLineView, PlanView } from '@north-pebble/contract';
import { type CivilDate, fromDay, toDay } from '@north-pebble/core/time';
import { max, min } from 'd3-array';

export type Span = { top: number; bottom: number };

export type PlanStone = {
  line: PlanLineView;
  column: number;
  /** In days of the drawing; a stone covers its last day too. */
  stone: Span;
  /** From the day on which it can be finished to the last on which it may be; the other way round where it is late. */
  channel: Span | null;
};

export type PlanColumn = { holder: string; from: number; count: number };

export type PlanShape = {
  /** The working days of the drawing from above to below; the date itself is the last but for what is late. */
  days: readonly CivilDate[];
  columns: readonly PlanColumn[];
  width: number;
  stones: readonly PlanStone[];
  /** Where today begins, and where the date does. */
  today: number;
  date: number;
};

/** So many working days are drawn before today, for what was done lately. */
const mostBefore = 10;

export function planShape(plan: PlanView): PlanShape {
  const free = new Set<string>(plan.freeDays);
  const open = plan.lines.filter(line => line.days !== null);
  const dones = plan.lines.flatMap(line => (line.state === 'done' && line.doneAt ? [line.doneAt.slice(0, 10)] : []));
  const earliest = min([plan.today, ...dones]) ?? plan.today;
  const ends = open.flatMap(line => (line.days ? [line.days.earliestFinish, line.days.latestFinish] : []));
  const last = toDay(max([plan.date, plan.today, ...ends]) ?? plan.date);

  const before: CivilDate[] = [];
  for (let day = toDay(plan.today) - 1; day >= toDay(earliest) && before.length < mostBefore; day--) {
    const date = fromDay(day);
    if (!free.has(date) && !isWeekend(day)) before.unshift(date);
  }
  const ahead: CivilDate[] = [];
  for (let day = toDay(plan.today); day <= last; day++) {
    const date = fromDay(day);
    // The date is drawn whatever day it is.
    if (!free.has(date) || date === plan.date) ahead.push(date);
  }
  const days = [...before, ...ahead];
  const at = new Map(days.map((date, n) => [date as string, n]));
  /** The row of a day; of one that is not drawn, that of the next one. */
  const row = (date: string): number => at.get(date) ?? nextRow(days, date);

  const holders = [...new Set(plan.lines.filter(line => line.state !== 'not needed').map(line => line.holder))];
  const columns: PlanColumn[] = [];
  const stones: PlanStone[] = [];
  let width = 0;
  for (const holder of holders) {
    // Side by side where two of one holder overlap.
    const own = plan.lines
      .filter(line => line.holder === holder && line.state !== 'not needed')
      .map(line => ({ line, ...spans(line, row) }))
      .sort((a, b) => a.stone.top - b.stone.top);
    const tracks: number[] = [];
    for (const { line, stone, channel } of own) {
      const top = Math.min(stone.top, channel?.top ?? stone.top);
      const bottom = Math.max(stone.bottom, channel?.bottom ?? stone.bottom, stone.top + 2);
      const free = tracks.findIndex(end => end <= top);
      const track = free < 0 ? tracks.length : free;
      tracks[track] = bottom;
      stones.push({ line, column: width + track, stone, channel });
    }
    columns.push({ holder, from: width, count: tracks.length });
    width += tracks.length;
  }
  return { days, columns, width, stones, today: row(plan.today), date: row(plan.date) };
}

const isWeekend = (day: number): boolean => (((day + 3) % 7) + 7) % 7 > 4;

function nextRow(days: readonly string[], date: string): number {
  const found = days.findIndex(day => day > date);
  return found < 0 ? days.length : found;
}

function spans(line: PlanLineView, row: (date: string) => number): { stone: Span; channel: Span | null } {
  if (!line.days) {
    const top = row((line.doneAt ?? '').slice(0, 10));
    return { stone: { top, bottom: top + 1 }, channel: null };
  }
  const { earliestStart, earliestFinish, latestFinish, slack } = line.days;
  const finish = row(earliestFinish) + 1;
  const stone = { top: row(earliestStart), bottom: finish };
  const latest = row(latestFinish) + 1;
  if (slack === 0) return { stone, channel: null };
  return {
    stone,
    channel: slack > 0 ? { top: finish, bottom: latest } : { top: Math.min(latest, stone.top), bottom: finish },
  };
}
