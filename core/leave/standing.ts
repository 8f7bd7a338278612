/** What somebody has of a kind of leave in the leave year of a day, in one row: how it came to be, and what is left of it. */
import type { PersonId } from '../people/index.ts';
import { type CivilDate, fromDay, toDay } from '../time/index.ts';
import type { StatementLine } from './balance.ts';
import { type LeaveBook, planOf, statementOf, sureOf } from './book.ts';
import { leaveYearFrom } from './plan.ts';
import { type LeaveType, typeOn } from './type.ts';

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
  /** The balance today, as booked. */
  readonly now: number;
  /** What is left at the end of the leave year with everything booked and asked for. */
  readonly free: number;
};

const exact = (amount: number): number => Math.round(amount * 1e6) / 1e6;

/** @returns nothing for whoever has no balance of the type */
export function standingOf(book: LeaveBook, id: PersonId, type: LeaveType): LeaveStanding | undefined {
  const person = sureOf(book, id);
  const { takesFrom } = typeOn(type, book.today);
  const plan = takesFrom === 'plan' ? planOf(book, id) : undefined;
  if (takesFrom === 'plan' && !plan) return undefined;
  const today = toDay(book.today);
  const rules = plan?.rules ?? { yearStart: '01-01' as const };
  const first = leaveYearFrom(rules as never, person.joined, today);
  const to = fromDay(leaveYearFrom(rules as never, person.joined, today, 1) - 1);
  const from = fromDay(Math.max(first, toDay(person.joined)));
  const all = statementOf(book, id, type, to, book.entries);
  if (!all) return undefined;
  const year = fromDay(first);
  // The lines of a booking are folded; each day of it counts on its own.
  const days = all.lines.flatMap(line => (line.days ? line.days.map(day => ({ ...line, ...day })) : [line]));
  const isTurn = (line: StatementLine) => line.date === year && (line.kind === 'carried' || line.kind === 'lapsed');
  const before = all.lines.filter(line => line.date < year || isTurn(line)).at(-1);
  const own = days.filter(line => line.date >= year && !isTurn(line));
  const sum = (which: (line: StatementLine) => boolean) =>
    exact(own.reduce((s, line) => (which(line) ? s + line.amount : s), 0));
  const isTaken = (line: StatementLine) => line.kind === 'taken' && !line.held;
  const lapses = own.filter(line => line.kind === 'lapsed' && line.date >= book.today);
  // What is asked for may save from lapsing, so today’s balance is of what is booked alone.
  const now = statementOf(book, id, type, book.today)?.balance ?? 0;
  return {
    unit: all.unit,
    plan: all.plan,
    from,
    to,
    carried: before?.balance ?? 0,
    entitled: sum(line => line.kind === 'accrued'),
    adjusted: sum(line => line.kind === 'adjustment'),
    taken: exact(-sum(line => isTaken(line) && line.date <= book.today)),
    planned: exact(-sum(line => isTaken(line) && line.date > book.today)),
    held: exact(-sum(line => line.held === true)),
    lapsed: exact(-sum(line => line.kind === 'lapsed' && line.date < book.today)),
    lapsing: exact(-lapses.reduce((s, line) => s + line.amount, 0)),
    lapsesOn: lapses[0]?.date ?? null,
    now,
    free: all.balance,
  };
}

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
    if (filter.only === 'lapsing' && row.lapsing <= 0) return false;
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
