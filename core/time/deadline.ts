/** When something is due, counted in a person's working days or working hours. */
import { z } from 'zod';
import { toDay } from './civilDate.ts';
import { Holiday } from './holidays.ts';
import { WorkPattern } from './pattern.ts';
import { type WorkingTime, workingTime } from './workingTime.ts';
import { civilDateAt, Instant, toInstant, toMilliseconds, wallClock, Zone } from './zone.ts';

export const WorkingAmount = z.union([
  z.object({ workingDays: z.number().int().positive() }).strict(),
  z.object({ workingHours: z.number().positive() }).strict(),
]);
export type WorkingAmount = z.infer<typeof WorkingAmount>;

export const DeadlineInput = z.object({
  zone: Zone,
  patterns: z.array(WorkPattern),
  holidays: z.array(Holiday),
  from: Instant,
  add: WorkingAmount,
});
export type DeadlineInput = z.infer<typeof DeadlineInput>;

export type Deadline = { due: Instant } | { error: 'no working time' };

const farthest = 4000;

/**
 * The instant at which `amount` of working time from `from` on has gone by.
 * Days: the local date of `from` is day 0, due at the end of the last part of the n-th following working day.
 * Hours: elapsed time inside the parts is used up from `from` on; due at a part's end if it ends exactly there.
 */
export function deadlineFrom(time: WorkingTime, zone: string, from: Instant, amount: WorkingAmount): Deadline {
  const today = toDay(civilDateAt(from, zone));
  if ('workingDays' in amount) {
    let left = amount.workingDays;
    for (let day = today + 1; day <= today + farthest; day++) {
      const { am, pm } = time.parts(day);
      if (!am && !pm) continue;
      if (--left === 0) return { due: toInstant(wallClock(day, Math.max(am?.end ?? 0, pm?.end ?? 0), zone)) };
    }
    return { error: 'no working time' };
  }
  let left = Math.round(amount.workingHours * 3_600_000);
  let cursor = toMilliseconds(from);
  for (let day = today - 1; day <= today + farthest; day++) {
    const { am, pm } = time.parts(day);
    for (const part of [am, pm]) {
      if (!part) continue;
      const end = wallClock(day, part.end, zone);
      if (end <= cursor) continue;
      const start = Math.max(cursor, wallClock(day, part.start, zone));
      if (end - start >= left) return { due: toInstant(start + left) };
      if (end > start) left -= end - start;
      cursor = Math.max(cursor, end);
    }
  }
  return { error: 'no working time' };
}

export function deadline(input: DeadlineInput): Deadline {
  const today = toDay(civilDateAt(input.from, input.zone));
  const time = workingTime(input.patterns, input.holidays, { first: today, last: today - 1 });
  return deadlineFrom(time, input.zone, input.from, input.add);
}
