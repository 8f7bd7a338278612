/** Why leave may not be asked for: a code and what it is about. Words are made where it is shown. */
import { amountOfUnit, amountWords, type CivilDate, dateWords, rangeWords, yearOf } from '../time/index.ts';
import type { LeaveSpan } from './span.ts';

export type Obstacle =
  | { readonly code: 'unknown type'; readonly type: string }
  | { readonly code: 'ends before it starts'; readonly timed: boolean }
  /** `most` days where its type says so; nothing where it is the house's own bound. */
  | { readonly code: 'too long'; readonly most: number | null; readonly days: number }
  | { readonly code: 'no times'; readonly type: string }
  | { readonly code: 'no open end'; readonly type: string }
  | { readonly code: 'not begun'; readonly type: string }
  | { readonly code: 'not employed' }
  | { readonly code: 'too far back'; readonly type: string; readonly back: number; readonly turnTo: string }
  | { readonly code: 'too far ahead'; readonly type: string; readonly ahead: number }
  | { readonly code: 'overlaps'; readonly type: string; readonly span: LeaveSpan; readonly request: string }
  | { readonly code: 'no working time' }
  | {
      readonly code: 'over balance';
      readonly amount: number;
      readonly unit: 'days' | 'hours';
      readonly free: number;
      readonly lowest: { readonly balance: number; readonly on: CivilDate };
    };

/** What obstacles are told with: the names of types, and the day, so that the year is said only where it is another one. */
export type ObstacleNames = {
  readonly types: readonly { readonly id: string; readonly name: string }[];
  readonly today: CivilDate;
  /** Whose leave it is, as the reader calls it: `your`, or `Ina Okell’s`; nothing where it is told to several. */
  readonly whose?: string | undefined;
};

const dayCount = (n: number): string => `${n} ${n === 1 ? 'day' : 'days'}`;

/** One or two whole sentences, the second of which says what helps. */
export function obstacleWords(obstacle: Obstacle, { types, today, whose }: ObstacleNames): string {
  const year = yearOf(today);
  const named = (id: string) => types.find(type => type.id === id)?.name;
  switch (obstacle.code) {
    case 'unknown type':
      return `There is no leave type “${obstacle.type}”.`;
    case 'ends before it starts':
      return obstacle.timed
        ? 'The end is not after the beginning. Choose a later end.'
        : 'The last day is before the first. Choose a later last day.';
    case 'too long': {
      const most = obstacle.most === null ? 'Two years' : dayCount(obstacle.most);
      return `${most} is the longest that can be asked for at once; this is ${obstacle.days} days. Choose an earlier last day.`;
    }
    case 'no times':
      return `${named(obstacle.type) ?? obstacle.type} is asked for by whole and half days, without times.`;
    case 'no open end':
      return `${named(obstacle.type) ?? obstacle.type} is asked for with its last day.`;
    case 'not begun':
      return `${named(obstacle.type) ?? obstacle.type} without a last day begins today or has begun. Give the last day, or tell it on the day.`;
    case 'not employed':
      return 'These dates are outside the time of employment.';
    case 'too far back': {
      const how = obstacle.back === 0 ? 'for days that have passed' : `more than ${dayCount(obstacle.back)} back`;
      return `${named(obstacle.type) ?? obstacle.type} cannot be asked for ${how}. Turn to ${obstacle.turnTo}, who can book it with a reason.`;
    }
    case 'too far ahead': {
      const name = named(obstacle.type) ?? obstacle.type;
      return obstacle.ahead === 0
        ? `${name} is reported when it starts, not in advance. Ask on its first day.`
        : `${name} can be asked for up to ${dayCount(obstacle.ahead)} in advance. Ask again nearer the day.`;
    }
    case 'overlaps': {
      const { from, to } = obstacle.span;
      const when =
        from.date === to.date ? `on ${dateWords(from.date, year)}` : `from ${rangeWords(from.date, to.date, year)}`;
      const other = named(obstacle.type)?.toLowerCase() ?? 'leave';
      return `These dates overlap ${whose ? `${whose} ` : ''}${other} ${when} (request ${obstacle.request}). Choose other dates or change that one.`;
    }
    case 'no working time':
      return 'Nothing is scheduled in these dates, so there is no leave to take.';
    case 'over balance': {
      const { amount, unit, free, lowest } = obstacle;
      const takes = `This takes ${amountOfUnit(amount, unit)}`;
      if (free > 0) return `${takes}, and only the first ${amountWords(free)} of them are free. Choose fewer days.`;
      return `${takes}, and none of them is free: the balance would be ${amountOfUnit(lowest.balance, unit)} on ${dateWords(lowest.on, year)}. Choose fewer days, or others.`;
    }
  }
}
