/** Countback by itself, for the calculation door: everything that it looks at is given. */
import { z } from 'zod';
import { CivilDate, fromDay, toDay, weekday } from '../time/index.ts';
import { countback } from './countback.ts';
import { workdayLine } from './workdayLine.ts';

const most = 2000;
const Id = z.string().min(1).max(200);

export const CountbackInput = z
  .object({
    startDate: CivilDate,
    today: CivilDate,
    /** ISO weekdays, 1 Monday to 7 Sunday. */
    workdays: z.array(z.number().int().min(1).max(7)).min(1).max(7).default([1, 2, 3, 4, 5]),
    holidays: z.array(CivilDate).max(10_000).default([]),
    tightWithin: z.number().int().min(0).max(400).default(0),
    tasks: z
      .array(
        z.object({
          id: Id,
          workingDays: z.number().int().min(1).max(4000),
          after: z.array(Id).max(most),
          daysBefore: z.number().int().min(0).max(4000).default(0),
          doneOn: CivilDate.optional(),
        }),
      )
      .max(most),
  })
  .superRefine(({ tasks }, context) => {
    const ids = new Set(tasks.map(task => task.id));
    if (ids.size < tasks.length) context.addIssue({ code: 'custom', path: ['tasks'], message: 'names one task twice' });
    tasks.forEach((task, n) => {
      for (const id of task.after)
        if (!ids.has(id))
          context.addIssue({ code: 'custom', path: ['tasks', n, 'after'], message: `names “${id}”, which is no task` });
    });
  });
export type CountbackInput = z.infer<typeof CountbackInput>;

/** @returns the tasks in the order given, or why there is no plan */
export function countedBack({ startDate, today, workdays, holidays, tightWithin, tasks }: CountbackInput): unknown {
  const working = new Set(workdays);
  const free = new Set(holidays.map(toDay));
  const line = workdayLine(day => working.has(weekday(day)) && !free.has(day), toDay(today));
  const plan = countback({
    startDate: toDay(startDate),
    today: toDay(today),
    line,
    tightWithin,
    tasks: tasks.map(({ doneOn, ...task }) => ({ ...task, done: doneOn !== undefined })),
  });
  if ('error' in plan) return { error: plan.error };
  const planned = new Map(plan.tasks.map(task => [task.id, task]));
  return {
    tasks: tasks.map(({ id }) => {
      const found = planned.get(id);
      if (!found) return { id, state: 'done' };
      return {
        id,
        earliestFinish: fromDay(found.earliestFinish),
        latestStart: fromDay(found.latestStart),
        latestFinish: fromDay(found.latestFinish),
        slack: found.slack,
        state: found.state,
      };
    }),
    feasible: plan.feasible,
  };
}
