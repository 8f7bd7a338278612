/** Whether a balance bears what is taken off it: days that are sold, or given to somebody else. */
import type { PersonId } from '../../people/index.ts';
import { type CivilDate, toDay } from '../../time/index.ts';
import type { LeaveBook } from '../book.ts';
import { type LeaveType, typeOn } from '../rules/type.ts';
import { holdingsOf } from '../statements.ts';
import { balancesIn } from './balance.ts';
import { compare, decimal, type Fraction, minus, toNumber, zero } from './fraction.ts';
import { leaveYearFrom } from './plan.ts';

/**
 * @param amount in the unit of the balance
 * @returns the unit of the balance; what of the amount finds room, where no more than so much may stand on it; and whether on every day from then to the end of the next leave year the balance, with everything booked and asked for, is
 * at or above what its type allows, or is what it would be without it; `undefined` for whoever has no balance of the type
 */
export function adjusting(
  book: LeaveBook,
  id: PersonId,
  type: LeaveType,
  on: CivilDate,
  amount: number,
): { readonly fits: boolean; readonly unit: 'days' | 'hours'; readonly room: number } | undefined {
  const person = book.index.person(id);
  const found = person && holdingsOf(book, id, type, toDay(on));
  if (!person || !found) return undefined;
  const { named } = found;
  const { unit } = named;
  const { takesFrom, earnedMost } = typeOn(type, on);
  const day = toDay(on);
  const most = takesFrom === 'earned' ? earnedMost : undefined;
  const stands = most === undefined ? zero : (balancesIn(found, { first: day, last: day }).get(day) ?? zero);
  const room = most === undefined ? amount : Math.min(amount, Math.max(0, toNumber(minus(decimal(most), stands))));
  if (amount >= 0) return { fits: true, unit, room };
  const window = { first: toDay(on), last: leaveYearFrom(named.rules, person.joined, toDay(on), 2) - 1 };
  const taken = { person: id, type: type.id, date: on, amount, reason: '' };
  const balances = (one: LeaveBook, days: readonly number[]): Map<number, Fraction> => {
    const holdings = holdingsOf(one, id, type, window.last);
    return holdings ? balancesIn(holdings, window, days) : new Map();
  };
  const after = balances({ ...book, adjustments: [...book.adjustments, taken] }, []);
  const before = balances(book, [...after.keys()]);
  const least = decimal(-typeOn(type, on).overdraft);
  const fits = [...after].every(([day, balance]) => {
    const was = before.get(day);
    return compare(balance, least) >= 0 || (was !== undefined && compare(balance, was) === 0);
  });
  return { fits, unit, room: amount };
}
