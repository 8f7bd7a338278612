/** Balances and the planner. */
import type { StatementOf } from '@north-pebble/core/leave';
import type { PersonId } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';

export type BalanceView = {
  person: PersonId;
  name: string;
  today: CivilDate;
  types: {
    id: string;
    name: string;
    held: number;
    statement: StatementOf;
    /** The same statement up to the end of the calendar year, with everything booked. */
    ahead: StatementOf;
  }[];
  /** Leave types that take from no balance. */
  others: string[];
  /** What the reader may book for this person; nothing for those who may not. */
  bookable: { id: string; name: string; hasBalance: boolean }[];
};

export type PlannerDay = { date: CivilDate; weekday: number };

export type PlannerView = {
  from: CivilDate;
  to: CivilDate;
  today: CivilDate;
  /** Places and departments that the reader may look at as a whole; none for whoever sees their own teams only. */
  groups: { id: string; name: string; kind: 'place' | 'department' }[];
  teams: {
    name: string;
    people: {
      id: PersonId;
      name: string;
      marks: string;
      entries: { from: CivilDate; to: CivilDate; label: string }[];
    }[];
    /** People at work in the morning or afternoon of each day. */
    here: number[];
  }[];
};

export const plannerDays = { least: 7, most: 366 };
