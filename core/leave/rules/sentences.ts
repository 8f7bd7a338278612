/** Leave rules read aloud: each thing that a type or a plan says, as one sentence. */
import { amountOfUnit, amountWords, type CivilDate, fullDate, listWords, weekdayNames } from '../../time/index.ts';
import type { PlanRules } from '../balances/plan.ts';
import type { LeastPresence, LeaveTypeRules, Limit, Strength } from './type.ts';

/** What a sentence is about, so that it can be changed in its place; for limits with the place among them. */
export type RuleSentence<About extends string = string> = { readonly about: About; readonly text: string };

const daysWords = (n: number): string => `${amountWords(n)} ${n === 1 ? 'day' : 'days'}`;
const monthNames = 'January February March April May June July August September October November December'.split(' ');

/** `31 March` of `03-31`; a date with its year as it is. */
export const yearDay = (day: string): string =>
  day.length > 5 ? fullDate(day as CivilDate) : `${Number(day.slice(3))} ${monthNames[Number(day.slice(0, 2)) - 1]}`;

const strengthWords: Record<Strength, string> = {
  stops: 'it cannot be asked for otherwise',
  'asks why': 'otherwise it takes a reason',
  warns: 'otherwise it is said and no more',
};

export function limitSentence(limit: Limit): string {
  switch (limit.rule) {
    case 'notice': {
      const what = limit.over > 0 ? `More than ${daysWords(limit.over)} at once are asked for` : 'It is asked for';
      return `${what} at least ${daysWords(limit.days)} before; ${strengthWords[limit.how]}.`;
    }
    case 'most a year':
      return `At most ${daysWords(limit.days)} are taken in a calendar year; ${strengthWords[limit.how]}.`;
    case 'most an event':
      return `At most ${daysWords(limit.days)} are taken for one event; ${strengthWords[limit.how]}.`;
    case 'most ever':
      return `At most ${daysWords(limit.days)} are taken in the whole employment; ${strengthWords[limit.how]}.`;
    case 'most a year for each child':
      return `At most ${daysWords(limit.days)} are taken in a calendar year for each child under ${limit.under}; ${strengthWords[limit.how]}.`;
    case 'bridge days':
      return limit.days === 0
        ? `It is not taken on bridge days, between a holiday and other free days; ${strengthWords[limit.how]}.`
        : `At most ${limit.days} bridge ${limit.days === 1 ? 'day' : 'days'}, between a holiday and other free days, ${limit.days === 1 ? 'is' : 'are'} taken in a calendar year; ${strengthWords[limit.how]}.`;
    case 'turn':
      return `Whoever had it in ${limit.name} last year, ${yearDay(limit.from)} to ${yearDay(limit.to)}, lets others go first; ${strengthWords[limit.how]}.`;
    case 'longest run':
      return `At most ${daysWords(limit.days)} are taken in one run, with what is booked before and after; ${strengthWords[limit.how]}.`;
    case 'waiting':
      return `It is taken from ${limit.months} ${limit.months === 1 ? 'month' : 'months'} after joining on; ${strengthWords[limit.how]}.`;
    case 'closed': {
      const when =
        limit.from === limit.to ? `on ${yearDay(limit.from)}` : `from ${yearDay(limit.from)} to ${yearDay(limit.to)}`;
      return `It is not taken in ${limit.name}, ${when}${limit.from.length > 5 ? '' : ', each year'}; ${strengthWords[limit.how]}.`;
    }
    case 'presence':
      return `It leaves as many here as are needed; ${strengthWords[limit.how]}.`;
    case 'evidence':
      return limit.after === 0
        ? 'A paper is due from the first day on.'
        : `A paper is due for more than ${daysWords(limit.after)}.`;
  }
}

const monthsWords = (n: number): string => `${n} ${n === 1 ? 'month' : 'months'}`;

/** What pay knows it by, and by what else the longer it lasts. */
function payWords({ payCode, payLater = [] }: LeaveTypeRules): string {
  const own = payCode === undefined ? 'It has no pay code' : `Its pay code is ${payCode}`;
  const later = payLater
    .toSorted((a, b) => a.after - b.after)
    .map(({ after, code }) => `${code} after ${daysWords(after)} of one absence`);
  return later.length === 0 ? `${own}.` : `${own}; it is ${listWords(later)}.`;
}

function earnedWords({ earnedMonths, earnedMost }: LeaveTypeRules): string {
  const until =
    earnedMonths === undefined
      ? 'What is earned does not lapse'
      : `What is earned lapses after ${monthsWords(earnedMonths)}, the oldest first`;
  return earnedMost === undefined ? `${until}.` : `${until}; at most ${amountOfUnit(earnedMost, 'hours')} are kept.`;
}

