/** An account of leave: what moves it one entry after the other, and what lapses first is taken first. */
import { amountOfUnit, amountWords, type DayNumber, dateWords, fromDay, yearMonthDay } from '../../time/index.ts';
import { decimal, type Fraction, isNegative, isZero, least, minus, plus, times, toNumber, zero } from './fraction.ts';
import type { Kept, Planned } from './schedule.ts';

export type LineKind =
  | 'accrued'
  | 'carried'
  | 'lapsed'
  | 'adjustment'
  | 'taken'
  | 'restated'
  /** What is left of the plan before, in the unit of the new one: the balance begins with it. */
  | 'brought along'
  /** What the house before said: the balance begins with it. */
  | 'opening';

/** What is taken or adjusted on a day, exact; each day of a booking is one of its own. */
export type Moved = {
  readonly on: DayNumber;
  readonly kind: 'taken' | 'adjustment';
  readonly amount: Fraction;
  readonly reason?: string;
  /** The booking that the day is part of. */
  readonly booking?: Booking;
  /** Of what is put on: the last day on which it can be taken. What is taken off takes what lapses first. */
  readonly lapses?: DayNumber;
  /** The person was written to about what lapses. */
  readonly warns?: true;
};
export type Booking = { readonly request: string; readonly state: 'held' | 'booked' };

export type Entry = Planned | Moved;

function broughtWords({ per, from, to }: Extract<Planned, { kind: 'break' }>, account: Account): string {
  const left = times(totalOf(account), { top: per.bottom, bottom: per.top });
  const rate =
    from.unit === to.unit ? '' : ` at ${amountWords(toNumber(per))} ${to.unit} for 1 ${from.unit.slice(0, -1)}`;
  return `brought along from ${from.name ?? 'the plan before'}: ${amountOfUnit(toNumber(left), from.unit)}${rate}`;
}

function openingWords({ on, own, carried, lapses, source }: Extract<Planned, { kind: 'opening' }>): string {
  const from = source === '' ? '' : ` (${source})`;
  if (isZero(carried)) return `opening balance: ${amountWords(toNumber(own))} of the leave year${from}`;
  const { year } = yearMonthDay(on);
  const until = lapses === null ? '' : `, to use by ${dateWords(fromDay(lapses), year)}`;
  return `opening balance: ${amountWords(toNumber(own))} of the leave year, ${amountWords(toNumber(carried))} carried over${until}${from}`;
}

const negative = (amount: Fraction): Fraction => ({ top: -amount.top, bottom: amount.bottom });

/** A part of a balance with a last day of its own: time earned, or what was kept because it could not be taken. */
type Lot = { readonly amount: Fraction; readonly lapses: DayNumber; readonly why: () => string };
export type Account = {
  own: Fraction;
  carry: Fraction;
  expires: DayNumber | null;
  /** By the day on which they lapse. */
  lots: readonly Lot[];
  /** What was kept already because of leave of this leave year: a day of it keeps one day and not two. */
  kept: Fraction;
  /** Whether the person was written to about what lapses of this leave year’s own, and of what is carried over. */
  warned: { own: boolean; carry: boolean };
};

export const totalOf = ({ own, carry, lots }: Pick<Account, 'own' | 'carry' | 'lots'>): Fraction =>
  lots.reduce((sum, lot) => plus(sum, lot.amount), plus(own, carry));

const withLot = (lots: readonly Lot[], lot: Lot): Lot[] => [...lots, lot].sort((a, b) => a.lapses - b.lapses);

/** Takes an amount from what lapses first; what nothing lapses of comes last, and the year's own may go below zero. */
function takeFrom(account: Account, wanted: Fraction, carryToo: boolean): void {
  let left = wanted;
  const fromCarry = () => {
    const part = least(left, account.carry);
    account.carry = minus(account.carry, part);
    left = minus(left, part);
  };
  if (account.lots.length > 0) {
    const lots: Lot[] = [];
    const carryLapses = account.expires ?? Number.POSITIVE_INFINITY;
    let isCarryLeft = carryToo;
    for (const lot of account.lots) {
      if (isCarryLeft && carryLapses < lot.lapses) {
        fromCarry();
        isCarryLeft = false;
      }
      const part = least(left, lot.amount);
      left = minus(left, part);
      const rest = minus(lot.amount, part);
      if (!isZero(rest)) lots.push({ ...lot, amount: rest });
    }
    account.lots = lots;
  }
  if (carryToo) fromCarry();
  account.own = minus(account.own, left);
}

/** What lapses, less what is kept because it could not be taken: that is put aside with a day of its own. */
function lapse(
  account: Account,
  lapsing: Fraction,
  { on, kept = [] }: { readonly on: DayNumber; readonly kept?: readonly Kept[] },
  say: Say,
  why: () => string,
): void {
  let left = lapsing;
  const said: { readonly part: Fraction; readonly until: DayNumber; readonly because: string }[] = [];
  let used = account.kept;
  for (const { amount, until, because } of kept) {
    const before = least(used, amount);
    used = minus(used, before);
    const part = least(left, minus(amount, before));
    if (isZero(part) || isNegative(part)) continue;
    left = minus(left, part);
    account.kept = plus(account.kept, part);
    account.lots = withLot(account.lots, {
      amount: part,
      lapses: until,
      why: () => `kept because of ${because}, and not taken in time`,
    });
    said.push({ part, until, because });
  }
  // Until it is said to have lapsed it is still there.
  if (!isZero(left)) say(on, 'lapsed', negative(left), why);
  const { year } = yearMonthDay(on);
  for (const { part, until, because } of said)
    say(
      on,
      'carried',
      zero,
      () => `${amountWords(toNumber(part))} kept because of ${because}, to use by ${dateWords(fromDay(until), year)}`,
    );
}

