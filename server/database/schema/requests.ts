/** Requests, all that happened to them, and what waits for them. */
import type { Answers } from '@north-pebble/core/form';
import type { Command, RequestEvent, RequestState } from '@north-pebble/core/workflow';
import { boolean, char, index, int, mysqlTable, primaryKey, uniqueIndex, varchar } from 'drizzle-orm/mysql-core';
import { id, instant, json, machineTime, requestState } from './columns.ts';

export const requests = mysqlTable(
  'requests',
  {
    number: int('number').autoincrement().primaryKey(),
    id: id('id'),
    workflow: id('workflow').notNull(),
    workflowVersion: int('workflow_version').notNull(),
    asker: id('asker').notNull(),
    /** For whom, when that is not the asker. */
    subject: id('subject'),
    status: varchar('status', { length: 10 }).$type<RequestState['status']>().notNull(),
    closing: id('closing'),
    title: varchar('title', { length: 300 }).notNull(),
    askedAt: instant('asked_at').notNull(),
    closedAt: instant('closed_at'),
    state: requestState('state').notNull(),
    /** The request that opened this one, and by which of its effects. */
    openedBy: id('opened_by'),
    openedKey: varchar('opened_key', { length: 150 }),
    /** The mail address of whoever asked from outside, in small letters. */
    outside: varchar('outside', { length: 254 }),
    /** Who looks after it, once that is not the asker any more. */
    owner: id('owner'),
    /** The seal of the newest event. */
    head: char('head', { length: 64 }),
    /** The seal of these columns, with the newest event. */
    rowSeal: char('row_seal', { length: 64 }),
    /** The date that it counts back from, while it is open. */
    plannedFor: char('planned_for', { length: 10 }),
    /** When it last changed, so that every server can tell the people concerned. */
    touched: machineTime('touched').notNull().default(0),
  },
  t => [
    index('requests_touched').on(t.touched),
    index('requests_planned').on(t.plannedFor),
    index('requests_by_status').on(t.status, t.number),
    uniqueIndex('request_id').on(t.id),
    index('requests_of_asker').on(t.asker, t.status, t.number),
    index('requests_of_subject').on(t.subject, t.status, t.number),
    index('requests_of_owner').on(t.owner, t.status, t.number),
    index('requests_of_workflow').on(t.workflow, t.status),
    index('requests_from_outside').on(t.outside, t.workflow),
  ],
);

/** Who is to know that a request is not ready for its date, until it is. */
export const alerts = mysqlTable('alerts', { request: id('request').notNull(), person: id('person').notNull() }, t => [
  primaryKey({ columns: [t.request, t.person] }),
  index('alerts_of_person').on(t.person),
]);

export const events = mysqlTable(
  'events',
  {
    request: id('request').notNull(),
    seq: int('seq').notNull(),
    at: instant('at').notNull(),
    actor: id('actor'),
    kind: varchar('kind', { length: 20 }).notNull(),
    /** As it was written, for its seal; `readEvent` gives what it means today. */
    body: json<RequestEvent>('body').notNull(),
    /** The number of the form of the body. */
    form: int('form').notNull().default(1),
    /** Made of the event and of the seal before it, so that no row can be changed or taken out unseen. */
    seal: char('seal', { length: 64 }),
  },
  t => [primaryKey({ columns: [t.request, t.seq] }), index('events_of_actor').on(t.actor, t.at, t.kind)],
);

/** Commands that have been carried out; a repeat finds its id here and does nothing twice. */
export const commands = mysqlTable('commands', {
  id: char('id', { length: 36 }).primaryKey(),
  actor: id('actor').notNull(),
  request: id('request').notNull(),
  version: int('version').notNull(),
  /** Of what was sent: the same id with something else is another command. */
  digest: char('digest', { length: 64 }),
  /** When it was given, by the machine's clock: a repeat comes soon or never. */
  at: machineTime('at').notNull().default(0),
});

/** Everybody who holds or held a request, for the desk and for who may see it. */
export const tasks = mysqlTable(
  'tasks',
  {
    id: id('id').primaryKey(),
    request: id('request').notNull(),
    holder: id('holder').notNull(),
    /** For whom the holder stands in; both see it. */
    coverFor: id('cover_for'),
    open: boolean('open').notNull(),
    /** Past its limit, with nothing left that happens by itself. */
    late: boolean('late').notNull().default(false),
  },
  t => [
    index('tasks_late').on(t.late, t.open),
    index('tasks_of_holder').on(t.holder, t.open),
    index('tasks_covered').on(t.coverFor, t.open),
    index('tasks_of_request').on(t.request),
  ],
);

export const requestDrafts = mysqlTable(
  'request_drafts',
  {
    person: id('person').notNull(),
    workflow: id('workflow').notNull(),
    answers: json<Answers>('answers').notNull(),
    savedAt: instant('saved_at').notNull(),
  },
  t => [primaryKey({ columns: [t.person, t.workflow] })],
);

/** What people have typed for requests and not sent yet. */
export const unsent = mysqlTable(
  'unsent',
  {
    person: id('person').notNull(),
    request: id('request').notNull(),
    what: varchar('what', { length: 80 }).notNull(),
    value: json<unknown>('value').notNull(),
    at: machineTime('at').notNull(),
  },
  t => [primaryKey({ columns: [t.person, t.request, t.what] }), index('unsent_by_age').on(t.at)],
);

/** Requests that were deleted when their time was over: nothing of them but that they were, for the sealed trail. */
export const forgotten = mysqlTable('forgotten', {
  request: id('request').primaryKey(),
  workflow: id('workflow').notNull(),
  version: int('version').notNull(),
  head: char('head', { length: 64 }),
  closedAt: instant('closed_at').notNull(),
  at: instant('at').notNull(),
});

/** A command that could not be carried out by a fault of ours: what was wanted, so that it can be given again. */
export const stepFaults = mysqlTable('step_faults', {
  request: id('request').primaryKey(),
  /** The version that the request stood at; once it has moved on, the fault is of the past. */
  version: int('version').notNull(),
  step: id('step').notNull(),
  actor: id('actor').notNull(),
  command: json<Command>('command').notNull(),
  fault: varchar('fault', { length: 300 }).notNull(),
  at: instant('at').notNull(),
});

export const timers = mysqlTable(
  'timers',
  {
    key: varchar('timer_key', { length: 80 }).primaryKey(),
    request: id('request').notNull(),
    task: id('task').notNull(),
    what: varchar('what', {
      length: 6,
      enum: ['remind', 'limit', 'hold', 'aside', 'alert', 'guest', 'facts', 'leave'],
    }).notNull(),
    at: instant('at').notNull(),
    /** How often it was tried in vain, why, and when it is tried again. */
    failures: int('failures').notNull().default(0),
    fault: varchar('fault', { length: 300 }),
    nextTry: machineTime('next_try').notNull().default(0),
  },
  t => [index('timers_by_time').on(t.at), index('timers_of_task').on(t.task), index('timers_failing').on(t.failures)],
);
