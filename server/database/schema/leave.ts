/** Rules of leave, what is booked and asked for, and what was closed and told. */
import type {
  AskedInstead,
  LeaveSpan,
  LeaveTypeRules,
  PayLine,
  PlanRules,
  StatementLine,
} from '@north-pebble/core/leave';
import type { Holds } from '@north-pebble/core/people';
import {
  boolean,
  char,
  double,
  index,
  int,
  mysqlTable,
  primaryKey,
  uniqueIndex,
  varchar,
} from 'drizzle-orm/mysql-core';
import { day, id, instant, json } from './columns.ts';

/** Booked leave that a change of facts counted anew: what it took before and takes since, with the change that did it. */
export const restatements = mysqlTable(
  'restatements',
  {
    change: int('change_id').notNull(),
    person: id('person').notNull(),
    request: id('request').notNull(),
    type: id('type').notNull(),
    /** The booking as it was then: one that is changed afterwards is counted anew as a whole. */
    span: json<LeaveSpan>('span').notNull(),
    before: double('amount_before').notNull(),
    after: double('amount_after').notNull(),
    unit: varchar('unit', { length: 5, enum: ['days', 'hours'] }).notNull(),
    /** Whether it was asked for only, or booked already. */
    state: varchar('state', { length: 6, enum: ['held', 'booked'] }).notNull(),
    at: instant('at').notNull(),
  },
  t => [primaryKey({ columns: [t.change, t.request] }), index('restatements_of_person').on(t.person)],
);

/** What each leave type says, from which day on. */
export const leaveTypes = mysqlTable(
  'leave_types',
  {
    id: id('id').notNull(),
    from: day('from_day').notNull().default('1900-01-01'),
    /** The order in which types are offered; new ones come last. */
    position: int('position').notNull().default(1000),
    rules: json<LeaveTypeRules>('rules').notNull(),
  },
  t => [primaryKey({ columns: [t.id, t.from] })],
);

export const leavePlans = mysqlTable(
  'leave_plans',
  {
    id: id('id').notNull(),
    from: day('from_day').notNull().default('1900-01-01'),
    name: varchar('name', { length: 200 }).notNull(),
    unit: varchar('unit', { length: 5, enum: ['days', 'hours'] }).notNull(),
    rules: json<PlanRules>('rules').notNull(),
  },
  t => [primaryKey({ columns: [t.id, t.from] })],
);

/** How many people of a place or a department are needed at once. */
export const leastPresence = mysqlTable('least_presence', {
  id: id('id').primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  place: id('place'),
  department: id('department'),
  people: int('people').notNull(),
  weekdays: json<number[]>('weekdays').notNull(),
  from: day('from_day'),
  to: day('to_day'),
});

/** Leave of somebody that HR lets pass though a limit would stop it. */
export const leavePasses = mysqlTable(
  'leave_passes',
  {
    id: int('id').autoincrement().primaryKey(),
    person: id('person').notNull(),
    type: id('type').notNull(),
    from: day('from_day').notNull(),
    to: day('to_day').notNull(),
    by: id('let_by').notNull(),
    reason: varchar('reason', { length: 1000 }).notNull(),
    at: instant('at').notNull(),
    /** When it was taken back. */
    endedAt: instant('ended_at'),
  },
  t => [index('passes_of_person').on(t.person)],
);

/** What the house before said of balances, one for a person and a type. */
export const leaveOpenings = mysqlTable(
  'leave_openings',
  {
    person: id('person').notNull(),
    type: id('type').notNull(),
    on: day('on_day').notNull(),
    own: double('own').notNull(),
    carried: double('carried').notNull(),
    lapses: day('lapses'),
    source: varchar('source', { length: 200 }).notNull(),
  },
  t => [primaryKey({ columns: [t.person, t.type] })],
);

/** What is true of people that their leave goes by; read by them and by HR alone. */
export const circumstances = mysqlTable(
  'circumstances',
  {
    person: id('person').notNull(),
    id: id('id').notNull(),
    holds: json<Holds>('holds').notNull(),
  },
  t => [primaryKey({ columns: [t.person, t.id] })],
);

