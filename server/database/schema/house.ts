/** The house itself: its clock, what it keeps in lists, what changed in its records. */
import type { FactEdit, HouseChange } from '@north-pebble/core/facts';
import type { Column, ListRow } from '@north-pebble/core/form';
import type { PersonId } from '@north-pebble/core/people';
import { boolean, char, index, int, mysqlTable, primaryKey, uniqueIndex, varchar } from 'drizzle-orm/mysql-core';
import { day, id, instant, json, machineTime } from './columns.ts';

/** One row: the house's clock, a number that grows whenever the directory changes, and what its reply addresses are signed with. */
export const house = mysqlTable('house', {
  id: int('id').primaryKey(),
  now: instant('now'),
  directoryVersion: int('directory_version').notNull(),
  secret: varchar('secret', { length: 200 }),
  name: varchar('name', { length: 200 }),
  /** Rights that are there only for those who signed in with a second factor. */
  factorRights: json<('designer' | 'administrator' | 'auditor')[]>('factor_rights'),
  /** What colleagues read of one another besides name, post, place and department; nothing more where nothing is said. */
  colleaguesRead: json<('manager' | 'mail' | 'joined' | 'left')[]>('colleagues_read'),
  /** The day on which the house begins here; what was before it is said by openings. */
  beginsOn: day('begins_on'),
  /** The chain that anchors the chains of requests: how many links it has, the seal of the last, and how far it reaches. */
  anchors: int('anchors').notNull().default(0),
  anchorHead: char('anchor_head', { length: 64 }),
  anchoredUntil: machineTime('anchored_until').notNull().default(0),
  anchoredNumber: int('anchored_number').notNull().default(0),
  /** The hash of the token by which a directory tells of people; nothing while none does. */
  incomingToken: char('incoming_token', { length: 64 }),
});

/** What the heads of requests were at some time: a request or an event that is taken away afterwards is missed. */
export const anchors = mysqlTable(
  'anchors',
  {
    n: int('n').primaryKey(),
    request: id('request').notNull(),
    /** How many events the request had, and the seal of the last. */
    version: int('version').notNull(),
    head: char('head', { length: 64 }).notNull(),
    seal: char('seal', { length: 64 }).notNull(),
  },
  t => [index('anchors_of_request').on(t.request, t.n)],
);

/**
 * The house’s ledger: each row of the tables that it guards, whenever one was written or taken away, with a seal of what it
 * said then. Rows are only ever added, each sealed with the one before it.
 */
export const ledger = mysqlTable('ledger', {
  n: int('n').primaryKey(),
  /** Which table, and the key of the row in it. */
  what: varchar('what', { length: 30 }).notNull(),
  key: varchar('row_key', { length: 700 }).notNull(),
  /** The seal of what the row says; nothing once it is gone. */
  row: char('row_seal', { length: 64 }),
  seal: char('seal', { length: 64 }).notNull(),
});

/** One row: how many lines the ledger has, and the seal of the last. Whoever writes to it holds this row. */
export const ledgerHead = mysqlTable('ledger_head', {
  id: int('id').primaryKey(),
  n: int('n').notNull(),
  seal: char('seal', { length: 64 }),
});

/**
 * What was changed of people and posts: by whom, when, why, how each fact stood before and how it stands since. Rows are only
 * ever added; what is taken back is a row of its own.
 */
export const factChanges = mysqlTable(
  'fact_changes',
  {
    id: int('id').autoincrement().primaryKey(),
    at: instant('at').notNull(),
    /** Nobody where a request did it by itself. */
    by: id('by_person'),
    request: id('request'),
    reason: varchar('reason', { length: 500 }).notNull(),
    /** The day from which it holds; nothing for what has no days. */
    from: day('from_day'),
    /** What was wanted; nothing where an earlier change is taken back. */
    change: json<HouseChange>('wanted'),
    edits: json<FactEdit[]>('edits').notNull(),
    /** The change that this one takes back: once. */
    takesBack: int('takes_back'),
  },
  t => [uniqueIndex('fact_change_taken_back').on(t.takesBack), index('fact_changes_of_request').on(t.request)],
);

/** Whom each change is about; of a large one with the edits that are about them. */
export const factChangePeople = mysqlTable(
  'fact_change_people',
  { person: id('person').notNull(), change: int('change_id').notNull(), edits: json<FactEdit[]>('edits') },
  t => [primaryKey({ columns: [t.person, t.change] })],
);

/** Lists that forms let people pick from. */
export const lists = mysqlTable('lists', {
  id: id('id').primaryKey(),
  /** One that came later stands after those that were there, by its name. */
  position: int('position').notNull().default(1000),
  name: varchar('name', { length: 200 }).notNull(),
  columns: json<Column[]>('columns').notNull(),
  /** Those who may edit its rows, beside those who keep records. */
  owners: json<PersonId[]>('owners'),
});

export const listRows = mysqlTable(
  'list_rows',
  {
    list: id('list').notNull(),
    id: id('id').notNull(),
    title: varchar('title', { length: 200 }).notNull(),
    cells: json<ListRow['cells']>('cells').notNull(),
    /** The days on which it may be picked. */
    from: day('from_day'),
    to: day('to_day'),
  },
  t => [primaryKey({ columns: [t.list, t.id] })],
);

/** Named sets of filters of the requests place. */
export const savedSets = mysqlTable(
  'saved_sets',
  {
    id: int('id').autoincrement().primaryKey(),
    owner: id('owner').notNull(),
    name: varchar('name', { length: 80 }).notNull(),
    /** As it stands in the address. */
    query: varchar('query', { length: 2000 }).notNull(),
    shared: boolean('shared').notNull(),
    /** Given to those who hold it. */
    role: varchar('role', { length: 80 }),
    place: varchar('place', { length: 10, enum: ['requests', 'desk', 'people', 'balances', 'planner'] })
      .notNull()
      .default('requests'),
  },
  t => [index('sets_of_owner').on(t.owner)],
);
