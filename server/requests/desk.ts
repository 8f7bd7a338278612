/** The desk of one person: what waits, most urgent first, and what they did lately. */
import type { DeskItem, DeskView } from '@north-pebble/contract';
import type { ReferenceList } from '@north-pebble/core/form';
import { spanWords } from '@north-pebble/core/form';
import type { LeaveSpan, LeaveType } from '@north-pebble/core/leave';
import { type DirectoryIndex, type PersonId, zoneOf } from '@north-pebble/core/people';
import {
  addDays,
  amountOfUnit,
  amountWords,
  type CivilDate,
  fromDay,
  type Instant,
  toDay,
  weekday,
} from '@north-pebble/core/time';
import {
  answersSeen,
  type Definition,
  type Figure,
  figuresSeen,
  isHeldBy,
  leaveTypeAnswer,
  listsOf,
  nameOf,
  ownFields,
  type RequestState,
  roleOf,
  sightsOf,
  stepById,
  type Task,
} from '@north-pebble/core/workflow';
import { and, desc, eq, gte, inArray } from 'drizzle-orm';
import { unionAll } from 'drizzle-orm/mysql-core';
import { mayTryAgain, readerOf } from '../access/index.ts';
import { type Executor, tables as t } from '../database/index.ts';
import type { House } from '../house.ts';
import type { Caller } from '../http/index.ts';
import { loadTypes } from '../leave/store.ts';
import { todayFor } from './service.ts';
import { loadDefinition, type StoredRequest } from './store.ts';
import { documentWaitedFor } from './views.ts';

/** `4½ days of annual leave` when the workflow works days out, else the request's title. */
function whatOf(definition: Definition, stored: StoredRequest, typeName: (id: string) => string): string {
  const days = definition.figures.find(f => f.unit === 'days');
  const value = days && stored.state.figures[days.id];
  const kind = definition.form.fields.find(f => f.kind === 'choice' && f.options === 'leave types');
  const type = kind && stored.state.answers[kind.id];
  if (typeof value !== 'number' || typeof type !== 'string') return stored.title;
  return `${amountOfUnit(value, 'days')} of ${typeName(type).toLowerCase()}`;
}

const isBalance = (figure: Figure): boolean => figure.formula.startsWith('balance after(');

function factsOf(definition: Definition, state: RequestState, types: readonly LeaveType[]): string[] {
  const facts: string[] = [];
  for (const field of definition.form.fields) {
    const answer = state.answers[field.id];
    if (field.kind === 'leave span' && answer && typeof answer === 'object') facts.push(spanWords(answer as LeaveSpan));
  }
  // The first figure in days is in the item's own words already.
  const said = definition.figures.find(f => f.unit === 'days');
  for (const figure of definition.figures) {
    const value = state.figures[figure.id];
    if (figure === said || typeof value !== 'number') continue;
    if (isBalance(figure)) {
      const type = types.find(t => t.id === leaveTypeAnswer(definition, state.answers));
      if (type?.takesFrom === 'nothing') continue;
    }
    if (figure.formula.startsWith('others away(')) {
      facts.push(value === 0 ? 'nobody else away' : `${value} ${value === 1 ? 'other' : 'others'} away`);
    } else facts.push(`${figure.name.toLowerCase()} ${amountWords(value)}`);
  }
  return facts;
}

/** Requests with an open task of these people, or of somebody who stands in for the caller. */
async function heldRequests(db: Executor, caller: PersonId, holders: readonly PersonId[]): Promise<StoredRequest[]> {
  const columns = { request: t.tasks.request };
  const rows = await unionAll(
    db
      .select(columns)
      .from(t.tasks)
      .where(and(inArray(t.tasks.holder, [...holders]), eq(t.tasks.open, true))),
    db
      .select(columns)
      .from(t.tasks)
      .where(and(eq(t.tasks.coverFor, caller), eq(t.tasks.open, true))),
  );
  const ids = [...new Set(rows.map(row => row.request))];
  return ids.length > 0 ? db.select().from(t.requests).where(inArray(t.requests.id, ids)) : [];
}

/** For whom somebody stands in today. */
const coveredBy = (index: DirectoryIndex, person: PersonId, today: CivilDate): PersonId[] =>
  index.directory.covers.filter(c => c.by === person && c.from <= today && today <= c.to).map(c => c.person);

