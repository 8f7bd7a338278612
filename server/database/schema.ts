/**
 * The tables. Facts about people are effective-dated rows; what happens to requests is append-only `events`;
 * `requests`, `tasks` and `leave_entries` are projections of the events, written in the same transaction.
 */

import type { Difference } from '@north-pebble/core/access';
import type { FactEdit, HouseChange } from '@north-pebble/core/facts';
import type { Answers, Column, ListRow, SignedPaper } from '@north-pebble/core/form';
import type { LeaveSpan, LeaveTypeRules, PayLine, PlanRules, StatementLine } from '@north-pebble/core/leave';
import type { PaperRules } from '@north-pebble/core/papers';
import type { MailChoice, PersonId } from '@north-pebble/core/people';
import type { HolidayRule, WorkPattern } from '@north-pebble/core/time';
import type { Attached } from '@north-pebble/core/workflow';
import {
  type Definition,
  type LinkInLetter,
  type RequestEvent,
  type RequestState,
  readState,
} from '@north-pebble/core/workflow';
import {
  bigint,
  boolean,
  char,
  customType,
  double,
  index,
  int,
  mysqlTable,
  primaryKey,
  uniqueIndex,
  varchar,
} from 'drizzle-orm/mysql-core';

/** JSON kept as text: MariaDB's own JSON type is a text too, and its driver does not read it. */
const json = <T>(name: string) =>
  customType<{ data: T; driverData: string }>({
    dataType: () => 'longtext',
    toDriver: value => JSON.stringify(value),
    fromDriver: text => JSON.parse(text) as T,
  })(name);

/** The state of a request, read in the form of today whichever version stored it. */
const requestState = customType<{ data: RequestState; driverData: string }>({
  dataType: () => 'longtext',
  toDriver: state => JSON.stringify(state),
  fromDriver: text => readState(JSON.parse(text)),
});

const id = (name: string) => varchar(name, { length: 40 });
const day = (name: string) => char(name, { length: 10 });
/** An instant as ISO 8601 in UTC, to the second: sorts as it reads. */
const instant = (name: string) => char(name, { length: 20 });
/** Milliseconds of the machine's clock, for retries and claims that the demo clock must not move. */
const machineTime = (name: string) => bigint(name, { mode: 'number' });

/** One row: the house's clock, a number that grows whenever the directory changes, and what its reply addresses are signed with. */
export const house = mysqlTable('house', {
  id: int('id').primaryKey(),
  now: instant('now'),
  directoryVersion: int('directory_version').notNull(),
  secret: char('secret', { length: 64 }),
  name: varchar('name', { length: 200 }),
  /** Set once requests of before there were seals have theirs; nothing is sealed afterwards but by being stored. */
  sealed: boolean('sealed').notNull().default(false),
  /** Rights that are there only for those who signed in with a second factor. */
  factorRights: json<('designer' | 'administrator' | 'auditor')[]>('factor_rights'),
  /** The chain that anchors the chains of requests: how many links it has, the seal of the last, and how far it reaches. */
  anchors: int('anchors').notNull().default(0),
  anchorHead: char('anchor_head', { length: 64 }),
  anchoredUntil: machineTime('anchored_until').notNull().default(0),
  anchoredNumber: int('anchored_number').notNull().default(0),
  /** The hash of the token by which a directory tells of people; nothing while none does. */
  incomingToken: char('incoming_token', { length: 64 }),
});

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

