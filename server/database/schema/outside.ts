/** What must reach the outside, and what comes from it. */
import type { Difference } from '@north-pebble/core/access';
import type { MailChoice } from '@north-pebble/core/people';
import type { Attached, LinkInLetter } from '@north-pebble/core/workflow';
import { boolean, char, index, int, mysqlTable, uniqueIndex, varchar } from 'drizzle-orm/mysql-core';
import { day, id, instant, json, machineTime } from './columns.ts';

/** To a person of the directory, or to an address outside it. */
export type Letter = {
  to: string;
  address?: string;
  subject: string;
  body: string;
  html?: string;
  /** Files and an invitation that go along. */
  attach?: Attached;
  /** The task that a reply to this mail may answer. */
  task?: string;
  /** The id of the mail that this one answers. */
  answers?: string;
  forRole?: true;
  /** The account outside for which it brings a one-time address. */
  first?: { connection: string; target: string; account: string };
  /** The account here for which it brings a one-time address, which is made when it goes out. */
  account?: { person: string; purpose: 'invitation' | 'password' };
  /** The personal link of a guest that it brings. */
  link?: LinkInLetter;
};

/** What must reach the outside. Delivered at least once; the key lets the other side tell a repeat. */
/**
 * All that leaves the house, written in the transaction of the command that asked for it: letters, and what connections are
 * asked to do. `notBefore` and `until` are times of the house; tries and claims go by the machine.
 */
export const effects = mysqlTable(
  'effects',
  {
    id: int('id').autoincrement().primaryKey(),
    key: varchar('effect_key', { length: 150 }).notNull(),
    connection: varchar('connection', { length: 60 }).notNull().default('mail'),
    action: varchar('action', { length: 40 }).notNull().default('letter'),
    /** By whose command, and at which of its steps, so that the answer finds its way back. */
    request: id('request'),
    step: id('step'),
    /** What goes to one target goes in the order in which it was asked for. */
    target: varchar('target', { length: 100 }),
    payload: json<Letter>('payload').notNull(),
    state: varchar('state', {
      length: 9,
      enum: ['waiting', 'delivered', 'refused', 'given up', 'undone', 'unwanted'],
    }).notNull(),
    attempts: int('attempts').notNull(),
    nextTry: machineTime('next_try').notNull(),
    writtenAt: instant('written_at').notNull(),
    /** Why it was refused, or was not delivered the last time. */
    fault: varchar('fault', { length: 500 }),
    result: json<Record<string, unknown>>('result'),
    /** How things stood outside before it was done, noted before the call that changes them. */
    noted: json<Record<string, unknown>>('noted'),
    doneAt: machineTime('done_at'),
    /** Not before this time of the house; for letters maybe together with others. */
    notBefore: instant('not_before'),
    /** Its last day, after which it is undone again, and when that day is over for the person. */
    until: day('until_day'),
    undoAt: instant('undo_at'),
    /** The key of the effect that this one takes back. */
    undoes: varchar('undoes', { length: 150 }),
    person: id('person'),
    daily: boolean('daily').notNull().default(false),
    /** Which sender has it in hand, as long as `next_try` is ahead. */
    claimedBy: char('claimed_by', { length: 36 }),
  },
  t => [
    uniqueIndex('effect_key').on(t.key),
    index('effects_waiting').on(t.connection, t.state, t.nextTry),
    index('effects_of_target').on(t.connection, t.target, t.state, t.id),
    index('effects_of_request').on(t.request, t.state),
    index('effects_done').on(t.state, t.doneAt),
  ],
);

/** What a directory holds against what it should: the newest comparison of each connection. */
export const comparisons = mysqlTable('comparisons', {
  connection: varchar('connection', { length: 60 }).primaryKey(),
  state: varchar('state', { length: 7, enum: ['running', 'done', 'stopped', 'failed'] }).notNull(),
  startedAt: instant('started_at').notNull(),
  doneAt: instant('done_at'),
  /** When it last went on; one that was broken off by an end of its server is begun anew. */
  beat: machineTime('beat').notNull(),
  read: int('read_count').notNull().default(0),
  total: int('total').notNull().default(0),
  fault: varchar('fault', { length: 500 }),
  found: json<readonly Difference[]>('found').notNull(),
  more: int('more').notNull().default(0),
});

/** Ways out of the house that an administrator has set up, by the name that workflows use. */
export const connections = mysqlTable('connections', {
  name: varchar('name', { length: 60 }).primaryKey(),
  kind: varchar('kind', { length: 20 }).notNull(),
  settings: json<unknown>('settings').notNull(),
  paused: boolean('paused').notNull().default(false),
});

/** How people want their mails; as usual where nothing is said. */
export const mailChoices = mysqlTable('mail_choices', {
  person: id('person').primaryKey(),
  choice: json<MailChoice>('choice').notNull(),
});

/** Mails that came in and were read, so that a mail delivered twice is read once. */
export const receivedMails = mysqlTable('received_mails', {
  id: varchar('message_id', { length: 300 }).primaryKey(),
  at: instant('at').notNull(),
  sender: varchar('sender', { length: 300 }).notNull(),
  request: id('request'),
  verdict: varchar('verdict', { length: 40 }).notNull(),
});
