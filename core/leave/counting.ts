/** How many days and minutes of leave a span takes. */
import { z } from 'zod';
import {
  type DayNumber,
  fromDay,
  type Half,
  Holiday,
  halfIndex,
  type Part,
  toDay,
  type WorkingTime,
  WorkPattern,
  weekday,
  workingTime,
} from '../time/index.ts';
import { endsBeforeItStarts, HalfSpan, halvesOf, minutesSpan, TimeSpan } from './span.ts';

/** `scheduled`: halves of the person's pattern; `weekday`: halves of Monday to Friday; `calendar`: every half. */
export const Counting = z.enum(['scheduled', 'weekday', 'calendar']);
export type Counting = z.infer<typeof Counting>;

export const CountingRule = z.object({
  counting: Counting,
  dayMinutes: z.number().int().positive().multipleOf(2),
});
export type CountingRule = z.infer<typeof CountingRule>;

const Facts = z.object({ patterns: z.array(WorkPattern), holidays: z.array(Holiday) });
/** With times the counting does not matter and may be left out. */
export const LeaveDaysInput = z.union([
  Facts.extend(CountingRule.shape).extend(HalfSpan.shape),
  Facts.extend(TimeSpan.shape),
]);
export type LeaveDaysInput = z.infer<typeof LeaveDaysInput>;

export type LeaveAmount = { days: number; minutes: number } | { minutes: number };
export type Counted = LeaveAmount | { error: 'ends before it starts' };

/** Minutes of the parts that lie inside a stretch of the wall clock; overnight parts of the day before count. */
function minutesInside(time: WorkingTime, start: number, end: number): number {
  let sum = 0;
  let cursor = start;
  for (let day = Math.floor(start / 1440) - 1; day * 1440 < end; day++) {
    const { am, pm } = time.parts(day);
    for (const part of [am, pm]) {
      if (!part) continue;
      const from = Math.max(cursor, day * 1440 + part.start);
      const to = Math.min(end, day * 1440 + part.end);
      if (to <= from) continue;
      sum += to - from;
      cursor = to;
    }
  }
  return sum;
}

/** Minutes of a span with times. */
export function countTimed(
  time: WorkingTime,
  span: TimeSpan,
): { minutes: number } | { error: 'ends before it starts' } {
  if (endsBeforeItStarts(span)) return { error: 'ends before it starts' };
  const { start, end } = minutesSpan(span);
  return { minutes: minutesInside(time, start, end) };
}

/** Days and minutes of a span by halves, in constant time inside the index's window. */
export function countHalves(
  time: WorkingTime,
  rule: CountingRule,
  span: HalfSpan,
): { days: number; minutes: number } | { error: 'ends before it starts' } {
  if (endsBeforeItStarts(span)) return { error: 'ends before it starts' };
  const { first, last } = halvesOf(span);
  if (rule.counting === 'scheduled') {
    const { halves, minutes } = time.scheduled(first, last);
    return { days: halves / 2, minutes };
  }
  const halves = rule.counting === 'weekday' ? time.weekdays(first, last) : last - first + 1;
  return { days: halves / 2, minutes: (halves * rule.dayMinutes) / 2 };
}

export function leaveDays(input: LeaveDaysInput): Counted {
  const window = { first: toDay(input.from.date), last: Math.max(toDay(input.from.date) - 1, toDay(input.to.date)) };
  const time = workingTime(input.patterns, input.holidays, boundedWindow(window));
  return 'counting' in input ? countHalves(time, input, input) : countTimed(time, input);
}

/** A window worth building sums for; longer spans are rare and walk. */
const boundedWindow = (window: { first: DayNumber; last: DayNumber }) => ({
  first: window.first,
  last: Math.min(window.last, window.first + 36_525),
});

export type DayReason = { date: string; days: number; minutes: number; reason: string };

const clockText = (minutes: number): string =>
  `${String(Math.floor(minutes / 60) % 24).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
const partText = (part: Part): string => `${clockText(part.start)} to ${clockText(part.end)}`;

/** Each day of a span by halves with what it counts and why: the answer to "Why 4½ days?". */
export function explainLeave(time: WorkingTime, rule: CountingRule, span: HalfSpan): DayReason[] {
  const { first, last } = halvesOf(span);
  const reasons: DayReason[] = [];
  for (let day = toDay(span.from.date); day <= toDay(span.to.date); day++) {
    let halves = 0;
    let minutes = 0;
    const said: string[] = [];
    for (const half of ['am', 'pm'] as Half[]) {
      const index = halfIndex(day, half);
      const word = half === 'am' ? 'morning' : 'afternoon';
      if (index < first || index > last) {
        said.push(`${word} not asked for`);
        continue;
      }
      const found = half === 'am' ? time.parts(day).am : time.parts(day).pm;
      const planned = time.schedule(day)[half];
      const holiday = time.holidays.get(day);
      if (rule.counting === 'calendar') {
        halves++;
        minutes += rule.dayMinutes / 2;
        said.push(`${word} counts`);
      } else if (holiday?.[half] && (planned || rule.counting === 'weekday')) {
        said.push(`${word} off: ${holiday.name}`);
      } else if (rule.counting === 'weekday') {
        if (weekday(day) > 5) said.push(`${word} is weekend`);
        else {
          halves++;
          minutes += rule.dayMinutes / 2;
          said.push(`${word} counts`);
        }
      } else if (found) {
        halves++;
        minutes += found.end - found.start;
        said.push(`${word} ${partText(found)}`);
      } else said.push(`${word} not worked`);
    }
    reasons.push({ date: fromDay(day), days: halves / 2, minutes, reason: joinHalves(said) });
  }
  return reasons;
}

/** "morning not worked, afternoon not worked" reads better as "not worked". */
function joinHalves([morning, afternoon]: string[]): string {
  const am = morning.replace(/^morning /, '');
  const pm = afternoon.replace(/^afternoon /, '');
  return am === pm ? am : `${morning}, ${afternoon}`;
}
