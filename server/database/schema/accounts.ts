/** Who may sign in, and with what. */
import { boolean, char, index, int, mysqlTable, varchar } from 'drizzle-orm/mysql-core';
import { id, instant, json, machineTime } from './columns.ts';

export const accounts = mysqlTable('accounts', {
  person: id('person').primaryKey(),
  passwordHash: varchar('password_hash', { length: 200 }),
  rights: json<('designer' | 'administrator' | 'auditor')[]>('rights').notNull(),
  /** The address of before, to which letters about the password go until the new one has stood for a day, and since when. */
  mailBefore: varchar('mail_before', { length: 200 }),
  mailSince: machineTime('mail_since').notNull().default(0),
  /** Switched off: nobody signs in with it, and sessions that are open end at once. */
  closed: boolean('closed').notNull().default(false),
  /** What the other device counts its codes from, by RFC 6238, hidden; and one that is not taken into use yet. */
  factorSecret: varchar('factor_secret', { length: 200 }),
  factorBegun: varchar('factor_begun', { length: 200 }),
  /** The step of the last code that was taken: none is taken twice. */
  factorStep: int('factor_step').notNull().default(0),
  /** Hashes of the codes that were written down and not used yet. */
  factorCodes: json<string[]>('factor_codes'),
  /** Wrong codes in a row, and until when no further one is looked at. */
  factorFailures: int('factor_failures').notNull().default(0),
  factorUntil: machineTime('factor_until').notNull().default(0),
  /** Position and words of the sign-in card, in the demo only. */
  card: int('card'),
  cardWords: varchar('card_words', { length: 200 }),
});

/** Every time an administrator saw North Pebble as somebody else: who, as whom, when and why. */
export const seenAs = mysqlTable('seen_as', {
  id: int('id').autoincrement().primaryKey(),
  by: id('by_person').notNull(),
  as: id('as_person').notNull(),
  at: instant('at').notNull(),
  reason: varchar('reason', { length: 500 }).notNull(),
});

/** Lists that were taken along as files: by whom, of what, and when. */
export const exports = mysqlTable('exports', {
  id: int('id').autoincrement().primaryKey(),
  by: id('by_person').notNull(),
  /** As whom they saw North Pebble meanwhile. */
  as: id('as_person'),
  what: varchar('what', { length: 300 }).notNull(),
  at: instant('at').notNull(),
});

/** One-time links: to set the house up, to take up an invitation, to choose a new password. Only their hashes are kept. */
export const links = mysqlTable(
  'links',
  {
    hash: char('hash', { length: 64 }).primaryKey(),
    purpose: varchar('purpose', { length: 12, enum: ['setup', 'invitation', 'password'] }).notNull(),
    person: id('person'),
    expires: machineTime('expires').notNull(),
  },
  t => [index('links_by_expiry').on(t.expires), index('links_of_person').on(t.person)],
);

/** One-time addresses on which somebody gets the first password of an account outside; the password itself is kept nowhere. */
export const firstPasswords = mysqlTable(
  'first_passwords',
  {
    hash: char('hash', { length: 64 }).primaryKey(),
    connection: varchar('connection', { length: 60 }).notNull(),
    target: varchar('target', { length: 200 }).notNull(),
    account: varchar('account', { length: 200 }).notNull(),
    expires: machineTime('expires').notNull(),
  },
  t => [index('first_passwords_by_expiry').on(t.expires)],
);

export const sessions = mysqlTable(
  'sessions',
  {
    tokenHash: char('token_hash', { length: 64 }).primaryKey(),
    person: id('person').notNull(),
    expires: machineTime('expires').notNull(),
    /** Whether a second factor was used. */
    strong: boolean('strong').notNull().default(false),
    /** Whose view an administrator looks through just now, reading only, and until when. */
    seesAs: id('sees_as'),
    seesUntil: machineTime('sees_until').notNull().default(0),
  },
  t => [index('sessions_by_expiry').on(t.expires)],
);
