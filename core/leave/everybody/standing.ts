/** What somebody has of a kind of leave in the leave year of a day, in one row: how it came to be, and what is left of it. */
import type { PersonId } from '../../people/index.ts';
import { amountOfUnit, type CivilDate, type DayNumber, dateWords, fromDay, fullDate, toDay } from '../../time/index.ts';
import { walk } from '../balances/balance.ts';
import { begunOn } from '../balances/course.ts';
import { type Fraction, isZero, minus, plus, toNumber, zero } from '../balances/fraction.ts';
import { type LeavePlan, leaveYearFrom, rulesOn } from '../balances/plan.ts';
import { type LeaveBook, planOf, sureOf } from '../book.ts';
import { type LeaveType, typeOn } from '../rules/type.ts';
import { holdingsOf } from '../statements.ts';

/** Amounts in the unit of the plan. What comes adds up: carried + entitled + adjusted − taken − planned − held − lapsed − lapsing = free. */
export type LeaveStanding = {
  readonly unit: 'days' | 'hours';
  readonly plan: string;
  /** The leave year that it is of, both days included. */
  readonly from: CivilDate;
  readonly to: CivilDate;
  readonly carried: number;
  /** What the plan gives in the whole leave year. */
  readonly entitled: number;
  readonly adjusted: number;
  /** What has been taken up to today, what is booked after it, and what open requests ask for. */
  readonly taken: number;
  readonly planned: number;
  readonly held: number;
  readonly lapsed: number;
  /** What is still to lapse unless it is taken, and on which day first. */
  readonly lapsing: number;
  readonly lapsesOn: CivilDate | null;
  /** What lapses besides as the leave year turns, where it lapses only for whoever was told. */
  readonly atTurn: number;
  /** The balance today, as booked. */
  readonly now: number;
  /** What is left at the end of the leave year with everything booked and asked for. */
  readonly free: number;
};

/**
 * Where nothing lapses of which no letter told, it is worked out as if the letter were written today: so those are found who are
 * to be told.
 * @returns nothing for whoever has no balance of the type
 */
export function standingOf(known: LeaveBook, id: PersonId, type: LeaveType): LeaveStanding | undefined {
  const { joined } = sureOf(known, id);
  const today = toDay(known.today);
  const plan = planOf(known, id);
  const isTold = plan !== undefined && rulesOn(plan.rules, today).carryOver?.warned === true;
  const letter = { person: id, type: type.id, date: known.today, amount: 0, reason: '', warns: true };
  const book = isTold ? { ...known, adjustments: [...known.adjustments, letter] } : known;
  const ofPlan = typeOn(type, book.today).takesFrom === 'plan' ? plan?.rules : undefined;
  const first = leaveYearFrom(ofPlan ?? calendarYears, joined, today);
  const last = leaveYearFrom(ofPlan ?? calendarYears, joined, today, 1) - 1;
  const holdings = holdingsOf(book, id, type, last);
  if (!holdings) return undefined;
  const { named, moved } = holdings;
  const own = {
    carried: zero,
    entitled: zero,
    adjusted: zero,
    taken: zero,
    planned: zero,
    held: zero,
    lapsed: zero,
    lapsing: zero,
  };
  let lapsesOn: DayNumber | null = null;
  const add = (what: keyof typeof own, amount: Fraction) => {
    own[what] = plus(own[what], amount);
  };
  const less = (what: keyof typeof own, amount: Fraction) => {
    own[what] = minus(own[what], amount);
  };
  const free = walk(holdings, first, last, (on, kind, amount, held, balance) => {
    // What the year turns over with stands before whatever else comes on its first day.
    const isTurn = on === first && (kind === 'carried' || kind === 'lapsed') && isZero(own.entitled);
    const begins = kind === 'opening' || kind === 'brought along';
    if (begins) {
      // What was before is in it, in another unit or counted elsewhere.
      for (const what of Object.keys(own) as (keyof typeof own)[]) own[what] = zero;
      lapsesOn = null;
    }
    if (on < first || isTurn || begins) own.carried = balance();
    else if (kind === 'accrued') add('entitled', amount);
    else if (kind === 'adjustment') add('adjusted', amount);
    else if (kind === 'taken') less(held ? 'held' : on <= today ? 'taken' : 'planned', amount);
    else if (kind === 'lapsed' && on < today) less('lapsed', amount);
    else if (kind === 'lapsed') {
      less('lapsing', amount);
      lapsesOn ??= on;
    }
  });
  let atTurn = zero;
  if (isTold) {
    const turned = holdingsOf(book, id, type, last + 1);
    if (turned)
      walk(turned, last + 1, last + 1, (on, kind, amount) => {
        if (on > last && kind === 'lapsed') atTurn = minus(atTurn, amount);
      });
  }
  // What is asked for may save from lapsing, so today’s balance is of what is booked alone.
  const booked = moved.filter(({ booking }) => booking?.state !== 'held');
  const now = walk({ ...holdings, moved: booked }, today, today, () => {});
  const shown = (amount: Fraction) => toNumber(amount);
  return {
    unit: named.unit,
    plan: named.name,
    from: fromDay(Math.max(first, begunOn(holdings.course, joined, today))),
    to: fromDay(last),
    carried: shown(own.carried),
    entitled: shown(own.entitled),
    adjusted: shown(own.adjusted),
    taken: shown(own.taken),
    planned: shown(own.planned),
    held: shown(own.held),
    lapsed: shown(own.lapsed),
    lapsing: shown(own.lapsing),
    lapsesOn: lapsesOn === null ? null : fromDay(lapsesOn),
    atTurn: shown(atTurn),
    now: shown(now),
    free: shown(free),
  };
}