export type TypeAbout =
  | 'counting'
  | 'takesFrom'
  | 'overdraft'
  | 'portion'
  | 'openEnd'
  | 'longest'
  | 'daysBack'
  | 'daysAhead'
  | 'insideLeave'
  | 'earnsUntil'
  | 'kindReadBy'
  | 'earned'
  | 'payCode'
  | 'spells'
  | 'tellsHr'
  | 'tellsReturn'
  | `limits.${number}`;

/**
 * @param names of the types that it may take from
 * @returns what a leave type says, in the order in which somebody asks about it
 */
export function typeSentences(
  type: LeaveTypeRules,
  names: readonly { readonly id: string; readonly name: string }[],
): RuleSentence<TypeAbout>[] {
  const other = names.find(one => one.id === type.balanceOf)?.name.toLowerCase() ?? 'another type';
  const counted = {
    scheduled: 'It is counted by the days that are scheduled.',
    weekday: 'It is counted by Monday to Friday, less holidays.',
    calendar: 'It is counted by days of the calendar.',
  }[type.counting];
  const from = {
    plan: 'It takes from the balance of the leave plan.',
    earned: 'It takes from time earned.',
    other: `It takes from the balance of ${other}.`,
    nothing: 'It takes from no balance.',
  }[type.takesFrom];
  const hasBalance = type.takesFrom !== 'nothing';
  const portion =
    type.times === true
      ? `It may be asked for with times; the smallest portion is ${amountWords(type.portion ?? 0.5)} of a day.`
      : 'It is asked for by whole and half days.';
  const back = type.daysBack ?? 0;
  return [
    { about: 'counting', text: counted },
    { about: 'takesFrom', text: from },
    ...(hasBalance
      ? [
          {
            about: 'overdraft' as const,
            text:
              type.overdraft === 0
                ? 'The balance may not go below zero.'
                : `The balance may go up to ${amountWords(type.overdraft)} below zero.`,
          },
        ]
      : []),
    ...(type.takesFrom === 'earned' ? [{ about: 'earned' as const, text: earnedWords(type) }] : []),
    { about: 'portion', text: portion },
    ...(hasBalance
      ? []
      : [
          {
            about: 'openEnd' as const,
            text:
              type.openEnd === true
                ? 'Its last day may be told later: it goes on until then.'
                : 'It is asked for with its last day.',
          },
        ]),
    {
      about: 'longest',
      text: `It is asked for by at most ${type.longest === undefined ? 'two years' : daysWords(type.longest)} at once.`,
    },
    {
      about: 'daysBack',
      text:
        back === 0
          ? 'It is not asked for when its days have passed.'
          : `It may be asked for up to ${daysWords(back)} back; for more, turn to ${type.turnTo ?? 'HR operations'}.`,
    },
    {
      about: 'daysAhead',
      text:
        type.daysAhead === undefined
          ? 'It may be asked for any time in advance.'
          : type.daysAhead === 0
            ? 'It is reported when it starts, not in advance.'
            : `It may be asked for up to ${daysWords(type.daysAhead)} in advance.`,
    },
    ...(type.limits ?? []).map((limit, n) => ({ about: `limits.${n}` as const, text: limitSentence(limit) })),
    {
      about: 'insideLeave',
      text:
        type.insideLeave === 'gives back'
          ? 'Inside booked leave, it gives the days back.'
          : 'It is not asked for inside other leave.',
    },
    {
      about: 'earnsUntil',
      text:
        type.earnsUntil === undefined
          ? 'Leave is earned throughout.'
          : type.earnsUntil === 0
            ? 'No leave is earned in it.'
            : `After ${daysWords(type.earnsUntil)} of it no leave is earned.`,
    },
    {
      about: 'kindReadBy',
      text:
        type.kindReadBy === 'HR'
          ? 'On the planner and in calendars the person and HR read which kind it is; all others read “away”.'
          : 'On the planner and in calendars the person, the line above and HR read which kind it is; colleagues read “away”.',
    },
    { about: 'payCode', text: payWords(type) },
    {
      about: 'spells',
      text:
        type.spellMonths === undefined
          ? 'Each absence counts by itself, unless no work lies between two.'
          : `Absences that HR puts down to one cause count as one within ${monthsWords(type.spellMonths)}.`,
    },
    {
      about: 'tellsHr',
      text:
        (type.tellsHr ?? []).length === 0
          ? 'HR is not told how long an absence lasts.'
          : `HR is told on day ${listWords([...(type.tellsHr ?? [])].sort((a, b) => a - b).map(String))} of an absence.`,
    },
    {
      about: 'tellsReturn',
      text:
        type.tellsReturn === undefined
          ? 'Nobody is told before the person returns.'
          : `HR and the manager are told ${daysWords(type.tellsReturn)} before the person returns.`,
    },
  ];
}