export const leaveAdjustments = mysqlTable(
  'leave_adjustments',
  {
    id: int('id').autoincrement().primaryKey(),
    person: id('person').notNull(),
    type: id('type').notNull(),
    date: day('date').notNull(),
    amount: double('amount').notNull(),
    reason: varchar('reason', { length: 500 }).notNull(),
    /** No amount, but a letter that told what lapses. */
    warns: boolean('warns').notNull().default(false),
  },
  t => [index('adjustments_of_person').on(t.person)],
);

export const leaveEntries = mysqlTable(
  'leave_entries',
  {
    request: id('request').primaryKey(),
    person: id('person').notNull(),
    type: id('type').notNull(),
    state: varchar('state', { length: 6, enum: ['held', 'booked'] }).notNull(),
    firstDay: day('first_day').notNull(),
    lastDay: day('last_day').notNull(),
    span: json<LeaveSpan>('span').notNull(),
    /** What is asked for in its place, while a change of it is decided; the days are of both. */
    instead: json<AskedInstead>('asked_instead'),
    planner: boolean('planner').notNull(),
    /** Why HR booked or changed it, where HR did. */
    reason: varchar('reason', { length: 1000 }),
    /** The version of the request with which it became as it is: calendars take the highest. */
    sequence: int('sequence').notNull().default(0),
  },
  t => [index('entries_of_person').on(t.person, t.lastDay), index('entries_by_day').on(t.lastDay, t.firstDay)],
);

/** Leave that was asked for or booked and is no more, so that calendars that have it can be told. */
export const leaveGone = mysqlTable(
  'leave_gone',
  {
    request: id('request').primaryKey(),
    person: id('person').notNull(),
    type: id('type').notNull(),
    span: json<LeaveSpan>('span').notNull(),
    lastDay: day('last_day').notNull(),
    sequence: int('sequence').notNull(),
  },
  t => [index('gone_of_person').on(t.person, t.lastDay)],
);

/** Leave years that were closed: each statement as it stood then. */
export const closedYears = mysqlTable(
  'closed_years',
  {
    person: id('person').notNull(),
    type: id('type').notNull(),
    on: day('closed_on').notNull(),
    balance: double('balance').notNull(),
    lines: json<StatementLine[]>('statement').notNull(),
    by: id('closed_by').notNull(),
    at: instant('at').notNull(),
  },
  t => [primaryKey({ columns: [t.person, t.type, t.on] })],
);

/** What pay was told of a period: every day of leave, as it stood then. */
export const payExports = mysqlTable('pay_exports', {
  id: int('id').autoincrement().primaryKey(),
  from: day('from_day').notNull(),
  to: day('to_day').notNull(),
  by: id('made_by').notNull(),
  at: instant('at').notNull(),
  lines: json<PayLine[]>('pay_lines').notNull(),
});

/** Calendars on secret addresses: whose, of whom, and the hash of the address. */
export const feeds = mysqlTable(
  'feeds',
  {
    id: int('id').autoincrement().primaryKey(),
    owner: id('owner').notNull(),
    of: varchar('of_whom', {
      length: 12,
      enum: ['self', 'team', 'place', 'department', 'line', 'house', 'set'],
    }).notNull(),
    group: id('of_group'),
    hash: char('hash', { length: 64 }).notNull(),
    madeAt: instant('made_at').notNull(),
    readAt: instant('read_at'),
  },
  t => [uniqueIndex('feed_hash').on(t.hash), index('feeds_of_owner').on(t.owner)],
);

/** Lines on the planner that are no leave. */
export const plannerLines = mysqlTable(
  'planner_lines',
  {
    key: varchar('line_key', { length: 150 }).primaryKey(),
    request: id('request').notNull(),
    step: id('step').notNull(),
    person: id('person').notNull(),
    firstDay: day('first_day').notNull(),
    lastDay: day('last_day').notNull(),
    label: varchar('label', { length: 200 }).notNull(),
    /** The version of the request with which it became as it is: calendars take the highest. */
    sequence: int('sequence').notNull().default(0),
    /** It is no more, and stands here so that calendars that have it can be told. */
    gone: boolean('gone').notNull().default(false),
  },
  t => [index('lines_of_person').on(t.person, t.lastDay), index('lines_of_request').on(t.request)],
);