/** Time earned has no plan: its year is that of the calendar. */
const calendarYears: LeavePlan = {
  yearStart: '01-01',
  perYear: [],
  accrual: 'yearly',
  proration: 'daily',
  rounding: { step: 1, mode: 'nearest' },
};

/** What is looked for among everybody’s balances. */
export type StandingFilter = {
  readonly words?: string | undefined;
  readonly place?: string | undefined;
  readonly department?: string | undefined;
  readonly plan?: string | undefined;
  readonly only?: 'below zero' | 'lapsing' | 'much left' | undefined;
};

export type StandingRow = LeaveStanding & {
  readonly person: PersonId;
  readonly name: string;
  readonly place: string;
  readonly department: string;
};

/** Much is left when more than half of what there was is, and nothing has it planned. */
const muchLeft = ({ free, carried, entitled }: LeaveStanding): boolean => free > (carried + entitled) / 2 && free > 0;

/** The rows that a filter lets through, in their order. */
export function filteredStandings<Row extends StandingRow>(rows: readonly Row[], filter: StandingFilter): Row[] {
  const parts = (filter.words ?? '').toLowerCase().split(/\s+/).filter(Boolean);
  return rows.filter(row => {
    if (filter.place && row.place !== filter.place) return false;
    if (filter.department && row.department !== filter.department) return false;
    if (filter.plan && row.plan !== filter.plan) return false;
    if (filter.only === 'below zero' && row.now >= 0 && row.free >= 0) return false;
    if (filter.only === 'lapsing' && row.lapsing + row.atTurn <= 0) return false;
    if (filter.only === 'much left' && !muchLeft(row)) return false;
    const name = row.name.toLowerCase();
    return parts.every(part => name.includes(part));
  });
}

export const standingColumns = [
  'carried',
  'entitled',
  'adjusted',
  'taken',
  'planned',
  'held',
  'lapsed',
  'lapsing',
  'now',
  'free',
] as const;
export type StandingColumn = (typeof standingColumns)[number];

/** Rows in the order of a column; names decide where it is the same. */
export function sortedStandings<Row extends StandingRow>(
  rows: readonly Row[],
  by: StandingColumn | 'name' | 'lapsesOn',
  down: boolean,
): Row[] {
  const names = new Intl.Collator('en');
  const value = (row: Row) => (by === 'lapsesOn' ? (row.lapsesOn ?? '9999') : row[by]);
  const order = (a: Row, b: Row): number => {
    if (by === 'name') return 0;
    const [x, y] = [value(a), value(b)];
    return x < y ? -1 : x > y ? 1 : 0;
  };
  return rows.toSorted(
    (a, b) => (down ? -1 : 1) * order(a, b) || (by === 'name' && down ? -1 : 1) * names.compare(a.name, b.name),
  );
}

/**
 * What somebody has left of a kind of leave, as they are told in a letter.
 * @param note what whoever writes says besides
 */
export function leftWords(row: StandingRow, type: string, note: string, year: number): string {
  const amount = (n: number) => amountOfUnit(n, row.unit);
  const planned = row.planned + row.held;
  return [
    `You have ${amount(row.free)} of ${type} left in your leave year, which ends on ${fullDate(row.to)}${planned > 0 ? `; ${amount(planned)} that you have planned are not among them` : ''}.`,
    ...(row.lapsing > 0 && row.lapsesOn
      ? [`${amount(row.lapsing)} lapse unless you take them: the first on ${dateWords(row.lapsesOn, year)}.`]
      : []),
    ...(row.atTurn > 0
      ? [`${amount(row.atTurn)} ${row.lapsing > 0 ? 'more ' : ''}lapse unless you take them by ${fullDate(row.to)}.`]
      : []),
    ...(note ? [note] : []),
    'Your statement shows how it comes about, and what other dates would leave.',
  ].join('\n\n');
}