export type PlanAbout =
  | 'perYear'
  | 'yearStart'
  | 'accrual'
  | 'proration'
  | 'rounding'
  | 'carryOver'
  | 'kept'
  | 'warned';

/**
 * @param names of leave types
 * @returns what a leave plan says, in the order in which somebody asks about it
 */
export function planSentences(
  rules: PlanRules,
  unit: 'days' | 'hours',
  names: readonly { readonly id: string; readonly name: string }[] = [],
): RuleSentence<PlanAbout>[] {
  const tiers = [...rules.perYear].sort((a, b) => a.fromServiceYears - b.fromServiceYears);
  const each = rules.accrual === 'hours-worked' ? 'for each 100 hours worked' : 'a year';
  const said = tiers.map(({ fromServiceYears, amount }, n) => {
    const what = `${amountOfUnit(amount, unit)} ${n === 0 ? each : ''}`.trim();
    return fromServiceYears === 0
      ? what
      : `${what} from ${amountWords(fromServiceYears)} ${fromServiceYears === 1 ? 'year' : 'years'} of service on`;
  });
  const earned = {
    yearly: 'It is given whole on the first day of the leave year.',
    'monthly-in-advance': 'It is given a twelfth at a time, on the first day of each leave month.',
    'monthly-in-arrears': 'It is given a twelfth at a time, on the last day of each leave month.',
    'hours-worked': 'It is given on the last day of each leave month, by the hours worked in it.',
  }[rules.accrual];
  const carry = rules.carryOver;
  const mode = { up: 'up to the next', down: 'down to the last', nearest: 'to the nearest' }[rules.rounding.mode];
  return [
    { about: 'perYear', text: said.length === 0 ? 'It earns nothing.' : `It earns ${said.join(', ')}.` },
    {
      about: 'yearStart',
      text:
        rules.yearStart === 'anniversary'
          ? 'The leave year begins on the day of joining.'
          : `The leave year begins on ${yearDay(rules.yearStart)}.`,
    },
    { about: 'accrual', text: earned },
    {
      about: 'proration',
      text:
        rules.proration === 'daily'
          ? 'A part of a year earns its share by days.'
          : 'A part of a year earns its share by months, and a part of a month by days.',
    },
    { about: 'rounding', text: `What is earned is rounded ${mode} ${amountOfUnit(rules.rounding.step, unit)}.` },
    {
      about: 'carryOver',
      text: !carry
        ? 'Nothing is carried over.'
        : `Up to ${amountOfUnit(carry.max, unit)} are carried over${carry.expires ? ` and lapse on ${yearDay(carry.expires)}` : ' and do not lapse'}.`,
    },
    ...(carry
      ? [
          { about: 'kept' as const, text: keptWords(carry.kept ?? [], names) },
          {
            about: 'warned' as const,
            text: carry.warned
              ? 'It lapses only for people who were told so in a letter.'
              : 'It lapses whether or not a letter said so.',
          },
        ]
      : []),
  ];
}

function keptWords(
  kept: NonNullable<NonNullable<PlanRules['carryOver']>['kept']>,
  names: readonly { readonly id: string; readonly name: string }[],
): string {
  if (kept.length === 0) return 'Nothing is kept longer because it could not be taken.';
  const nameOf = (id: string) => (names.find(one => one.id === id)?.name ?? id).toLowerCase();
  return kept
    .map(
      ({ types, months }) =>
        `What could not be taken because of ${types.map(nameOf).join(' or ')} is kept for the first ${monthsWords(months)} of the new leave year.`,
    )
    .join(' ');
}

/** @param named names of places and departments by their ids */
export function presenceSentence(
  presence: LeastPresence,
  named: { readonly place: (id: string) => string; readonly department: (id: string) => string },
): string {
  const { place, department, people, weekdays, from, to } = presence;
  const where = [
    department === null ? '' : `of ${named.department(department)}`,
    place === null ? '' : `at ${named.place(place)}`,
  ].filter(part => part !== '');
  const on =
    weekdays.length === 0
      ? 'every day'
      : `on ${[...weekdays]
          .sort()
          .map(day => weekdayNames[day - 1])
          .join(', ')}`;
  const since = from ? `, from ${fullDate(from)}` : '';
  const until = to ? ` until ${fullDate(to)}` : '';
  return `${people} ${people === 1 ? 'is' : 'are'} needed ${where.join(' ') || 'in the house'}, ${on}${since}${until}.`;
}
