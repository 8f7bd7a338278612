/**
 * Work of one holder spread over weeks: what could wait where a week holds more than can be done in it. Each task may go
 * into any week up to the one in which it must begin at the latest; none is moved twice, and of one plan one at most,
 * since what waits for it moves along.
 */

export type WeekTask = {
  readonly id: string;
  /** The plan that it belongs to. */
  readonly plan: string;
  /** The week in which it can begin at the earliest, counted from any Monday. */
  readonly week: number;
  /** The week in which it must begin at the latest. */
  readonly until: number;
  readonly workingDays: number;
};

export type WeekMove = { readonly id: string; readonly from: number; readonly to: number };
/** A week with more in it than can be done. */
export type FullWeek = {
  readonly week: number;
  readonly workingDays: number;
  readonly room: number;
  readonly moves: readonly WeekMove[];
  /** What stays too much, with all of these moved. */
  readonly over: number;
};

/**
 * @param room working days that the holder has in a week
 * @returns the weeks that hold too much, in their order; a move never makes another week hold too much
 */
export function relief(tasks: readonly WeekTask[], room: number): FullWeek[] {
  const load = new Map<number, number>();
  const add = (week: number, days: number) => load.set(week, (load.get(week) ?? 0) + days);
  for (const task of tasks) add(task.week, task.workingDays);
  const movedPlans = new Set<string>();
  const found: FullWeek[] = [];
  for (const week of [...load.keys()].sort((a, b) => a - b)) {
    const workingDays = load.get(week) ?? 0;
    if (workingDays <= room) continue;
    const moves: WeekMove[] = [];
    // Who can wait longest goes first: what is tight is left where it is.
    const candidates = tasks
      .filter(task => task.week === week)
      .sort((a, b) => b.until - a.until || b.workingDays - a.workingDays || a.id.localeCompare(b.id));
    for (const task of candidates) {
      if ((load.get(week) ?? 0) <= room) break;
      if (movedPlans.has(task.plan)) continue;
      const to = freeWeek(task, load, room);
      if (to === null) continue;
      add(week, -task.workingDays);
      add(to, task.workingDays);
      movedPlans.add(task.plan);
      moves.push({ id: task.id, from: week, to });
    }
    found.push({ week, workingDays, room, moves, over: Math.max(0, (load.get(week) ?? 0) - room) });
  }
  return found;
}

/** The first week in which there is room for all of it. */
function freeWeek({ week, until, workingDays }: WeekTask, load: ReadonlyMap<number, number>, room: number) {
  for (let to = week + 1; to <= until; to++) if ((load.get(to) ?? 0) + workingDays <= room) return to;
  return null;
}
