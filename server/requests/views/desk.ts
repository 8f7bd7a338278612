/** The desk of one person: what waits, most urgent first, and what they did lately. */
import { type DeskItem, type DeskView, may } from '@north-pebble/contract';
import { isEmptyAnswer, type ReferenceList, spanWords } from '@north-pebble/core/form';
import { isAmount } from '@north-pebble/core/formula';
import { type LeaveBook, type LeaveSpan, type LeaveType, typeOn } from '@north-pebble/core/leave';
import { type DirectoryIndex, type PersonId, todayFor, zoneOf } from '@north-pebble/core/people';
import {
  addDays,
  amountOfUnit,
  type CivilDate,
  dateWords,
  fromDay,
  type Instant,
  toDay,
  weekday,
  workingWords,
  yearOf,
} from '@north-pebble/core/time';
import {
  answersSeen,
  askerName,
  currencyOf,
  type Definition,
  factsOf,
  figuresForEverybody,
  figuresSeen,
  figuresToTell,
  figureWords,
  guestForm,
  guestHere,
  isHeldBy,
  listsOf,
  nameOf,
  openOutcomes,
  ownFields,
  planOf,
  type RequestEvent,
  type RequestState,
  roleOf,
  sightsOf,
  slackWords,
  stepById,
  stuckWords,
  type Task,
} from '@north-pebble/core/workflow';
import { and, desc, eq, getTableColumns, gte, inArray, type SQL, sql } from 'drizzle-orm';
import { union } from 'drizzle-orm/mysql-core';
import { readerOf } from '../../access/index.ts';
import { type Executor, type Prepared, prepared, tables as t } from '../../database/index.ts';
import { askInMoment, type House, loadDefinition, type Moment, rulesFor } from '../../house/index.ts';
import type { Caller } from '../../http/index.ts';
import { readRequest, type StoredRequest } from '../store.ts';
import { handedInAt } from './views.ts';

/** `4½ days of annual leave` when the workflow works days out, else the request's title. */
function whatOf(definition: Definition, stored: StoredRequest, typeName: (id: string) => string): string {
  const days = figuresForEverybody(definition).find(f => f.unit === 'days');
  const value = days && stored.state.figures[days.id];
  const kind = definition.form.fields.find(f => f.kind === 'choice' && f.options === 'leave types');
  const type = kind && stored.state.answers[kind.id];
  if (typeof value !== 'number' || typeof type !== 'string') return stored.title;
  return `${amountOfUnit(value, 'days')} of ${typeName(type).toLowerCase()}`;
}

function rowFacts(definition: Definition, state: RequestState, types: readonly LeaveType[], year: number): string[] {
  const spans = definition.form.fields.flatMap(field => {
    const answer = state.answers[field.id];
    return field.kind === 'leave span' && answer && typeof answer === 'object' ? [answer as LeaveSpan] : [];
  });
  const facts = spans.map(span => spanWords(span, year));
  // The first figure in days of a leave is in the item's own words already.
  const isLeave = definition.form.fields.some(f => f.kind === 'leave span');
  const said = isLeave ? definition.figures.find(f => f.unit === 'days') : undefined;
  const takesFromNone = (id: string) => {
    const type = types.find(one => one.id === id);
    return type !== undefined && spans.every(span => typeOn(type, span.from.date).takesFrom === 'nothing');
  };
  const open = new Set(figuresForEverybody(definition).map(figure => figure.id));
  for (const figure of figuresToTell(definition, state.answers, takesFromNone)) {
    const value = open.has(figure.id) ? state.figures[figure.id] : null;
    if (figure === said || (typeof value !== 'number' && !isAmount(value))) continue;
    if (figure.formula.startsWith('others away(')) {
      facts.push(value === 0 ? 'nobody else away' : `${value} ${value === 1 ? 'other' : 'others'} away`);
    } else facts.push(`${figure.name.toLowerCase()} ${figureWords(figure, value, currencyOf(definition))}`);
  }
  return facts;
}

/** Requests with an open task of these people, or of somebody who stands in for the caller. */
const heldRequests = prepared<'caller' | 'holders'>((build, slot) => {
  const holding = (condition: SQL) =>
    build
      .select({ request: t.tasks.request })
      .from(t.tasks)
      .where(and(condition, eq(t.tasks.open, true)));
  const held = union(
    holding(sql`${t.tasks.holder} in (${slot('holders')})`),
    holding(eq(t.tasks.coverFor, slot('caller'))),
  ).as('held');
  return build.select(getTableColumns(t.requests)).from(held).innerJoin(t.requests, eq(t.requests.id, held.request));
});