/** Requests of one's own, or for oneself, in which something is asked of one. */
async function ownOpen(db: Executor, caller: PersonId): Promise<StoredRequest[]> {
  const open = inArray(t.requests.status, ['rework', 'open', 'stuck']);
  const rows = await unionAll(
    db
      .select()
      .from(t.requests)
      .where(and(eq(t.requests.asker, caller), open)),
    db
      .select()
      .from(t.requests)
      .where(and(eq(t.requests.subject, caller), open)),
  );
  return [...new Map(rows.map(row => [row.id, row])).values()];
}

const mostStuck = 20;

type Found = { kind: DeskItem['kind']; stored: StoredRequest; definition: Definition; task: Task | null };

async function found(house: House, caller: Caller, index: DirectoryIndex, now: Instant): Promise<Found[]> {
  const { db } = house;
  const today = todayFor(index, caller.id, now);
  const definitionOf = (row: StoredRequest) => loadDefinition(db, row.workflow, row.workflowVersion);
  const items: Found[] = [];
  for (const stored of await heldRequests(db, caller.id, [caller.id, ...coveredBy(index, caller.id, today)])) {
    const definition = await definitionOf(stored);
    const { state, workflow } = stored;
    for (const task of state.tasks) {
      if (!isHeldBy(task, caller.id, { index, now, workflow }, state)) continue;
      const verb = stepById(definition, task.step)?.verb;
      items.push({ kind: verb === 'Do' ? 'do' : 'decide', stored, definition, task });
      // One item a request: the next of its tasks follows when this one is done.
      break;
    }
  }
  for (const stored of await ownOpen(db, caller.id)) {
    const definition = await definitionOf(stored);
    const { state } = stored;
    if (state.returned?.to === caller.id) items.push({ kind: 'rework', stored, definition, task: null });
    const asked = state.tasks.find(task => task.question);
    if (asked) items.push({ kind: 'reply', stored, definition, task: asked });
    if (state.holds?.length > 0 && documentWaitedFor(definition, state)) {
      items.push({ kind: 'hand in', stored, definition, task: null });
    }
  }
  const stuck = mayTryAgain(caller)
    ? await db.select().from(t.requests).where(eq(t.requests.status, 'stuck')).limit(mostStuck)
    : [];
  for (const stored of stuck) items.push({ kind: 'stuck', stored, definition: await definitionOf(stored), task: null });
  return items;
}

/** What answers several like it in one go: outcomes, when nothing is to be filled in. */
function togetherOf({ kind, stored, definition, task }: Found): DeskItem['together'] {
  const step = task && stepById(definition, task.step);
  if (kind !== 'decide' || step?.verb !== 'Decide' || ownFields(definition, step.id).length > 0) return null;
  if (step.outcomes.some(o => o.needs?.length)) return null;
  return {
    seen: stored.state.version,
    task: task?.id ?? '',
    step: `${stored.workflow}/${stored.workflowVersion}/${step.id}`,
    outcomes: step.outcomes.map(({ id, label, tone, note }) => ({ id, label, tone, note })),
  };
}

type Around = {
  index: DirectoryIndex;
  types: readonly LeaveType[];
  lists: readonly ReferenceList[];
  today: CivilDate;
};

/** A request with only those answers and figures that its reader sees at the step that waits for them. */
function seenOnDesk({ stored, definition }: Found, caller: Caller, { index, lists, today }: Around): RequestState {
  const { state } = stored;
  const given = state.tasks.map(({ step, holder, coverFor }) => ({ step, holder, coverFor }));
  const sights = sightsOf(definition, readerOf(caller, { ...stored, given }, index, today));
  return {
    ...state,
    answers: answersSeen(state.answers, sights).answers,
    figures: figuresSeen(definition, state.figures, sights, listsOf({ index, lists })),
  };
}