/** The reason is made into words only where somebody reads it. */
export type Say = (on: DayNumber, kind: LineKind, amount: Fraction, reason: () => string, booking?: Booking) => void;
export const nothingSaid: Say = () => {};

/**
 * One entry applied to an account.
 * What is taken uses carry-over first while it lives, then the year's own, which may go below zero.
 */
export function apply(account: Account, entry: Entry, say: Say): void {
  switch (entry.kind) {
    case 'year end': {
      const rest = plus(account.own, account.carry);
      const wasWarned = account.warned.own || entry.warned !== true;
      account.warned = { own: false, carry: account.warned.own };
      account.expires = entry.expires;
      const max = decimal(entry.most ?? 0);
      if (isNegative(rest)) {
        account.own = rest;
        account.carry = zero;
        say(entry.on, 'carried', zero, () => `${amountWords(toNumber(rest))} goes on into the new leave year`);
        return;
      }
      if (!wasWarned && !isZero(rest)) {
        account.carry = rest;
        account.own = zero;
        account.expires = null;
        say(
          entry.on,
          'carried',
          zero,
          () => `${amountWords(toNumber(rest))} carried over: no letter said that it lapses`,
        );
        return;
      }
      account.carry = least(rest, max);
      account.own = zero;
      const { most } = entry;
      lapse(account, minus(rest, account.carry), entry, say, () =>
        most === null ? 'nothing is carried over' : `more than the ${most} that may be carried over`,
      );
      account.kept = zero;
      if (!isZero(account.carry)) {
        const { carry } = account;
        say(entry.on, 'carried', zero, () => {
          const { year } = yearMonthDay(entry.on);
          const until = entry.expires !== null ? `, to use by ${dateWords(fromDay(entry.expires), year)}` : '';
          return `${amountWords(toNumber(carry))} carried over from last leave year${until}`;
        });
      }
      return;
    }
    case 'accrual':
      account.own = plus(account.own, entry.grant.amount);
      if (!isZero(entry.grant.amount)) say(entry.on, 'accrued', entry.grant.amount, () => entry.grant.reason);
      return;
    case 'adjustment':
      if (entry.warns) account.warned = { own: true, carry: true };
      if (entry.lapses === undefined) account.own = plus(account.own, entry.amount);
      else if (isNegative(entry.amount)) takeFrom(account, negative(entry.amount), false);
      else {
        const { amount, lapses } = entry;
        // What is owed is made good first.
        const owed = isNegative(account.own) ? least(amount, negative(account.own)) : zero;
        account.own = plus(account.own, owed);
        const rest = minus(amount, owed);
        if (!isZero(rest))
          account.lots = withLot(account.lots, { amount: rest, lapses, why: () => 'not taken in time' });
      }
      say(entry.on, 'adjustment', entry.amount, () => entry.reason ?? 'adjusted');
      return;
    case 'taken': {
      if (isNegative(entry.amount)) account.own = minus(account.own, entry.amount);
      else takeFrom(account, entry.amount, true);
      say(entry.on, 'taken', negative(entry.amount), () => entry.reason ?? 'taken', entry.booking);
      return;
    }
    case 'break':
      account.own = times(account.own, entry.per);
      account.carry = times(account.carry, entry.per);
      account.lots = account.lots.map(lot => ({ ...lot, amount: times(lot.amount, entry.per) }));
      say(entry.on, 'brought along', totalOf(account), () => broughtWords(entry, account));
      return;
    case 'opening':
      account.own = entry.own;
      account.carry = entry.carried;
      account.expires = entry.lapses;
      account.lots = [];
      say(entry.on, 'opening', totalOf(account), () => openingWords(entry));
      return;
    case 'lapse': {
      // One after the other, so that each line says what is left after it.
      for (const over of account.lots.filter(lot => lot.lapses === entry.on)) {
        account.lots = account.lots.filter(lot => lot !== over);
        say(entry.on, 'lapsed', negative(over.amount), over.why);
      }
      // A break or an opening may have set another day on which what is carried lapses.
      if (account.expires !== entry.on) return;
      if (entry.warned && !account.warned.carry) {
        const { carry } = account;
        account.expires = null;
        if (!isZero(carry))
          say(entry.on, 'carried', zero, () => `${amountWords(toNumber(carry))} stays: no letter said that it lapses`);
        return;
      }
      const { carry } = account;
      account.carry = zero;
      lapse(account, carry, entry, say, () => 'carry-over not used in time');
      return;
    }
  }
}

export const opened = (): Account => ({
  own: zero,
  carry: zero,
  expires: null,
  lots: [],
  kept: zero,
  warned: { own: false, carry: false },
});
