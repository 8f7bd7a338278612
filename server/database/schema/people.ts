/** Who works here, where, in which posts and by which patterns. */
import type { HolidayRule, WorkPattern } from '@north-pebble/core/time';
import { boolean, double, int, mysqlTable, primaryKey, uniqueIndex, varchar } from 'drizzle-orm/mysql-core';
import { day, id, json } from './columns.ts';

/** People whom a directory tells of, by the names that it has for them. */
export const incomingPeople = mysqlTable(
  'incoming_people',
  {
    person: id('person').primaryKey(),
    userName: varchar('user_name', { length: 200 }).notNull(),
    externalId: varchar('external_id', { length: 200 }),
  },
  t => [uniqueIndex('incoming_user_name').on(t.userName)],
);

export const people = mysqlTable('people', {
  id: id('id').primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  mail: varchar('mail', { length: 200 }).notNull(),
  joined: day('joined').notNull(),
  leftOn: day('left_on'),
  dottedTo: id('dotted_to'),
  /** What pay knows them by. */
  number: varchar('number', { length: 40 }),
});

export const personRecords = mysqlTable(
  'person_records',
  {
    person: id('person').notNull(),
    from: day('from_day').notNull(),
    place: id('place').notNull(),
    department: id('department').notNull(),
    pattern: id('pattern').notNull(),
    fte: double('fte').notNull(),
    plan: id('plan'),
    /** Units of the plan for one of the plan before, where they count in different ones. */
    planPer: double('plan_per'),
    costCentre: varchar('cost_centre', { length: 40 }),
  },
  t => [primaryKey({ columns: [t.person, t.from] })],
);

export const posts = mysqlTable('posts', {
  id: id('id').primaryKey(),
  title: varchar('title', { length: 200 }).notNull(),
  department: id('department').notNull(),
  place: id('place').notNull(),
  grade: int('grade'),
  /** What its holder may spend on one request. */
  spending: double('spending'),
  /** The last day on which it is there. */
  closed: day('closed_on'),
});

export const postLines = mysqlTable(
  'post_lines',
  { post: id('post').notNull(), from: day('from_day').notNull(), reportsTo: id('reports_to') },
  t => [primaryKey({ columns: [t.post, t.from] })],
);

export const holdings = mysqlTable(
  'holdings',
  {
    post: id('post').notNull(),
    person: id('person').notNull(),
    from: day('from_day').notNull(),
    to: day('to_day'),
    main: boolean('main').notNull(),
  },
  t => [primaryKey({ columns: [t.post, t.person, t.from] })],
);

export const covers = mysqlTable(
  'covers',
  {
    person: id('person').notNull(),
    by: id('covered_by').notNull(),
    from: day('from_day').notNull(),
    to: day('to_day').notNull(),
    /** Only for these workflows; for all of them when nothing is said. */
    workflows: json<string[]>('workflows'),
    /** Who set it, when that was not the person. */
    setBy: id('set_by'),
  },
  t => [primaryKey({ columns: [t.person, t.from] })],
);

export const roles = mysqlTable(
  'roles',
  {
    role: varchar('role', { length: 80 }).notNull(),
    person: id('person').notNull(),
    /** Held for the people of this place or department only; empty for everybody. */
    place: id('place').notNull().default(''),
    department: id('department').notNull().default(''),
    from: day('from_day'),
    to: day('to_day'),
  },
  t => [primaryKey({ columns: [t.role, t.person, t.place, t.department] })],
);

export const places = mysqlTable('places', {
  id: id('id').primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  zone: varchar('zone', { length: 80 }).notNull(),
  calendar: id('calendar').notNull(),
  head: id('head'),
});

export const departments = mysqlTable('departments', {
  id: id('id').primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  head: id('head'),
});

export const patterns = mysqlTable('patterns', {
  id: id('id').primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  anchor: day('anchor').notNull(),
  cycle: json<WorkPattern['cycle']>('cycle').notNull(),
});

export const calendars = mysqlTable('calendars', {
  id: id('id').primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  buildsOn: id('builds_on'),
  /** Holidays of every year; single days stand in `holidays`. */
  rules: json<HolidayRule[]>('rules'),
});

export const holidays = mysqlTable(
  'holidays',
  {
    calendar: id('calendar').notNull(),
    date: day('date').notNull(),
    part: varchar('part', { length: 3, enum: ['day', 'am', 'pm'] }).notNull(),
    name: varchar('name', { length: 200 }).notNull(),
  },
  t => [primaryKey({ columns: [t.calendar, t.date, t.part] })],
);
