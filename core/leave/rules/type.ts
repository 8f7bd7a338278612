/**
 * Leave types: what a kind of leave counts, which balance it takes from, and what must be kept to when it is asked for. What
 * a type says holds from a day on; leave goes by what holds on its first day.
 */
import { z } from 'zod';
import { CivilDate, MonthDay } from '../../time/index.ts';
import { Counting, Portion } from '../counting.ts';

/** What comes of a limit that is met: it may not be asked for, or with a reason alone, or is said and no more. */
export const Strength = z.enum(['stops', 'asks why', 'warns']);
export type Strength = z.infer<typeof Strength>;

const days = z.number().int().min(1).max(3660);
const name = z.string().trim().min(1).max(200);

/** What must be kept to when leave is asked for. Days are calendar days where nothing else is said. */
export const Limit = z.discriminatedUnion('rule', [
  /** Leave of more than `over` days is asked for so many days before it begins. */
  z.strictObject({ rule: z.literal('notice'), over: z.number().int().min(0).max(366), days, how: Strength }),
  /** No more than so many days as they are counted, in one calendar year. */
  z.strictObject({ rule: z.literal('most a year'), days: z.number().min(0.5).max(366), how: Strength }),
  /** No more than so many days as they are counted, for one event: a birth, a death, a move. */
  z.strictObject({ rule: z.literal('most an event'), days: z.number().min(0.5).max(366), how: Strength }),
  /** No more than so many days as they are counted for each child under an age, in one calendar year. */
  z.strictObject({
    rule: z.literal('most a year for each child'),
    days: z.number().min(0.5).max(366),
    under: z.number().int().min(1).max(30),
    how: Strength,
  }),
  /** No more than so many days between a holiday and other free days, in one calendar year. */
  z.strictObject({ rule: z.literal('bridge days'), days: z.number().int().min(0).max(60), how: Strength }),
  /** Whoever had it in these days of the year before lets others go first. */
  z.strictObject({ rule: z.literal('turn'), name, from: MonthDay, to: MonthDay, how: Strength }),
  /** No more than so many days as they are counted, in all the time that somebody works here. */
  z.strictObject({ rule: z.literal('most ever'), days: z.number().min(0.5).max(3660), how: Strength }),
  /** No longer than so many days without a scheduled day between. */
  z.strictObject({ rule: z.literal('longest run'), days, how: Strength }),
  /** Not before so many months after joining. */
  z.strictObject({ rule: z.literal('waiting'), months: z.number().int().min(1).max(120), how: Strength }),
  /** Not in these days: the same ones each year, or once. */
  z
    .strictObject({
      rule: z.literal('closed'),
      name,
      from: z.union([MonthDay, CivilDate]),
      to: z.union([MonthDay, CivilDate]),
      how: Strength,
    })
    .refine(({ from, to }) => from.length === to.length, {
      path: ['to'],
      message: 'Both ends are days of every year, or both are dates.',
    })
    // Days of every year may go over its turn.
    .refine(({ from, to }) => from.length <= 5 || from.length !== to.length || from <= to, {
      path: ['to'],
      message: 'It ends before it begins.',
    }),
  /** Not where fewer would be here than are needed. */
  z.strictObject({ rule: z.literal('presence'), how: Strength }),
  /** A paper is due from the day after so many on. */
  z.strictObject({ rule: z.literal('evidence'), after: z.number().int().min(0).max(366) }),
]);
export type Limit = z.infer<typeof Limit>;