/** For whom somebody stands in today. */
const coveredBy = (index: DirectoryIndex, person: PersonId, today: CivilDate): PersonId[] =>
  index.directory.covers.filter(c => c.by === person && c.from <= today && today <= c.to).map(c => c.person);

/** Requests of one's own, or for oneself, in which something is asked of one. */
const [openAskedBy, openFor, openOwnedBy] = [t.requests.asker, t.requests.subject, t.requests.owner].map(who =>
  prepared<'caller'>((build, slot) =>
    build
      .select()
      .from(t.requests)
      .where(and(eq(who, slot('caller')), inArray(t.requests.status, ['rework', 'open', 'stuck']))),
  ),
);

const mostStuck = 20;
const stuckOnes = prepared<'most'>((build, slot) =>
  build.select().from(t.requests).where(eq(t.requests.status, 'stuck')).limit(slot('most')),
);

/** Requests that are not ready for their date, of which one is to know. */
const alertsOf = prepared<'caller'>((build, slot) =>
  build
    .select(getTableColumns(t.requests))
    .from(t.alerts)
    .innerJoin(t.requests, eq(t.requests.id, t.alerts.request))
    .where(eq(t.alerts.person, slot('caller'))),
);

type Found = { kind: DeskItem['kind']; stored: StoredRequest; definition: Definition; task: Task | null };

/** What the desk is made of, asked for in one trip, with what else is wanted beside it. */
async function loadDesk(house: House, caller: Caller, more: (moment: Moment) => readonly Prepared[] = () => []) {
  const todayIn = ({ index, now }: Moment) => todayFor(index, caller.id, now);
  const { moment, found: tables } = await askInMoment(
    house,
    house.db,
    moment => `${moment.now.slice(0, 10)} ${todayIn(moment)}`,
    moment => [
      heldRequests({ caller: caller.id, holders: [caller.id, ...coveredBy(moment.index, caller.id, todayIn(moment))] }),
      openAskedBy({ caller: caller.id }),
      openFor({ caller: caller.id }),
      openOwnedBy({ caller: caller.id }),
      stuckOnes({ most: may(caller, 'help requests on') ? mostStuck : 0 }),
      alertsOf({ caller: caller.id }),
      ...more(moment),
    ],
  );
  const [held, asked, given, owned, stuck, alerts, ...rest] = tables as Record<string, unknown>[][];
  const read = (rows: typeof held) => rows.map(readRequest);
  const items = await found(house, caller, moment, {
    held: read(held),
    own: read([...asked, ...given, ...owned]),
    stuck: read(stuck),
    alerts: read(alerts),
  });
  return { moment, today: todayIn(moment), items, more: rest as unknown[] };
}

type Rows = Record<'held' | 'own' | 'stuck' | 'alerts', readonly StoredRequest[]>;

async function found({ db }: House, caller: Caller, { index, now }: Moment, rows: Rows): Promise<Found[]> {
  const definitionOf = (row: StoredRequest) => loadDefinition(db, row.workflow, row.workflowVersion);
  const items: Found[] = [];
  for (const stored of rows.held) {
    const definition = await definitionOf(stored);
    const { state, workflow } = stored;
    for (const task of state.tasks) {
      if (!isHeldBy(definition, task, caller.id, { index, now, workflow }, state)) continue;
      const verb = stepById(definition, task.step)?.verb;
      items.push({ kind: verb === 'Do' ? 'do' : 'decide', stored, definition, task });
      // One item a request: the next of its tasks follows when this one is done.
      break;
    }
  }
  for (const stored of new Map(rows.own.map(row => [row.id, row])).values()) {
    const definition = await definitionOf(stored);
    const { state } = stored;
    if (state.returned?.to === caller.id) items.push({ kind: 'rework', stored, definition, task: null });
    const asked = state.tasks.find(task => task.question);
    // Somebody outside is asked on their own page.
    if (asked && !stored.state.outside) items.push({ kind: 'reply', stored, definition, task: asked });
    if (state.holds?.length > 0 && handedInAt(definition, state).length > 0) {
      items.push({ kind: 'hand in', stored, definition, task: null });
    }
  }
  for (const stored of rows.stuck)
    items.push({ kind: 'stuck', stored, definition: await definitionOf(stored), task: null });
  for (const stored of rows.alerts)
    items.push({ kind: 'not ready', stored, definition: await definitionOf(stored), task: null });
  return items;
}

