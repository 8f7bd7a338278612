/** Balances and statements: worked out from facts, line by line, never patched. */
import { z } from 'zod';
import { CivilDate, type DayNumber, fromDay, toDay } from '../../time/index.ts';
import {
  type Account,
  apply,
  type Entry,
  type LineKind,
  type Moved,
  nothingSaid,
  opened,
  type Say,
  totalOf,
} from './account.ts';
import { alone, type Course, countedFrom, stretchOn } from './course.ts';
import { decimal, type Fraction, isZero, plus, toNumber, zero } from './fraction.ts';
import { Employment, LeavePlan } from './plan.ts';
import { type Planned, planSchedule } from './schedule.ts';

export const Movement = z.object({
  date: CivilDate,
  kind: z.enum(['taken', 'adjustment']),
  amount: z.number(),
  /** What a reader of the statement is told about it. */
  reason: z.string().optional(),
});
export type Movement = z.infer<typeof Movement>;

export const BalanceInput = z.object({
  person: Employment,
  plan: LeavePlan,
  movements: z.array(Movement),
  asOf: CivilDate,
});
export type BalanceInput = z.infer<typeof BalanceInput>;

/** One line of a statement: what moved the balance, by how much, why, and the balance after it. */
export type StatementLine = {
  date: CivilDate;
  kind: LineKind;
  amount: number;
  balance: number;
  reason: string;
  /** Where days of one booking were put together: the last of them, and each with what it takes. */
  until?: CivilDate;
  days?: { date: CivilDate; amount: number }[];
  request?: string;
  held?: true;
  /** The unit of its day, where the statement ends in another. */
  unit?: 'days' | 'hours';
  /** The change of facts by which it was counted anew. */
  change?: number;
};

export type Balance = { balance: number; expiring: { amount: number; on: CivilDate }[] };
export type Statement = Balance & { lines: StatementLine[] };

export const movedOf = ({ date, kind, amount, reason }: Movement): Moved => ({
  on: toDay(date),
  kind,
  amount: decimal(amount),
  ...(reason === undefined ? {} : { reason }),
});

// On one day: year end or break, opening, accrual, adjustments, taken, lapse.
const orderOnDay = { 'year end': 0, break: 0, opening: 1, accrual: 2, adjustment: 3, taken: 4, lapse: 5 } as const;

const byDay = (a: Entry, b: Entry): number => a.on - b.on || orderOnDay[a.kind] - orderOnDay[b.kind];

/** All that moves a balance, in its order; movements before joining count on the day of joining, those before an opening not at all. */
function inOrder(
  { opening }: Course,
  joined: DayNumber,
  left: DayNumber,
  planned: readonly Planned[],
  moved: readonly Moved[],
): Entry[] {
  const all: Entry[] = [...planned];
  const opened = opening ? toDay(opening.on) : Number.NEGATIVE_INFINITY;
  for (const entry of moved) {
    if (entry.on < opened) continue;
    all.push(entry.on < joined ? { ...entry, on: joined } : entry);
    const { lapses } = entry;
    // Whoever has left keeps what there was.
    if (lapses !== undefined && lapses < left) all.push({ on: Math.max(lapses, joined), kind: 'lapse' });
  }
  return all.sort(byDay);
}

const leftOn = ({ left }: Employment): DayNumber => (left ? toDay(left) : Number.POSITIVE_INFINITY);

/** Whose balance, by which plans, and what moved it. */
export type Holdings = {
  readonly person: Employment;
  /** The plans that they are on in turn, and the opening. */
  readonly course: Course;
  readonly moved: readonly Moved[];
  /** What the plan does, where that is known already; it must reach as far as is asked. */
  readonly planned?: readonly Planned[];
};

/** A schedule in its order, with the account after each of its entries where nothing else moves it; worked out once. */
type Untouched = { readonly ordered: readonly Planned[]; readonly after: readonly Readonly<Account>[] };
const untouched = new WeakMap<readonly Planned[], Untouched>();
function untouchedOf(planned: readonly Planned[]): Untouched {
  const before = untouched.get(planned);
  if (before) return before;
  const ordered = planned.toSorted(byDay);
  const account = opened();
  const after = ordered.map(entry => {
    apply(account, entry, nothingSaid);
    return { ...account };
  });
  const found = { ordered, after };
  untouched.set(planned, found);
  return found;
}

/** How many entries of a schedule come before a day. */
function countBefore(ordered: readonly Planned[], day: DayNumber): number {
  let [low, high] = [0, ordered.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((ordered[middle]?.on ?? 0) < day) low = middle + 1;
    else high = middle;
  }
  return low;
}

/**
 * Every movement of a balance from a day on up to the end of `asOf`, as it is made, for whoever wants sums and no words. Years
 * before in which nobody took anything are not gone through again.
 * @param moves told of what the balance was before, as carried on the day before `from`, and of each movement after it, also of
 * earlier ones: the day, what it is, by how much, and whether an open request asks for it; the balance after it
 */
