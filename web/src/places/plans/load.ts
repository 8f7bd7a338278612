/** Who has how much to do in which week, from all plans: each task lies where it can be done at the earliest. */
import type { PlanLineView, PlanRow } from '@north-pebble/contract';
import { relief } from '@north-pebble/core/countback';
import { type CivilDate, fromDay, toDay, weekday } from '@north-pebble/core/time';

export type LoadTask = {
  row: PlanRow;
  line: PlanLineView;
  week: CivilDate;
  /** The last week into which it could go. */
  until: CivilDate;
};
/** A week of a holder with more in it than can be done, and what of it could wait until when. */
export type Overload = {
  holder: string;
  week: CivilDate;
  workingDays: number;
  room: number;
  over: number;
  moves: readonly { task: LoadTask; to: CivilDate }[];
};
export type Load = { holder: string; weeks: ReadonlyMap<CivilDate, readonly LoadTask[]>; sum: number };

/** The Monday of a day. */
export const weekOf = (date: CivilDate): CivilDate => fromDay(toDay(date) - weekday(toDay(date)) + 1);

const laterOf = (a: CivilDate, b: CivilDate): CivilDate => (toDay(a) < toDay(b) ? b : a);

export function loads(rows: readonly PlanRow[]): { weeks: CivilDate[]; holders: Load[] } {
  const holders = new Map<string, Map<CivilDate, LoadTask[]>>();
  const weeks = new Set<CivilDate>();
  for (const row of rows) {
    for (const line of row.lines) {
      if (!line.days) continue;
      const week = weekOf(line.days.earliestStart);
      const until = weekOf(line.days.latestStart);
      weeks.add(week);
      const own = holders.get(line.holder) ?? new Map<CivilDate, LoadTask[]>();
      holders.set(line.holder, own);
      own.set(week, [...(own.get(week) ?? []), { row, line, week, until: laterOf(week, until) }]);
    }
  }
  const all = [...holders].map(([holder, own]) => ({
    holder,
    weeks: own,
    sum: [...own.values()].reduce((sum, tasks) => sum + tasks.length, 0),
  }));
  return { weeks: [...weeks].sort(), holders: all.sort((a, b) => b.sum - a.sum || a.holder.localeCompare(b.holder)) };
}

/** Working days that one person has in a week. */
const daysOfAWeek = 5;

/** Weeks that hold too much, the next ones first. A role has as many days as people hold it. */
export function overloads(holders: readonly Load[]): Overload[] {
  const found = holders.flatMap(({ holder, weeks }) => {
    const tasks = [...weeks.values()].flat();
    const byId = new Map(tasks.map(task => [`${task.row.request} ${task.line.step}`, task]));
    const people = Math.max(1, ...tasks.map(task => task.line.people.length));
    const monday = (week: CivilDate) => toDay(week) / 7;
    const back = (week: number) => fromDay(Math.round(week * 7));
    const counted = [...byId].map(([id, { row, line, week, until }]) => ({
      id,
      plan: row.request,
      week: monday(week),
      until: monday(until),
      workingDays: line.left,
    }));
    return relief(counted, people * daysOfAWeek).map(
      ({ week, moves, ...full }): Overload => ({
        ...full,
        holder,
        week: back(week),
        moves: moves.flatMap(({ id, to }) => {
          const task = byId.get(id);
          return task ? [{ task, to: back(to) }] : [];
        }),
      }),
    );
  });
  return found.sort((a, b) => toDay(a.week) - toDay(b.week) || a.holder.localeCompare(b.holder));
}
