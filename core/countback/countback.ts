/**
 * A plan counted back from a date: what can be finished when, and what must be finished by when.
 *
 * Forwards from today, each task begins on the working day after everything that it waits for is finished. Backwards from
 * the date, each must be finished before the last start of all that waits for it. The working days from the one to the
 * other are its slack.
 */
import type { DayNumber } from '../time/index.ts';
import type { Ordinal, WorkdayLine } from './workdayLine.ts';

export type CountedTask = {
  readonly id: string;
  /** How long it takes; 1 or more. */
  readonly workingDays: number;
  /** Ids of what it waits for. */
  readonly after: readonly string[];
  /** How many working days before the date it must be finished; 0 is the last working day before it. */
  readonly daysBefore: number;
  /** A finished task holds nothing up, whatever the day. */
  readonly done: boolean;
  /** It cannot begin before this day. */
  readonly notBefore?: DayNumber;
};

export type TaskState = 'late' | 'tight' | 'fine';

/** A task that is not finished, in its plan. */
export type PlannedTask = {
  readonly id: string;
  readonly earliestStart: DayNumber;
  readonly earliestFinish: DayNumber;
  readonly latestStart: DayNumber;
  readonly latestFinish: DayNumber;
  /** Working days from the earliest to the latest finish; below 0 when it is late. */
  readonly slack: number;
  readonly state: TaskState;
};

export type Countback =
  | {
      /** What is not finished, in the order given. */
      tasks: readonly PlannedTask[];
      /** Whether no task is late. */
      feasible: boolean;
      /** The ids of the chain that decides: a path of least slack, in the order of time. */
      chain: readonly string[];
    }
  | { error: 'circle'; tasks: readonly string[] }
  | { error: 'no working day' };

export type CountbackOf = {
  readonly startDate: DayNumber;
  readonly today: DayNumber;
  readonly line: WorkdayLine;
  /** Slack up to this many working days is tight. */
  readonly tightWithin: number;
  /** What `after` names must be among them. */
  readonly tasks: readonly CountedTask[];
};

/** The tasks by their places, those that others wait for first; or those of a circle. */
function inOrder(tasks: readonly CountedTask[], places: ReadonlyMap<string, number>): number[] | { circle: number[] } {
  const waits = tasks.map(task => new Set(task.after).size);
  const followers: number[][] = tasks.map(() => []);
  tasks.forEach((task, n) => {
    for (const id of new Set(task.after)) followers[places.get(id) as number].push(n);
  });
  const order = waits.flatMap((count, n) => (count === 0 ? [n] : []));
  for (let at = 0; at < order.length; at++)
    for (const follower of followers[order[at]]) if (--waits[follower] === 0) order.push(follower);
  if (order.length === tasks.length) return order;
  // What is left over waits for a circle or stands in one; walking back from anywhere in it ends in the circle itself.
  const left = (n: number) => waits[n] > 0;
  const path: number[] = [];
  let at = waits.findIndex(count => count > 0);
  while (!path.includes(at)) {
    path.push(at);
    at = places.get(tasks[at].after.find(id => left(places.get(id) as number)) as string) as number;
  }
  return { circle: path.slice(path.indexOf(at)).reverse() };
}

type Span = { start: Ordinal; finish: Ordinal };

export function countback({ startDate, today, line, tightWithin, tasks }: CountbackOf): Countback {
  const places = new Map(tasks.map((task, n) => [task.id, n]));
  const order = inOrder(tasks, places);
  if ('circle' in order) return { error: 'circle', tasks: order.circle.map(n => tasks[n].id) };
  const first = line.onOrAfter(today);
  const last = line.before(startDate);
  if (first === undefined || last === undefined) return { error: 'no working day' };

  const early: Span[] = [];
  const late: Span[] = [];
  /** What decides its latest finish: a task, or nothing for the date. */
  const hurried: (number | null)[] = tasks.map(() => null);

  for (const n of order) {
    const task = tasks[n];
    if (task.done) continue;
    let start = first;
    if (task.notBefore !== undefined) {
      const opens = line.onOrAfter(task.notBefore);
      if (opens === undefined) return { error: 'no working day' };
      start = Math.max(start, opens);
    }
    for (const id of task.after) {
      const before = places.get(id) as number;
      if (!tasks[before].done) start = Math.max(start, early[before].finish + 1);
    }
    early[n] = { start, finish: start + task.workingDays - 1 };
  }
  for (const n of order.toReversed()) {
    const task = tasks[n];
    if (task.done) continue;
    const own = last - task.daysBefore;
    let finish = late[n]?.finish ?? own;
    if (own < finish) {
      finish = own;
      hurried[n] = null;
    }
    late[n] = { start: finish - task.workingDays + 1, finish };
    for (const id of task.after) {
      const before = places.get(id) as number;
      if (tasks[before].done || (late[before] && late[before].finish <= late[n].start - 1)) continue;
      late[before] = { start: 0, finish: late[n].start - 1 };
      hurried[before] = n;
    }
  }

  const planned: PlannedTask[] = [];
  const slackOf = (n: number) => late[n].finish - early[n].finish;
  for (const [n, task] of tasks.entries()) {
    if (task.done) continue;
    const days = [early[n].start, early[n].finish, late[n].start, late[n].finish].map(line.day);
    if (days.includes(undefined)) return { error: 'no working day' };
    const [earliestStart, earliestFinish, latestStart, latestFinish] = days as DayNumber[];
    const slack = slackOf(n);
    const state = slack < 0 ? 'late' : slack <= tightWithin ? 'tight' : 'fine';
    planned.push({ id: task.id, earliestStart, earliestFinish, latestStart, latestFinish, slack, state });
  }
  const open = order.filter(n => !tasks[n].done);
  return {
    tasks: planned,
    feasible: planned.every(task => task.slack >= 0),
    chain: chainOf(open, slackOf, hurried).map(n => tasks[n].id),
  };
}

/**
 * From the first task of least slack on along what hurries it. Whatever holds a task of least slack has the least slack
 * itself, so nothing that stands before the first one belongs to the chain.
 * @param order what others wait for comes first
 */
function chainOf(
  order: readonly number[],
  slackOf: (n: number) => number,
  hurried: readonly (number | null)[],
): number[] {
  if (order.length === 0) return [];
  const least = order.reduce((found, n) => (slackOf(n) < slackOf(found) ? n : found), order[0]);
  const chain: number[] = [];
  for (let at: number | null = least; at !== null; at = hurried[at]) chain.push(at);
  return chain;
}