export function walk(
  { person, course, moved, planned }: Holdings,
  from: DayNumber,
  asOf: DayNumber,
  moves: (on: DayNumber, kind: LineKind, amount: Fraction, held: boolean, balance: () => Fraction) => void,
): Fraction {
  const joined = countedFrom(course, person.joined);
  if (asOf < joined) return zero;
  const { ordered, after } = untouchedOf(planned ?? planSchedule(course, person, asOf));
  const begins = moved.reduce((day, entry) => Math.min(day, Math.max(entry.on, joined)), Math.min(from, asOf));
  const skipped = countBefore(ordered, begins);
  const account: Account = { ...(after[skipped - 1] ?? opened()) };
  const balance = () => totalOf(account);
  if (skipped > 0) moves(Math.min(from, begins) - 1, 'carried', zero, false, balance);
  const say: Say = (on, kind, amount, _reason, booking) => moves(on, kind, amount, booking?.state === 'held', balance);
  for (const entry of inOrder(
    course,
    joined,
    leftOn(person),
    ordered.slice(skipped, countBefore(ordered, asOf + 1)),
    moved,
  ))
    if (entry.kind === 'lapse' ? entry.on < asOf : entry.on <= asOf) apply(account, entry, say);
  return balance();
}

/** Every movement of a balance up to the end of `asOf` (the lapse of that same day not yet applied). */
export function statement({ person, course, moved, planned }: Holdings, asOfDate: CivilDate): Statement {
  const asOf = toDay(asOfDate);
  const joined = countedFrom(course, person.joined);
  const left = leftOn(person);
  const account = opened();
  const lines: StatementLine[] = [];
  const { unit } = stretchOn(course, asOf);
  const say: Say = (on, kind, amount, reason, booking) => {
    const own = stretchOn(course, on).unit;
    lines.push({
      date: fromDay(on),
      kind,
      amount: toNumber(amount),
      balance: toNumber(totalOf(account)),
      reason: reason(),
      ...(own === unit ? {} : { unit: own }),
      ...(booking ? { request: booking.request } : {}),
      ...(booking?.state === 'held' ? { held: true as const } : {}),
    });
  };
  if (asOf >= joined) {
    for (const entry of inOrder(course, joined, left, planned ?? planSchedule(course, person, asOf), moved)) {
      // The lapse of `asOf` itself comes at the end of that day.
      if (entry.kind === 'lapse' ? entry.on < asOf : entry.on <= asOf) apply(account, entry, say);
    }
  }
  const { carry, expires, lots } = account;
  const open = [...(expires === null ? [] : [{ amount: carry, lapses: expires }]), ...lots]
    .filter(({ amount, lapses }) => lapses >= asOf && lapses < left && !isZero(amount))
    .sort((a, b) => a.lapses - b.lapses);
  return {
    balance: toNumber(totalOf(account)),
    expiring: open.map(({ amount, lapses }) => ({ amount: toNumber(amount), on: fromDay(lapses) })),
    lines,
  };
}

/**
 * The balance at the end of each day on which it may have changed inside a window (that day's own lapse not yet
 * applied), the window's first day always among them; between two of them it stays as on the first.
 * @param alsoOn days that are to be among them besides
 */
export function balancesIn(
  { person, course, moved, planned }: Holdings,
  window: { first: DayNumber; last: DayNumber },
  alsoOn: readonly DayNumber[] = [],
): Map<DayNumber, Fraction> {
  const joined = countedFrom(course, person.joined);
  const entries = inOrder(course, joined, leftOn(person), planned ?? planSchedule(course, person, window.last), moved);
  const days = new Set([window.first, ...alsoOn]);
  for (const { on, kind } of entries) days.add(kind === 'lapse' ? on + 1 : on);
  const account = opened();
  const found = new Map<DayNumber, Fraction>();
  let next = 0;
  for (const day of [...days].sort((a, b) => a - b)) {
    if (day > window.last) break;
    for (; next < entries.length; next++) {
      const entry = entries[next];
      if (entry.on > day || (entry.on === day && entry.kind === 'lapse')) break;
      apply(account, entry, nothingSaid);
    }
    if (day >= window.first) found.set(day, day < joined ? zero : totalOf(account));
  }
  return found;
}

export function balance({ person, plan, movements, asOf }: BalanceInput): Balance {
  const course = alone(plan, person.joined);
  const { balance, expiring } = statement({ person, course, moved: movements.map(movedOf) }, asOf);
  return { balance, expiring };
}

/** Puts days of one booking together where nothing else comes between them; what lies ahead of `today` stays apart. */
export function foldBookings(lines: readonly StatementLine[], today: CivilDate): StatementLine[] {
  const folded: StatementLine[] = [];
  for (const line of lines) {
    const before = folded.at(-1);
    const joins =
      before?.kind === 'taken' &&
      line.kind === 'taken' &&
      line.request !== undefined &&
      before.request === line.request &&
      before.held === line.held &&
      before.unit === line.unit &&
      before.date <= today === line.date <= today;
    const day = { date: line.date, amount: line.amount };
    if (!joins) folded.push(line.request === undefined ? line : { ...line, until: line.date, days: [day] });
    else {
      const days = [...(before.days ?? []), day];
      folded[folded.length - 1] = {
        ...before,
        until: line.date,
        days,
        // Summed as exact numbers, so that no sum drifts.
        amount: toNumber(days.reduce((sum, one) => plus(sum, decimal(one.amount)), zero)),
        balance: line.balance,
      };
    }
  }
  return folded;
}
