/** How many days and minutes of leave a span takes. */
import { z } from 'zod';
import {
  amountOfUnit,
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
  wholeDay,
  workingTime,
} from '../time/index.ts';
import { decimal, type Fraction, fraction, minus, plus, roundTo, toNumber, zero } from './balances/fraction.ts';
import { endsBeforeItStarts, HalfSpan, halvesOf, isTimed, type LeaveSpan, minutesSpan, TimeSpan } from './span.ts';

/** `scheduled`: halves of the person's pattern; `weekday`: halves of Monday to Friday; `calendar`: every half. */
export const Counting = z.enum(['scheduled', 'weekday', 'calendar']);
export type Counting = z.infer<typeof Counting>;

export const CountingRule = z.object({
  counting: Counting,
  dayMinutes: z.number().int().positive().multipleOf(2),
});
export type CountingRule = z.infer<typeof CountingRule>;

const Facts = z.object({ patterns: z.array(WorkPattern), holidays: z.array(Holiday) });
/** The smallest portion of a leave type, in days. */
export const Portion = z.number().positive().max(10);
/** With times the counting does not matter and may be left out; days are counted where a portion is said. */
export const LeaveDaysInput = z.union([
  Facts.extend(CountingRule.shape).extend(HalfSpan.shape),
  Facts.extend({ portion: Portion.optional() }).extend(TimeSpan.shape),
]);
export type LeaveDaysInput = z.infer<typeof LeaveDaysInput>;

type EndsEarly = { error: 'ends before it starts' };
const endsEarly: EndsEarly = { error: 'ends before it starts' };
export type LeaveAmount = { days: number; minutes: number } | { minutes: number };
export type Counted = LeaveAmount | EndsEarly;

/** A part that lies in a stretch of the wall clock, wholly or in part. */
type PartInside = {
  readonly day: DayNumber;
  readonly part: Part;
  readonly half: Half;
  /** Its minutes inside the stretch. */
  readonly inside: number;
  /** Those of them that no part before it has had: parts that overlap are worked once. */
  readonly fresh: number;
};

/** The scheduled parts that lie in a stretch of the wall clock; overnight parts of the day before count. */
export function* partsInside(time: WorkingTime, start: number, end: number): Generator<PartInside> {
  let cursor = start;
  for (let day = Math.floor(start / 1440) - 1; day * 1440 < end; day++) {
    const parts = time.parts(day);
    for (const half of ['am', 'pm'] as const) {
      const part = parts[half];
      if (!part) continue;
      const from = day * 1440 + part.start;
      const to = Math.min(end, day * 1440 + part.end);
      const inside = to - Math.max(start, from);
      if (inside <= 0) continue;
      const fresh = Math.max(0, to - Math.max(cursor, from));
      cursor = Math.max(cursor, to);
      yield { day, part, half, inside, fresh };
    }
  }
}

/** What a part counts in days for the share of its minutes that is taken. */
const sharedDays = ({ part, inside }: PartInside): Fraction =>
  fraction(BigInt(part.share) * BigInt(inside), BigInt(wholeDay) * BigInt(part.end - part.start));

/**
 * A span with times: its minutes, and, where the smallest portion is said, its days: each part counts the share of its
 * minutes that is taken times what it counts in days, and the sum goes up to a whole portion.
 */
export function countTimed(time: WorkingTime, span: TimeSpan): { minutes: number } | EndsEarly;
export function countTimed(
  time: WorkingTime,
  span: TimeSpan,
  portion: number,
): { days: number; minutes: number } | EndsEarly;
export function countTimed(time: WorkingTime, span: TimeSpan, portion?: number): Counted {
  if (endsBeforeItStarts(span)) return endsEarly;
  const { start, end } = minutesSpan(span);
  let minutes = 0;
  let days = zero;
  for (const found of partsInside(time, start, end)) {
    minutes += found.fresh;
    if (portion !== undefined) days = plus(days, sharedDays(found));
  }
  return portion === undefined ? { minutes } : { days: toNumber(roundTo(days, decimal(portion), 'up')), minutes };
}

/** The share of a day's scheduled minutes that a span with times takes: one where nothing is scheduled. */
export function shareOfTimedDay(time: WorkingTime, span: TimeSpan, day: DayNumber): number {
  const { am, pm } = time.parts(day);
  const scheduled = (am ? am.end - am.start : 0) + (pm ? pm.end - pm.start : 0);
  if (scheduled === 0) return 1;
  const { start, end } = minutesSpan(span);
  let taken = 0;
  for (const found of partsInside(time, start, end)) if (found.day === day) taken += found.fresh;
  return taken / scheduled;
}

