/** When something is due, counted in a person's working days or working hours. */
import { z } from 'zod';
import { toDay } from './civilDate.ts';
import { Holiday } from './holidays.ts';
import { WorkPattern } from './pattern.ts';
import { Instant, Zone } from './schemas.ts';
import { type WorkingTime, workingTime } from './workingTime.ts';
import { civilDateAt, toInstant, toMilliseconds, wallClock } from './zone.ts';

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

/** Working hours that lie between two instants; 0 when the second comes first. */
export function workingHoursBetween(time: WorkingTime, zone: string, from: Instant, to: Instant): number {
  const [begin, end] = [toMilliseconds(from), toMilliseconds(to)];
  let sum = 0;
  for (let day = toDay(civilDateAt(from, zone)); day <= toDay(civilDateAt(to, zone)); day++) {
    const { am, pm } = time.parts(day);
    for (const part of [am, pm]) {
      if (!part) continue;
      const start = Math.max(begin, wallClock(day, part.start, zone));
      sum += Math.max(0, Math.min(end, wallClock(day, part.end, zone)) - start);
    }
  }
  return sum / 3_600_000;
}

export function deadline(input: DeadlineInput): Deadline {
  const today = toDay(civilDateAt(input.from, input.zone));
  const time = workingTime(input.patterns, input.holidays, { first: today, last: today - 1 });
  return deadlineFrom(time, input.zone, input.from, input.add);
}

const isWorking = (time: WorkingTime, day: number): boolean => {
  const { am, pm } = time.parts(day);
  return am !== null || pm !== null;
};

/**
 * The day that lies `n` working days before `day` (`n` is 0: the day itself, or the last working day before it),
 * forwards when `n` is below 0; nothing when there is no working time for 4,000 days.
 */
export function workingDayFrom(time: WorkingTime, day: number, n: number): number | undefined {
  const step = n < 0 ? 1 : -1;
  let left = Math.abs(n);
  let at = day;
  if (left === 0) {
    for (let far = 0; far <= farthest; far++, at--) if (isWorking(time, at)) return at;
    return undefined;
  }
  for (let far = 0; far <= farthest; far++) {
    at += step;
    if (isWorking(time, at) && --left === 0) return at;
  }
  return undefined;
}

/** Working days after the first day, up to and with the second; below 0 when the second is earlier. */
export function workingDaysBetween(time: WorkingTime, first: number, second: number): number {
  if (second < first) return -workingDaysBetween(time, second, first);
  let days = 0;
  for (let day = first + 1; day <= second; day++) if (isWorking(time, day)) days++;
  return days;
}

/** When the working time of a day ends; nothing on a day without any. */
export function endOfWork(time: WorkingTime, day: number, zone: string): Instant | undefined {
  const { am, pm } = time.parts(day);
  return am || pm ? toInstant(wallClock(day, Math.max(am?.end ?? 0, pm?.end ?? 0), zone)) : undefined;
}