function itemOf(item: Found, caller: Caller, around: Around): DeskItem {
  const { index, types } = around;
  const { kind, stored, definition, task } = item;
  const state = seenOnDesk(item, caller, around);
  const asker = stored.asker as PersonId;
  const held = kind === 'decide' || kind === 'do' ? task : null;
  const standsIn =
    held && (held.holder === caller.id ? held.coverFor : held.coverFor === caller.id ? null : held.holder);
  const facts =
    kind === 'stuck'
      ? [state.stuck ?? '']
      : kind === 'reply'
        ? [`${nameOf(index, task?.question?.by ?? null)} asks: “${task?.question?.text ?? ''}”`]
        : factsOf(definition, state, types);
  return {
    request: stored.id ?? '',
    kind,
    workflow: stored.workflow,
    workflowName: definition.name,
    again: kind === 'decide' && state.reworks > 0,
    asker,
    askerName: nameOf(index, asker),
    what: whatOf(definition, { ...stored, state }, id => types.find(type => type.id === id)?.name ?? id),
    facts,
    coverFor: standsIn ? nameOf(index, standsIn) : null,
    coveredBy: held && held.coverFor === caller.id ? nameOf(index, held.holder) : null,
    aside: held?.aside ? { until: held.aside.until, note: held.aside.note } : null,
    question: held?.question?.text ?? null,
    due: held?.due ?? null,
    role: held ? roleOf(stepById(definition, held.step)) : null,
    together: togetherOf(item),
  };
}

export async function desk(house: House, caller: Caller): Promise<DeskView> {
  const { index, lists, now } = await house.moment(house.db);
  const types = await loadTypes(house.db);
  const around = { index, types, lists, today: todayFor(index, caller.id, now) };
  const items = (await found(house, caller, index, now)).map(item => itemOf(item, caller, around));
  items.sort((a, b) => (a.due ?? '9').localeCompare(b.due ?? '9') || a.request.localeCompare(b.request));
  const self = index.person(caller.id);
  const today = todayFor(index, caller.id, now);
  return {
    now,
    zone: self ? zoneOf(index, self, today) : 'UTC',
    items,
    done: await doneLately(house, caller, now),
    weeks: await doneByWeek(house.db, caller.id, today),
  };
}

/** How much waits for somebody, as the frame shows it: what is set aside does not count. */
export async function waitingFor(house: House, caller: Caller): Promise<number> {
  const { index, now } = await house.moment(house.db);
  const items = await found(house, caller, index, now);
  return items.filter(({ kind, task }) => !(kind !== 'reply' && task?.aside)).length;
}

const recentDays = 7;

async function doneLately(house: House, caller: Caller, now: Instant): Promise<DeskView['done']> {
  const since = `${addDays(now.slice(0, 10) as CivilDate, -recentDays)}T00:00:00Z`;
  const rows = await house.db
    .select({ body: t.events.body, request: t.events.request, title: t.requests.title, state: t.requests })
    .from(t.events)
    .innerJoin(t.requests, eq(t.requests.id, t.events.request))
    .where(and(eq(t.events.actor, caller.id), gte(t.events.at, since), inArray(t.events.kind, [...deeds])))
    .orderBy(desc(t.events.at))
    .limit(20);
  const index = await house.directory(house.db);
  const lines: DeskView['done'] = [];
  for (const { body, request, title, state } of rows) {
    const asker = nameOf(index, state.asker as PersonId);
    if (body.kind === 'done' || body.kind === 'could not') {
      lines.push({ at: body.at, request, text: `${body.kind === 'done' ? 'Done' : 'Could not'}: ${asker}, ${title}` });
    }
    if (body.kind !== 'answered') continue;
    const definition = await loadDefinition(house.db, state.workflow, state.workflowVersion);
    const step = stepById(definition, body.step);
    const outcome = step?.verb === 'Decide' ? step.outcomes.find(o => o.id === body.outcome) : undefined;
    lines.push({ at: body.at, request, text: `${outcome?.label ?? body.outcome}: ${asker}, ${title}` });
  }
  return lines;
}

/** What counts as done at a desk. */
const deeds = ['answered', 'done', 'could not'] as const;
const weeksShown = 10;

async function doneByWeek(db: Executor, person: PersonId, today: CivilDate): Promise<DeskView['weeks']> {
  const monday = toDay(today) - weekday(toDay(today)) + 1;
  const first = monday - 7 * (weeksShown - 1);
  const rows = await db
    .select({ at: t.events.at })
    .from(t.events)
    .where(and(eq(t.events.actor, person), gte(t.events.at, fromDay(first)), inArray(t.events.kind, [...deeds])));
  const done = new Array<number>(weeksShown).fill(0);
  for (const { at } of rows) {
    const week = Math.floor((toDay(at.slice(0, 10)) - first) / 7);
    if (week >= 0 && week < weeksShown) done[week]++;
  }
  return done.map((n, i) => ({ from: fromDay(first + 7 * i), done: n }));
}
