/** Wishes for the same days, collected and decided together. */
import type { HalfSpan } from '@north-pebble/core/leave';
import { char, index, int, mysqlTable, primaryKey, varchar } from 'drizzle-orm/mysql-core';
import { day, id, instant, json } from './columns.ts';

/** A round of wishes. That it is decided is said by the change of facts that booked them. */
export const wishRounds = mysqlTable('wish_rounds', {
  id: int('id').autoincrement().primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  type: id('type').notNull(),
  place: id('place'),
  department: id('department'),
  from: day('from_day').notNull(),
  to: day('to_day').notNull(),
  /** The last day on which they are taken. */
  closes: day('closes').notNull(),
  mostAway: int('most_away'),
  /** From which the lots are drawn; its hash is told from the first. */
  seed: char('seed', { length: 32 }).notNull(),
  by: id('made_by').notNull(),
  at: instant('at').notNull(),
});

/** What somebody wishes for in a round, in the order in which they would have it. */
export const wishes = mysqlTable(
  'wishes',
  {
    round: int('round').notNull(),
    person: id('person').notNull(),
    spans: json<HalfSpan[]>('spans').notNull(),
    at: instant('at').notNull(),
  },
  t => [primaryKey({ columns: [t.round, t.person] }), index('wishes_of_person').on(t.person)],
);