/** Days and minutes of a span by halves, in constant time inside the index's window. */
export function countHalves(
  time: WorkingTime,
  rule: CountingRule,
  span: HalfSpan,
): { days: number; minutes: number } | EndsEarly {
  if (endsBeforeItStarts(span)) return endsEarly;
  const { first, last } = halvesOf(span);
  if (rule.counting === 'scheduled') return time.scheduled(first, last);
  const halves = rule.counting === 'weekday' ? time.weekdays(first, last) : last - first + 1;
  return { days: halves / 2, minutes: (halves * rule.dayMinutes) / 2 };
}

/** What one day of a span counts. Days are exact. */
export type DayCount = { readonly day: DayNumber; readonly days: Fraction; readonly minutes: number };

/** What one half of a day counts by a rule; nothing when it does not count. */
function halfCount(time: WorkingTime, rule: CountingRule, day: DayNumber, half: Half) {
  const byRule = { share: wholeDay / 2, minutes: rule.dayMinutes / 2 };
  if (rule.counting === 'calendar') return byRule;
  if (rule.counting === 'weekday') return weekday(day) <= 5 && !time.holidays.get(day)?.[half] ? byRule : undefined;
  const part = time.parts(day)[half];
  return part ? { share: part.share, minutes: part.end - part.start } : undefined;
}

/** Whether a half of a day counts by a rule. */
export const countsHalf = (time: WorkingTime, rule: CountingRule, index: number): boolean =>
  halfCount(time, rule, Math.floor(index / 2), index % 2 === 0 ? 'am' : 'pm') !== undefined;

const sumUp = (byDay: Map<DayNumber, { days: Fraction; minutes: number }>, day: DayNumber) => {
  const known = byDay.get(day);
  if (known) return known;
  const sums = { days: zero, minutes: 0 };
  byDay.set(day, sums);
  return sums;
};

/** Shares of a day as fractions: there are few, and every day of every booking asks for one. */
const shares = new Map<number, Fraction>();
function shareOfDay(share: number): Fraction {
  const known = shares.get(share);
  if (known) return known;
  const found = fraction(BigInt(share), BigInt(wholeDay));
  shares.set(share, found);
  return found;
}

function countDaysByHalves(
  time: WorkingTime,
  rule: CountingRule,
  span: HalfSpan,
  skip: ((day: DayNumber, half: Half) => boolean) | undefined,
): DayCount[] {
  const { first, last } = halvesOf(span);
  const found: DayCount[] = [];
  for (let day = Math.floor(first / 2); day * 2 <= last; day++) {
    let share = 0;
    let minutes = 0;
    let isCounted = false;
    for (const half of ['am', 'pm'] as const) {
      const index = day * 2 + (half === 'pm' ? 1 : 0);
      if (index < first || index > last) continue;
      const counted = skip?.(day, half) ? undefined : halfCount(time, rule, day, half);
      if (!counted) continue;
      isCounted = true;
      share += counted.share;
      minutes += counted.minutes;
    }
    if (isCounted) found.push({ day, days: shareOfDay(share), minutes });
  }
  return found;
}

/**
 * The days of a span that count something, in order; together they are what the span counts.
 * A part that began the day before a span with times is reckoned to the span's first day.
 * @param skip whether a half is left out, as when sickness gives it back
 */
export function countDays(
  time: WorkingTime,
  rule: CountingRule & { portion?: number | null },
  span: LeaveSpan,
  skip?: (day: DayNumber, half: Half) => boolean,
): DayCount[] {
  if (endsBeforeItStarts(span)) return [];
  if (!isTimed(span)) return countDaysByHalves(time, rule, span, skip);
  const byDay = new Map<DayNumber, { days: Fraction; minutes: number }>();
  const { start, end } = minutesSpan(span);
  for (const found of partsInside(time, start, end)) {
    if (skip?.(found.day, found.half)) continue;
    const sums = sumUp(byDay, Math.max(found.day, toDay(span.from.date)));
    sums.days = plus(sums.days, sharedDays(found));
    sums.minutes += found.fresh;
  }
  // Each day takes what the running sum, gone up to a whole portion, has grown by: so the days add up to the whole.
  const portion = decimal(rule.portion ?? defaultPortion);
  let exact = zero;
  let given = zero;
  return [...byDay].map(([day, sums]) => {
    exact = plus(exact, sums.days);
    const due = roundTo(exact, portion, 'up');
    const days = minus(due, given);
    given = due;
    return { day, days, minutes: sums.minutes };
  });
}

/** Where a leave type says nothing of it, half a day is the smallest portion. */
export const defaultPortion = 0.5;