export const LeaveTypeRules = z.object({
  id: z.string().min(1),
  name: z.string().min(1),
  counting: Counting,
  dayMinutes: z.number().int().positive().multipleOf(2),
  /** From the person's plan, from time earned (adjustments alone, in hours), from another type's, or from no balance at all. */
  takesFrom: z.enum(['plan', 'earned', 'other', 'nothing']),
  /** The type whose balance it takes from, where that is another one's. */
  balanceOf: z.string().min(1).max(40).optional(),
  /** How far below zero a request may take the balance. */
  overdraft: z.number().nonnegative(),
  /** The smallest portion, in days, when it is asked for with times; half a day where nothing is said. */
  portion: Portion.optional(),
  /** Whether it may be asked for with times. */
  times: z.boolean().optional(),
  /** Whether its last day may be told later: it goes on until then. For kinds that take from no balance. */
  openEnd: z.boolean().optional(),
  /** The longest span in calendar days; two years where nothing is said. */
  longest: z.number().int().min(1).max(3660).optional(),
  /** How many days back it may be asked for; not at all where nothing is said. */
  daysBack: z.number().int().min(0).max(3660).optional(),
  /** How many days ahead it may begin when it is asked for: 0 where it is told as it begins; any number where nothing is said. */
  daysAhead: z.number().int().min(0).max(3660).optional(),
  /** Whom to turn to for what lies further back; HR operations where nothing is said. */
  turnTo: z.string().min(1).max(200).optional(),
  /** Inside booked leave of another type: refused where nothing is said, or the days taken there are given back. */
  insideLeave: z.enum(['refused', 'gives back']).optional(),
  limits: z.array(Limit).max(40).optional(),
  /** From the day after so many days of it on, nothing is earned on plans; it is earned throughout where nothing is said. */
  earnsUntil: z.number().int().min(0).max(3660).optional(),
  /** Of time earned: for so many months it can be taken, the oldest first; always where nothing is said. */
  earnedMonths: z.number().int().min(1).max(120).optional(),
  /** Of time earned: no more than so many hours stand on it; what comes above is not put on. */
  earnedMost: z.number().positive().max(10_000).optional(),
  /** What pay knows it by. */
  payCode: z.string().trim().min(1).max(40).optional(),
  /** What pay knows it by from the day after so many of one absence on, by the calendar. */
  payLater: z
    .array(z.strictObject({ after: z.number().int().min(1).max(3660), code: z.string().trim().min(1).max(40) }))
    .max(5)
    .optional(),
  /** Absences of one cause count as one where not more than so many months lie between them; HR says which have one. */
  spellMonths: z.number().int().min(1).max(60).optional(),
  /** On which days of one absence, by the calendar, HR is told. */
  tellsHr: z.array(z.number().int().min(1).max(3660)).max(10).optional(),
  /** So many days before somebody is back from it, HR and their manager are told, with the post of before. */
  tellsReturn: z.number().int().min(1).max(366).optional(),
  /** Who reads which kind it is besides the person: the line above them where nothing is said, or HR alone. */
  kindReadBy: z.enum(['line', 'HR']).optional(),
});
export type LeaveTypeRules = z.infer<typeof LeaveTypeRules>;

/** A type through time: what it says from the first, and from which day on it says something else. */
export const LeaveType = LeaveTypeRules.extend({
  later: z
    .array(z.object({ from: CivilDate, rules: LeaveTypeRules }))
    .max(60)
    .optional(),
});
export type LeaveType = z.infer<typeof LeaveType>;

/** What a type says on a day. */
export function typeOn(type: LeaveType, day: CivilDate): LeaveTypeRules {
  let found: LeaveTypeRules = type;
  let since = '';
  for (const { from, rules } of type.later ?? []) {
    if (from <= day && from >= since) {
      found = rules;
      since = from;
    }
  }
  return found;
}

const Id = z.string().min(1).max(40);

/** So many people of a place, of a department, or of a department at a place are needed. */
export const LeastPresence = z.strictObject({
  id: Id,
  name: z.string().trim().min(1).max(200),
  place: Id.nullable(),
  department: Id.nullable(),
  people: z.number().int().min(1).max(10_000),
  /** ISO weekdays on which they are; every day where none is said. */
  weekdays: z.array(z.number().int().min(1).max(7)).max(7),
  /** The days on which it holds, both included; always where nothing is said. */
  from: CivilDate.nullable(),
  to: CivilDate.nullable(),
});
export type LeastPresence = z.infer<typeof LeastPresence>;
