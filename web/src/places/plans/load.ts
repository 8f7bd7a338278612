/** Who has how much to do in which week, from all plans: each task lies where it can be done at the earliest. */
import type { PlanLineView, PlanRow } from '@north-pebble/contract';
import { type CivilDate, fromDay, toDay, weekday } from '@north-pebble/core/time';

export type LoadTask = {
  row: PlanRow;
  line: PlanLineView;
  week: CivilDate /** Later weeks into which it could go. */;
  until: CivilDate;
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