export const people = mysqlTable('people', {
  id: id('id').primaryKey(),
  name: varchar('name', { length: 200 }).notNull(),
  mail: varchar('mail', { length: 200 }).notNull(),
  joined: day('joined').notNull(),
  leftOn: day('left_on'),
  dottedTo: id('dotted_to'),
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

export const leaveAdjustments = mysqlTable(
  'leave_adjustments',
  {
    id: int('id').autoincrement().primaryKey(),
    person: id('person').notNull(),
    type: id('type').notNull(),
    date: day('date').notNull(),
    amount: double('amount').notNull(),
    reason: varchar('reason', { length: 500 }).notNull(),
  },
  t => [index('adjustments_of_person').on(t.person)],
);

export const accounts = mysqlTable('accounts', {
  person: id('person').primaryKey(),
  passwordHash: varchar('password_hash', { length: 200 }),
  rights: json<('designer' | 'administrator' | 'auditor')[]>('rights').notNull(),
  /** Switched off: nobody signs in with it, and sessions that are open end at once. */
  closed: boolean('closed').notNull().default(false),
  /** What the other device counts its codes from, by RFC 6238; and one that is not taken into use yet. */
  factorSecret: varchar('factor_secret', { length: 64 }),
  factorBegun: varchar('factor_begun', { length: 64 }),
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

export const workflows = mysqlTable('workflows', {
  id: id('id').primaryKey(),
  position: int('position').notNull(),
  liveVersion: int('live_version'),
  draft: json<Definition>('draft'),
  /** What was found about the draft, or about the live version where there is none, and of what state of things. */
  found: json<{ of: string; stops: number; warns: number }>('found'),
  draftRevision: int('draft_revision').notNull(),
  draftSavedAt: instant('draft_saved_at'),
  draftSavedBy: id('draft_saved_by'),
  archivedAt: instant('archived_at'),
  /** Who may do what with it, by person; everybody with the right to design when nothing is said. */
  permissions: json<Permissions>('permissions'),
});

export type Permissions = { edit: string[]; publish: string[]; see: string[] };

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

export const workflowVersions = mysqlTable(
  'workflow_versions',
  {
    workflow: id('workflow').notNull(),
    version: int('version').notNull(),
    definition: json<Definition>('definition').notNull(),
    publishedAt: instant('published_at').notNull(),
    publishedBy: id('published_by').notNull(),
    comment: varchar('comment', { length: 500 }).notNull(),
  },
  t => [primaryKey({ columns: [t.workflow, t.version] })],
);

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
    /** The seal of the newest event. */
    head: char('head', { length: 64 }),
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
    of: varchar('of_whom', { length: 12, enum: ['self', 'team', 'place', 'department'] }).notNull(),
    group: id('of_group'),
    hash: char('hash', { length: 64 }).notNull(),
    madeAt: instant('made_at').notNull(),
    readAt: instant('read_at'),
  },
  t => [uniqueIndex('feed_hash').on(t.hash), index('feeds_of_owner').on(t.owner)],
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

/** The public address of a workflow: on which days something is taken in there, and how many at most. */
export const publicForms = mysqlTable(
  'public_forms',
  {
    workflow: id('workflow').primaryKey(),
    /** Given out to everybody, so it is no secret; renewed, the one before opens nothing. */
    token: char('token', { length: 43 }).notNull(),
    firstDay: day('first_day'),
    lastDay: day('last_day'),
    most: int('most'),
    taken: int('taken').notNull().default(0),
    /** Shut by hand. */
    shut: boolean('shut').notNull().default(false),
    at: instant('at').notNull(),
    by: id('by').notNull(),
  },
  t => [uniqueIndex('public_form_token').on(t.token)],
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

/**
 * Numbers of papers as they were given: nowhere else than here, so that one can be thrown away. Requests and events hold
 * the last letters alone.
 */
export const paperNumbers = mysqlTable('paper_numbers', {
  file: char('file', { length: 36 }).primaryKey(),
  number: varchar('number', { length: 60 }).notNull(),
});

/** The register of papers over all people. */
export const papers = mysqlTable(
  'papers',
  {
    id: int('id').autoincrement().primaryKey(),
    /** The effect that kept it: asked for twice, it is kept once. */
    key: varchar('key', { length: 150 }).notNull(),
    person: id('person'),
    holder: varchar('holder', { length: 200 }).notNull(),
    kind: varchar('kind', { length: 80 }).notNull(),
    issued: day('issued'),
    expires: day('expires'),
    request: id('request').notNull(),
    field: id('field').notNull(),
    file: char('file', { length: 36 }).notNull(),
    keptOn: day('kept_on').notNull(),
    replacedOn: day('replaced_on'),
    /** The request in which the new one was asked for. */
    renewal: id('renewal'),
    reminded: int('reminded'),
    forgottenOn: day('forgotten_on'),
  },
  t => [
    uniqueIndex('papers_by_key').on(t.key),
    index('papers_by_expiry').on(t.expires),
    index('papers_of_person').on(t.person, t.kind),
  ],
);

export const paperRules = mysqlTable('paper_rules', {
  kind: varchar('kind', { length: 80 }).primaryKey(),
  rules: json<PaperRules>('rules').notNull(),
});

/** Looks at papers in the register; each is kept. */
export const paperLooks = mysqlTable(
  'paper_looks',
  {
    id: int('id').autoincrement().primaryKey(),
    paper: int('paper').notNull(),
    person: id('person').notNull(),
    /** Looked at its number or at the paper, or said whose it is. */
    what: varchar('what', { length: 6, enum: ['number', 'file', 'holder'] }).notNull(),
    at: instant('at').notNull(),
  },
  t => [index('looks_of_paper').on(t.paper)],
);

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

const bytes = customType<{ data: Buffer }>({ dataType: () => 'mediumblob' });

/** Files that were given: who gave them, and to which field of which request once it was sent. */
export const files = mysqlTable(
  'files',
  {
    id: char('id', { length: 36 }).primaryKey(),
    owner: id('owner').notNull(),
    request: id('request'),
    field: id('field'),
    name: varchar('name', { length: 200 }).notNull(),
    type: varchar('type', { length: 100 }).notNull(),
    size: int('size').notNull(),
    digest: char('digest', { length: 64 }).notNull(),
    /** Whether all of it has come in. */
    whole: boolean('whole').notNull(),
    at: machineTime('at').notNull(),
  },
  t => [index('files_of_request').on(t.request, t.at)],
);

/** Their content, in pieces, so that no piece is too large for a packet. */
export const filePieces = mysqlTable(
  'file_pieces',
  { file: char('file', { length: 36 }).notNull(), seq: int('seq').notNull(), bytes: bytes('bytes').notNull() },
  t => [primaryKey({ columns: [t.file, t.seq] })],
);

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
  },
  t => [index('lines_of_person').on(t.person, t.lastDay), index('lines_of_request').on(t.request)],
);

/** How people want their mails; as usual where nothing is said. */
export const mailChoices = mysqlTable('mail_choices', {
  person: id('person').primaryKey(),
  choice: json<MailChoice>('choice').notNull(),
});

export const timers = mysqlTable(
  'timers',
  {
    key: varchar('timer_key', { length: 80 }).primaryKey(),
    request: id('request').notNull(),
    task: id('task').notNull(),
    what: varchar('what', {
      length: 6,
      enum: ['remind', 'limit', 'hold', 'aside', 'alert', 'guest', 'facts'],
    }).notNull(),
    at: instant('at').notNull(),
    /** How often it was tried in vain, why, and when it is tried again. */
    failures: int('failures').notNull().default(0),
    fault: varchar('fault', { length: 300 }),
    nextTry: machineTime('next_try').notNull().default(0),
  },
  t => [index('timers_by_time').on(t.at), index('timers_of_task').on(t.task), index('timers_failing').on(t.failures)],
);

/** Mails that came in and were read, so that a mail delivered twice is read once. */
export const receivedMails = mysqlTable('received_mails', {
  id: varchar('message_id', { length: 300 }).primaryKey(),
  at: instant('at').notNull(),
  sender: varchar('sender', { length: 300 }).notNull(),
  request: id('request'),
  verdict: varchar('verdict', { length: 40 }).notNull(),
});

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
    place: varchar('place', { length: 10, enum: ['requests', 'desk', 'people', 'balances'] })
      .notNull()
      .default('requests'),
  },
  t => [index('sets_of_owner').on(t.owner)],
);
