/** Requests in the database: loaded for a command, and everything that a command brought about stored together. */

import { daysWith } from '@north-pebble/core/leave';
import type { PersonId } from '@north-pebble/core/people';
import type { Instant } from '@north-pebble/core/time';
import {
  type Context,
  countedFrom,
  type Definition,
  dateIn,
  type Effect,
  eventForm,
  fold,
  isOpen,
  type RequestEvent,
  type RequestState,
  readEvent,
  stateForm,
  type Task,
  titleOf,
} from '@north-pebble/core/workflow';
import { asc, eq, getTableColumns, sql } from 'drizzle-orm';
import {
  change,
  type Executor,
  finish,
  inOneTrip,
  insertion,
  type Keys,
  prepared,
  reader,
  rowText,
  type Statement,
  sealOf,
  type Transaction,
  tables as t,
} from '../database/index.ts';
import { askInMoment, type House, type Moment } from '../house/index.ts';
import { carryOutInside, insideOf, waitingRows } from './effects.ts';

export type StoredRequest = typeof t.requests.$inferSelect;

export async function loadRequest(db: Executor, id: string): Promise<StoredRequest | undefined> {
  const [row] = await db.select().from(t.requests).where(eq(t.requests.id, id));
  return row && upToDate(db, row);
}

/** A state that an older version stored is folded anew from the events, which never change. */
export async function upToDate(db: Executor, row: StoredRequest): Promise<StoredRequest> {
  if (row.state.form === stateForm && Array.isArray(row.state.at) && row.state.changed !== undefined) return row;
  return { ...row, state: fold(row.id ?? '', await loadEvents(db, row.id ?? '')) };
}

const requestAndPerson = prepared<'id'>((build, slot) =>
  build
    // Without a column of the person asked for, MariaDB leaves the joined table out, and locks nobody.
    .select({ ...getTableColumns(t.requests), person: sql<string | null>`${t.people.id}`.as('locked_person') })
    .from(t.requests)
    .leftJoin(t.people, eq(t.people.id, sql`coalesce(${t.requests.subject}, ${t.requests.asker})`))
    .where(eq(t.requests.id, slot('id')))
    .for('update'),
);

/** A request as a ready-made statement gave it. */
export const readRequest = reader(t.requests);

/** Locks a request, then the person whose balance it counts, in one look: in this order, everywhere. The moment is that in which they were locked. */
export async function lockRequest(
  house: House,
  tx: Transaction,
  id: string,
): Promise<{ stored: StoredRequest | undefined; moment: Moment }> {
  const { moment, found } = await askInMoment(
    house,
    tx,
    () => '',
    () => [requestAndPerson({ id })],
  );
  const [row] = found[0] as Record<string, unknown>[];
  return { moment, stored: row && (await upToDate(tx, readRequest(row))) };
}

const personToLock = prepared<'person'>((build, slot) =>
  build
    .select({ id: t.people.id })
    .from(t.people)
    .where(eq(t.people.id, slot('person')))
    .for('update'),
);

/** Everything that counts a person's balance waits for this row, so that two requests cannot take the same last day. */
export async function lockPerson(tx: Transaction, person: PersonId): Promise<void> {
  await inOneTrip(tx, [personToLock({ person })]);
}

/** Everybody who holds or held it, those for whom somebody stood in among them. */
export async function holdersOf(db: Executor, request: string): Promise<string[]> {
  const rows = await db
    .select({ holder: t.tasks.holder, coverFor: t.tasks.coverFor })
    .from(t.tasks)
    .where(eq(t.tasks.request, request));
  return rows.flatMap(row => (row.coverFor ? [row.holder, row.coverFor] : [row.holder]));
}

export async function loadEvents(db: Executor, request: string): Promise<RequestEvent[]> {
  const rows = await db.select().from(t.events).where(eq(t.events.request, request)).orderBy(asc(t.events.seq));
  return rows.map(row => readEvent(row.body, row.form));
}

/** A command that was carried out before, by its id. */
export async function doneBefore(db: Executor, id: string) {
  const [row] = await db.select().from(t.commands).where(eq(t.commands.id, id));
  return row;
}