/** What answers several like it in one go: outcomes, when nothing is to be filled in. */
function batchOf({ kind, stored, definition, task }: Found): DeskItem['batch'] {
  const step = task && stepById(definition, task.step);
  if (kind !== 'decide' || step?.verb !== 'Decide') return null;
  // What a holder may change and need not, as the dates of a leave that is granted as it was asked for, stops nothing.
  if (ownFields(definition, step.id).some(field => isEmptyAnswer(stored.state.answers[field.id] ?? null))) return null;
  if (step.outcomes.some(o => o.needs?.length)) return null;
  return {
    seen: stored.state.version,
    task: task?.id ?? '',
    step: `${stored.workflow}/${stored.workflowVersion}/${step.id}`,
    outcomes: openOutcomes(step, stored.state).map(({ id, label, tone, note }) => ({ id, label, tone, note })),
  };
}

type Around = {
  index: DirectoryIndex;
  types: readonly LeaveType[];
  plans: LeaveBook['plans'];
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

/** Whom a request is about, where that is somebody else than whoever asked. */
const concernedName = (index: DirectoryIndex, { state, ...row }: StoredRequest): string | null =>
  state.outside || row.subject === null || row.subject === row.asker ? null : nameOf(index, row.subject as PersonId);

function itemOf(item: Found, caller: Caller, around: Around & { now: Instant }): DeskItem {
  const { index, types } = around;
  const { kind, stored, definition, task } = item;
  const state = seenOnDesk(item, caller, around);
  const asker = stored.asker as PersonId;
  const held = kind === 'decide' || kind === 'do' ? task : null;
  const standsIn =
    held && (held.holder === caller.id ? held.coverFor : held.coverFor === caller.id ? null : held.holder);
  const facts =
    kind === 'stuck'
      ? state.stuck
        ? [stuckWords(state.stuck, { definition, ...around, book: around })]
        : []
      : kind === 'not ready'
        ? planFacts(definition, state, around)
        : kind === 'reply'
          ? [`${nameOf(index, task?.question?.by ?? null)} asks: “${task?.question?.text ?? ''}”`]
          : [
              ...guestFacts(definition, stored.state, held?.step, around),
              ...rowFacts(definition, state, types, yearOf(around.today)),
            ];
  return {
    request: stored.id ?? '',
    kind,
    workflow: stored.workflow,
    workflowName: definition.name,
    again: kind === 'decide' && state.reworks > 0,
    afterwards: state.approved?.what ?? null,
    asker,
    askerName: askerName(index, stored.state),
    concernedName: concernedName(index, stored),
    what: whatOf(definition, { ...stored, state }, id => types.find(type => type.id === id)?.name ?? id),
    facts,
    coverFor: standsIn ? nameOf(index, standsIn) : null,
    coveredBy: held && held.coverFor === caller.id ? nameOf(index, held.holder) : null,
    aside: held?.aside ? { until: held.aside.until, note: held.aside.note } : null,
    question: held?.question?.text ?? null,
    due: held?.due ?? null,
    role: held ? roleOf(stepById(definition, held.step)) : null,
    batch: batchOf(item),
  };
}

/** How much a guest has handed in, and what they asked and nobody has answered yet. */
function guestFacts(
  definition: Definition,
  state: RequestState,
  id: string | undefined,
  { index, today, lists, ...rules }: Around & { now: Instant },
): string[] {
  const here = id === undefined ? undefined : guestHere(definition, state, id);
  if (!here) return [];
  const book = { ...rules, index, today, entries: [], adjustments: [] };
  const facts = factsOf(
    { now: rules.now, index, lists, book, actor: null, away: [] },
    state.asker!,
    state.subject,
    state.request,
  );
  const form = guestForm(definition, here.step, state.answers, here.standing, facts);
  const last = here.standing.words.at(-1);
  return [
    `${form.filter(one => one.state === 'in').length} of ${form.length} parts in`,
    ...(last?.by === null ? [`asks: “${last.text}”`] : []),
  ];
}

/** What is left of a plan, and how much time. */
function planFacts(
  definition: Definition,
  state: RequestState,
  { index, today, lists, ...rules }: Around & { now: Instant },
): string[] {
  const found = planOf(definition, state, {
    index,
    lists,
    now: rules.now,
    book: { ...rules, index, today, entries: [], adjustments: [] },
  });
  if (!found?.ok) return [];
  const { date, toGo, lines, slack } = found.plan;
  const left = lines.filter(line => line.days).length;
  return [
    `${dateWords(date, yearOf(today))}, ${workingWords({ workingDays: toGo })} to go`,
    `${left} of ${lines.filter(line => line.state !== 'not needed').length} left`,
    ...(slack === null ? [] : [slackWords(slack)]),
  ];
}

export async function desk(house: House, caller: Caller): Promise<DeskView> {
  const seen = await loadDesk(house, caller, moment => [
    doneSince({ caller: caller.id, since: recentlySince(moment.now) }),
    doneTimes({ caller: caller.id, since: fromDay(firstMonday(todayFor(moment.index, caller.id, moment.now))) }),
  ]);
  const { index, lists, now } = seen.moment;
  const { types, plans } = await rulesFor(house.db, index);
  const around = { index, types, plans, lists, today: seen.today, now };
  const items = seen.items.map(item => itemOf(item, caller, around));
  items.sort((a, b) => (a.due ?? '9').localeCompare(b.due ?? '9') || a.request.localeCompare(b.request));
  const self = index.person(caller.id);
  const [done, times] = seen.more as [DoneRow[], { at: Instant }[]];
  return {
    now,
    zone: self ? zoneOf(index, self, seen.today) : 'UTC',
    items,
    done: await doneLately(house.db, index, done),
    weeks: doneByWeek(times, firstMonday(seen.today)),
  };
}

/** How much waits for somebody, as the frame shows it: what is set aside does not count. */
export async function waitingFor(house: House, caller: Caller): Promise<number> {
  const { items } = await loadDesk(house, caller);
  return items.filter(({ kind, task }) => !(kind !== 'reply' && task?.aside)).length;
}

/** What counts as done at a desk. */
const deeds = ['answered', 'done', 'could not'] as const;
const recentDays = 7;
const recentlySince = (now: Instant): string => `${addDays(now.slice(0, 10) as CivilDate, -recentDays)}T00:00:00Z`;

const doneSince = prepared<'caller' | 'since'>((build, slot) =>
  build
    .select({
      body: t.events.body,
      request: t.events.request,
      title: t.requests.title,
      asker: t.requests.asker,
      workflow: t.requests.workflow,
      version: t.requests.workflowVersion,
    })
    .from(t.events)
    .innerJoin(t.requests, eq(t.requests.id, t.events.request))
    .where(and(eq(t.events.actor, slot('caller')), gte(t.events.at, slot('since')), inArray(t.events.kind, [...deeds])))
    .orderBy(desc(t.events.at))
    .limit(20),
);

/** As the driver gives it. */
type DoneRow = { body: string; request: string; title: string; asker: PersonId; workflow: string } & {
  workflow_version: number;
};

async function doneLately(db: Executor, index: DirectoryIndex, rows: readonly DoneRow[]): Promise<DeskView['done']> {
  const lines: DeskView['done'] = [];
  for (const { body: text, request, title, workflow, ...row } of rows) {
    const body = JSON.parse(text) as RequestEvent;
    const asker = nameOf(index, row.asker);
    if (body.kind === 'done' || body.kind === 'could not') {
      lines.push({ at: body.at, request, text: `${body.kind === 'done' ? 'Done' : 'Could not'}: ${asker}, ${title}` });
    }
    if (body.kind !== 'answered') continue;
    const definition = await loadDefinition(db, workflow, row.workflow_version);
    const step = stepById(definition, body.step);
    const outcome = step?.verb === 'Decide' ? step.outcomes.find(o => o.id === body.outcome) : undefined;
    lines.push({ at: body.at, request, text: `${outcome?.label ?? body.outcome}: ${asker}, ${title}` });
  }
  return lines;
}

const weeksShown = 10;
/** The day number of the Monday of the first week that is shown. */
const firstMonday = (today: CivilDate): number => toDay(today) - weekday(toDay(today)) + 1 - 7 * (weeksShown - 1);

const doneTimes = prepared<'caller' | 'since'>((build, slot) =>
  build
    .select({ at: t.events.at })
    .from(t.events)
    .where(
      and(eq(t.events.actor, slot('caller')), gte(t.events.at, slot('since')), inArray(t.events.kind, [...deeds])),
    ),
);

function doneByWeek(rows: readonly { at: Instant }[], first: number): DeskView['weeks'] {
  const done = new Array<number>(weeksShown).fill(0);
  for (const { at } of rows) {
    const week = Math.floor((toDay(at.slice(0, 10)) - first) / 7);
    if (week >= 0 && week < weeksShown) done[week]++;
  }
  return done.map((n, i) => ({ from: fromDay(first + 7 * i), done: n }));
}
