/** Rounds in which access is looked at again. */
import { index, int, mysqlTable, varchar } from 'drizzle-orm/mysql-core';
import { day, id, instant, json } from './columns.ts';

/** Rounds in which access is looked at again. */
export const reviews = mysqlTable('reviews', {
  id: int('id').autoincrement().primaryKey(),
  connection: varchar('connection', { length: 60 }).notNull(),
  groups: json<string[]>('group_names').notNull(),
  by: varchar('by_whom', { length: 8, enum: ['owner', 'manager'] }).notNull(),
  unanswered: varchar('unanswered', { length: 8, enum: ['remove', 'up'] }).notNull(),
  due: day('due').notNull(),
  startedBy: id('started_by').notNull(),
  startedAt: instant('started_at').notNull(),
  endedAt: instant('ended_at'),
});

/** Who has access, as it was when the round began, and what was said of it. */
export const reviewItems = mysqlTable(
  'review_items',
  {
    id: int('id').autoincrement().primaryKey(),
    review: int('review').notNull(),
    group: varchar('group_name', { length: 200 }).notNull(),
    account: varchar('account', { length: 200 }).notNull(),
    person: id('person'),
    name: varchar('name', { length: 200 }).notNull(),
    request: id('request'),
    lastUsed: varchar('last_used', { length: 40 }),
    reviewer: id('reviewer').notNull(),
    /** Who was asked before it went up. */
    before: id('before'),
    due: day('due').notNull(),
    answer: varchar('answer', { length: 6, enum: ['keep', 'remove'] }),
    note: varchar('note', { length: 500 }),
    /** Nobody where the end of the round answered. */
    answeredBy: id('answered_by'),
    answeredAt: instant('answered_at'),
  },
  t => [index('items_of_review').on(t.review), index('items_of_reviewer').on(t.reviewer, t.answer)],
);