/** A new, still empty request with a number of its own. */
export async function openRequest(
  tx: Transaction,
  parts: {
    workflow: string;
    workflowVersion: number;
    asker: PersonId;
    now: Instant;
    state: (id: string) => RequestState;
  },
): Promise<GoesOnFrom & Pick<StoredRequest, 'openedBy' | 'openedKey'>> {
  const [{ insertId }] = await tx.insert(t.requests).values({
    id: null,
    workflow: parts.workflow,
    workflowVersion: parts.workflowVersion,
    asker: parts.asker,
    status: 'new',
    title: '',
    askedAt: parts.now,
    state: parts.state(''),
  });
  const { workflow, workflowVersion } = parts;
  const state = parts.state(`R-${insertId}`);
  return { state, head: null, openedBy: null, openedKey: null, workflow, workflowVersion };
}

export type Brought = { events: readonly RequestEvent[]; effects: readonly Effect[]; state: RequestState };

const plannedFor = (definition: Definition, state: RequestState): string | null => {
  const from = isOpen(state) ? countedFrom(definition) : null;
  return from && dateIn(state.answers, from.field.id);
};

/**
 * The rows of the projections that a state stands for.
 * @param before the tasks that were open before
 */
export function projectionsOf(
  definition: Definition,
  { state, events }: Brought,
  context: Context,
  before: readonly Pick<Task, 'id' | 'late'>[] = [],
) {
  const last = events.at(-1);
  const given = events.flatMap(e =>
    e.kind === 'given' ? [{ id: e.task, request: state.request, holder: e.holder, coverFor: e.coverFor }] : [],
  );
  const isLate = (task: string) => state.tasks.some(t => t.id === task && t.late);
  const isOpen = (task: string) => state.tasks.some(t => t.id === task);
  const isDone = state.status === 'closed' || state.status === 'withdrawn';
  return {
    request: {
      status: state.status,
      closing: state.closing,
      title: titleOf(definition, state, context).slice(0, 300),
      closedAt: isDone && last ? last.at : null,
      subject: state.subject === state.asker ? null : state.subject,
      owner: state.owner ?? null,
      plannedFor: plannedFor(definition, state),
      state,
    },
    leave: state.leave && {
      request: state.request,
      person: (state.subject ?? state.asker) as PersonId,
      type: state.leave.type,
      state: state.leave.state,
      ...daysWith(state.leave.span, state.leave.instead ?? null),
      span: state.leave.span,
      instead: state.leave.instead ?? null,
      planner: state.leave.planner,
      reason: state.leave.reason ?? null,
      sequence: state.version,
    },
    given: given.map(task => ({ ...task, open: isOpen(task.id), late: isLate(task.id) })),
    /** Tasks of before that have become late, or are given a new limit. */
    turned: before.flatMap(({ id, late }) => (isOpen(id) && isLate(id) !== late ? [{ id, late: !late }] : [])),
    ended: [...before.map(task => task.id), ...given.map(task => task.id)].filter(task => !isOpen(task)),
  };
}

/** @param before how many events there were, and the seal of the last of them */
export function eventRows(
  keys: Keys,
  request: string,
  before: { version: number; head: string | null },
  events: readonly RequestEvent[],
) {
  let seal = before.head;
  return events.map((event, i) => {
    const seq = before.version + i + 1;
    seal = sealOf(keys, seal, request, seq, event);
    return { request, seq, at: event.at, actor: event.by, kind: event.kind, body: event, form: eventForm, seal };
  });
}

export const timerRows = (request: string, effects: readonly Effect[]) =>
  effects.flatMap(e => (e.kind === 'timer' ? [{ key: e.key, request, task: e.task, what: e.what, at: e.at }] : []));

const requestKeys = [
  'status',
  'closing',
  'title',
  'closedAt',
  'subject',
  'owner',
  'plannedFor',
  'state',
  'head',
  'rowSeal',
  'touched',
] as const;

/** Whether leave is held that is still to be decided. */
const holdsLeave = ({ leave }: RequestState): boolean =>
  leave !== null && (leave.state === 'held' || leave.instead !== undefined);

/** Where everything that a command brings about goes. */
const into = {
  events: insertion(t.events),
  newRequest: change(t.requests, ['id', ...requestKeys], 'number'),
  request: change(t.requests, requestKeys, 'id'),
  leaveEntries: insertion(t.leaveEntries, 'replacing'),
  leaveGone: insertion(t.leaveGone, 'replacing'),
  tasks: insertion(t.tasks),
  lateness: change(t.tasks, ['late'], 'id'),
  timers: insertion(t.timers),
  alerts: insertion(t.alerts),
  effects: insertion(t.effects),
};