export function leaveDays(input: LeaveDaysInput): Counted {
  const window = { first: toDay(input.from.date), last: Math.max(toDay(input.from.date) - 1, toDay(input.to.date)) };
  const time = workingTime(input.patterns, input.holidays, boundedWindow(window));
  if ('counting' in input) return countHalves(time, input, input);
  return input.portion === undefined ? countTimed(time, input) : countTimed(time, input, input.portion);
}

/** A window worth building sums for; longer spans are rare and walk. */
const boundedWindow = (window: { first: DayNumber; last: DayNumber }) => ({
  first: window.first,
  last: Math.min(window.last, window.first + 36_525),
});

export type DayReason = { date: string; days: number; minutes: number; reason: string };

const clockText = (minutes: number): string =>
  `${String(Math.floor(minutes / 60) % 24).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
const partText = (part: Pick<Part, 'start' | 'end'>): string => `${clockText(part.start)} to ${clockText(part.end)}`;

const halfWord = { am: 'morning', pm: 'afternoon' } as const;

/** What a part counts, where that is not the usual half of a day. */
const shareWords = (part: Part): string =>
  part.share * 2 === wholeDay ? '' : ` (counts ${amountOfUnit(part.share / wholeDay, 'days')})`;

/** Each day of a span with what it counts and why: the answer to "Why 4½ days?". */
export function explainLeave(
  time: WorkingTime,
  rule: CountingRule & { portion?: number | null },
  span: LeaveSpan,
): DayReason[] {
  const counted = new Map(countDays(time, rule, span).map(count => [count.day, count]));
  const of = (day: DayNumber, reason: string): DayReason => {
    const count = counted.get(day);
    return { date: fromDay(day), days: count ? toNumber(count.days) : 0, minutes: count?.minutes ?? 0, reason };
  };
  const reasons: DayReason[] = [];
  const last = toDay(span.to.date);
  for (let day = toDay(span.from.date); day <= last; day++) {
    reasons.push(of(day, isTimed(span) ? timedReason(time, span, day) : halvesReason(time, rule, span, day)));
  }
  return reasons;
}

function timedReason(time: WorkingTime, span: TimeSpan, day: DayNumber): string {
  const { start, end } = minutesSpan(span);
  const first = toDay(span.from.date);
  const said: string[] = [];
  for (const found of partsInside(time, start, end)) {
    if (Math.max(found.day, first) !== day) continue;
    const part = { start: found.day * 1440 + found.part.start, end: found.day * 1440 + found.part.end };
    const taken = { start: Math.max(part.start, start), end: Math.min(part.end, end) };
    const all = taken.start === part.start && taken.end === part.end;
    said.push(
      all
        ? `${partText(found.part)}${shareWords(found.part)}`
        : `${partText(taken)} of ${partText(found.part)}${shareWords(found.part)}`,
    );
  }
  if (said.length > 0) return said.join(', ');
  const off = time.holidays.get(day);
  const planned = time.schedule(day);
  return off && (planned.am || planned.pm) ? `off: ${off.name}` : 'not worked in these times';
}

function halvesReason(time: WorkingTime, rule: CountingRule, span: HalfSpan, day: DayNumber): string {
  const { first, last } = halvesOf(span);
  const said = (['am', 'pm'] as const).map(half => {
    const index = halfIndex(day, half);
    const word = halfWord[half];
    if (index < first || index > last) return `${word} not asked for`;
    if (rule.counting === 'calendar') return `${word} counts`;
    const holiday = time.holidays.get(day);
    const isOff = holiday?.[half] && !(rule.counting === 'scheduled' && time.schedule(day).worked);
    if (holiday && isOff && (time.schedule(day)[half] || rule.counting === 'weekday'))
      return `${word} off: ${holiday.name}`;
    if (rule.counting === 'weekday') return weekday(day) > 5 ? `${word} is weekend` : `${word} counts`;
    const found = time.parts(day)[half];
    if (!found) return `${word} not worked`;
    // A part after dark is called by its times, whichever half of the pattern it stands in.
    return found.end > 1440
      ? `night ${partText(found)}${shareWords(found)}`
      : `${word} ${partText(found)}${shareWords(found)}`;
  });
  return joinHalves(said);
}

/** "morning not worked, afternoon not worked" reads better as "not worked"; a day of one part is that part alone. */
function joinHalves([morning, afternoon]: string[]): string {
  const am = morning.replace(/^morning /, '');
  const pm = afternoon.replace(/^afternoon /, '');
  if (am === pm) return am;
  if (am === 'not worked') return afternoon;
  return `${morning}, ${afternoon}`;
}
