/** What is worked out of everybody’s leave: balances in rows, leave years that ended, and every day taken. */
import {
  type LeaveBook,
  type LeaveStanding,
  type LeaveType,
  standingOf,
  type TakenDay,
  takenDays,
  type YearEnd,
  yearEndOf,
} from '@north-pebble/core/leave';
import type { DirectoryIndex, PersonId } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import type { EverybodysLeave, OwnLeave } from '../book/index.ts';

/** The leave types and plans that stand beside a directory. */
export type Rules = Pick<LeaveBook, 'types' | 'plans'>;

/** Rows of everybody’s balances of one type, in the order of the people. */
export type Standings = {
  what: 'standings';
  people: readonly PersonId[];
  type: string;
  today: CivilDate;
};
export type Stood = readonly (LeaveStanding | null)[];
/** The leave years of people that ended by a day. */
export type YearEnds = Omit<Standings, 'what'> & {
  what: 'year ends';
  until: CivilDate;
  /** Whether the lines of statements are wanted too, which are many. */
  lines: boolean;
};
export type Ended = readonly (YearEnd | null)[];
/** Every day of booked leave of people in some days. */
export type Taken = {
  what: 'taken';
  people: readonly PersonId[];
  today: CivilDate;
  from: CivilDate;
  to: CivilDate;
};
export type TakenDays = readonly (TakenDay & { person: PersonId })[];

export type Around = { index: DirectoryIndex; rules: Rules; leave: EverybodysLeave };

const typeIn = ({ rules }: Around, type: string): LeaveType | undefined => rules.types.find(one => one.id === type);

/** The book of one person by itself. Each is asked for once, so no sums of working time are kept. */
const bookWith = ({ index, rules }: Around, today: CivilDate, own: OwnLeave): LeaveBook => ({
  index,
  ...rules,
  today,
  ...own,
  once: true,
});

/** Rows that were worked out, for as long as the directory stands, each with what it was worked out from. */
const stood = new WeakMap<DirectoryIndex, Map<string, { own: OwnLeave; row: LeaveStanding | null }>>();

export function standings(around: Around, { people, type, today }: Standings): Stood {
  const { index, leave } = around;
  const found = typeIn(around, type);
  if (!found) return people.map(() => null);
  const known = stood.get(index) ?? new Map();
  stood.set(index, known);
  return people.map(id => {
    const own = leave.of(id, today);
    const key = `${type} ${id}`;
    const before = known.get(key);
    // The same list is the same leave on the same day.
    if (before?.own === own) return before.row;
    const row = standingOf(bookWith(around, today, own), id, found) ?? null;
    known.set(key, { own, row });
    return row;
  });
}

export function yearEnds(around: Around, { people, type, today, until, lines }: YearEnds): Ended {
  const found = typeIn(around, type);
  if (!found) return people.map(() => null);
  return people.map(id => {
    const end = yearEndOf(bookWith(around, today, around.leave.of(id, today)), id, found, until);
    return end ? { ...end, lines: lines ? end.lines : [] } : null;
  });
}

export const taken = (around: Around, { people, today, from, to }: Taken): TakenDays =>
  people.flatMap(id =>
    takenDays(bookWith(around, today, around.leave.of(id, today)), id, from, to).map(day => ({ ...day, person: id })),
  );