/** What becomes of tasks that have ended, and of their timers. */
const ending = [
  prepared<'ended'>((build, slot) =>
    build
      .update(t.tasks)
      .set({ open: false })
      .where(sql`${t.tasks.id} in (${slot('ended')})`),
  ),
  prepared<'ended'>((build, slot) => build.delete(t.timers).where(sql`${t.timers.task} in (${slot('ended')})`)),
];

/** What of a stored request a command goes on from. */
export type GoesOnFrom = Pick<StoredRequest, 'state' | 'head' | 'workflow' | 'workflowVersion'>;

/**
 * Events, projections, timers and outgoing mail of one command, in the caller's transaction and in one trip.
 * @param also the last statements of the transaction, committed in the same trip; without them it goes on
 */
export async function storeBrought(
  tx: Transaction,
  definition: Definition,
  { state: before, head, workflow, workflowVersion }: GoesOnFrom,
  brought: Brought,
  context: Context,
  also: readonly Statement[] | null = null,
): Promise<void> {
  if (brought.events.length === 0) return;
  const id = brought.state.request;
  const rows = projectionsOf(definition, brought, context, before.tasks);
  const { leave, given, ended, turned } = rows;
  const events = eventRows(tx.keys, id, { version: before.version, head }, brought.events);
  const sealed = { ...rows.request, id, workflow, workflowVersion, head: events[events.length - 1].seal };
  const request = { ...sealed, rowSeal: tx.keys.seal(rowText(sealed)), touched: Date.now() };
  const isNew = before.version === 0;
  const statements: Statement[] = [
    into.events(events),
    isNew ? into.newRequest(Number(id.slice(2)), request) : into.request(id, request),
  ];
  if (JSON.stringify(before.leave) !== JSON.stringify(brought.state.leave)) {
    statements.push(
      leave ? into.leaveEntries([leave]) : sql`delete from ${t.leaveEntries} where ${eq(t.leaveEntries.request, id)}`,
    );
    // Calendars that have it are told that it is no more.
    const gone = before.leave;
    const person = brought.state.subject ?? brought.state.asker;
    if (!leave && gone && person)
      statements.push(
        into.leaveGone([
          {
            request: id,
            person,
            type: gone.type,
            span: gone.span,
            lastDay: gone.span.to.date,
            sequence: brought.state.version,
          },
        ]),
      );
  }
  if (JSON.stringify(before.alerted ?? null) !== JSON.stringify(brought.state.alerted ?? null)) {
    statements.push(sql`delete from ${t.alerts} where ${eq(t.alerts.request, id)}`);
    const people = brought.state.alerted?.people ?? [];
    if (people.length > 0) statements.push(into.alerts(people.map(person => ({ request: id, person }))));
  }
  if (given.length > 0) statements.push(into.tasks(given));
  for (const task of turned) statements.push(into.lateness(task.id, task));
  if (ended.length > 0) statements.push(...ending.map(statement => statement({ ended })));
  const holds = holdsLeave(brought.state);
  const timers = timerRows(id, brought.effects).filter(
    timer => !ended.includes(timer.task) && (timer.what !== 'leave' || holds),
  );
  // What is decided is not looked at any more.
  if (holdsLeave(before) && !holds)
    statements.push(sql`delete from ${t.timers} where ${t.timers.key} like ${`${id}:leave%`}`);
  if (timers.length > 0) statements.push(into.timers(timers));
  const waiting = waitingRows(id, brought.effects, context.now);
  if (waiting.length > 0) statements.push(into.effects(waiting));
  const isOver = brought.events.some(e => e.kind === 'withdrawn' || e.kind === 'cancelled');
  if (isOver)
    statements.push(
      sql`update ${t.plannerLines} set gone = true, sequence = ${brought.state.version} where ${eq(t.plannerLines.request, id)}`,
    );
  const inside = insideOf(brought.effects);
  if (also && inside.length === 0) return finish(tx, [...statements, ...also]);
  await inOneTrip(tx, [...statements, ...(also ?? [])]);
  await carryOutInside(tx, id, inside, context, brought.state.version);
}
