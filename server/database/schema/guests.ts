/** Guests: their links, what they type and sign. */
import type { SignedPaper } from '@north-pebble/core/form';
import { boolean, char, index, int, mysqlTable, primaryKey } from 'drizzle-orm/mysql-core';
import { id, json, machineTime } from './columns.ts';

/** Personal links of guests: only their hashes. Which of them is good is said by the request. */
export const guestLinks = mysqlTable(
  'guest_links',
  {
    hash: char('hash', { length: 64 }).primaryKey(),
    request: id('request').notNull(),
    step: id('step').notNull(),
    n: int('n').notNull(),
    at: machineTime('at').notNull(),
  },
  t => [index('guest_links_of_request').on(t.request, t.step)],
);

/** Devices from which a link was opened; one after the first is known once it has given a code. */
export const guestDevices = mysqlTable(
  'guest_devices',
  {
    hash: char('hash', { length: 64 }).primaryKey(),
    request: id('request').notNull(),
    step: id('step').notNull(),
    known: boolean('known').notNull(),
    code: char('code', { length: 64 }),
    codeUntil: machineTime('code_until').notNull().default(0),
    tries: int('tries').notNull().default(0),
    at: machineTime('at').notNull(),
  },
  t => [index('guest_devices_of_request').on(t.request, t.step)],
);

/** What a guest has typed in a section; `base` counts the savings. */
export const guestTyping = mysqlTable(
  'guest_typing',
  {
    request: id('request').notNull(),
    step: id('step').notNull(),
    section: id('section').notNull(),
    value: json<Record<string, unknown>>('value').notNull(),
    base: int('base').notNull(),
    at: machineTime('at').notNull(),
  },
  t => [primaryKey({ columns: [t.request, t.step, t.section] })],
);

/** Papers that were made for a guest, and what the guest did with each: read it, signed it. */
export const guestPapers = mysqlTable(
  'guest_papers',
  {
    request: id('request').notNull(),
    step: id('step').notNull(),
    field: id('field').notNull(),
    /** The digest of the words that it was made of, or of the file. */
    made: char('made', { length: 64 }).notNull(),
    file: char('file', { length: 36 }).notNull(),
    digest: char('digest', { length: 64 }).notNull(),
    signed: json<SignedPaper>('signed'),
    at: machineTime('at').notNull(),
  },
  t => [primaryKey({ columns: [t.request, t.step, t.field] })],
);
