/** Plans counted back from a date: of one request, of all open ones, and what moving a date would do. */
import {
  type DateMoveView,
  type FindPlans,
  may,
  type PlanRow,
  type PlansView,
  type PlanView,
} from '@north-pebble/contract';
import { type PersonId, personName, todayFor } from '@north-pebble/core/people';
import { type CivilDate, fullDate, workingWords } from '@north-pebble/core/time';
import {
  type Context,
  type DateNote,
  type Definition,
  dateIn,
  dueWords,
  type Following,
  fieldById,
  mayMoveDate,
  nameOf,
  placeOfWork,
  planHolder,
  planName,
  planOf,
  planWhat,
  previewDate,
  type RequestState,
  reasonWords,
  slackWords,
  stepNumber,
  toldLine,
  toldPlan,
} from '@north-pebble/core/workflow';
import { and, asc, eq, inArray, isNotNull, or, sql } from 'drizzle-orm';
import { tables as t } from '../../database/index.ts';
import { contextOf, type House, loadDefinition, rulesFor, subjectOf } from '../../house/index.ts';
import { type Caller, notFound } from '../../http/index.ts';
import { isConcerned } from '../commands/commands.ts';
import { loadRequest, type StoredRequest, upToDate } from '../store.ts';

type Around = Pick<Context, 'index' | 'now' | 'lists' | 'book'>;

/** The plan of a request for its readers, or why there is none; nothing where it counts back from no date. */
export function planView(
  definition: Definition,
  state: RequestState,
  context: Around,
): { plan: PlanView | null; missing: string | null } {
  const found = planOf(definition, state, context);
  const isNone = found === null || state.status === 'withdrawn';
  if (isNone) return { plan: null, missing: null };
  const { index, book } = context;
  if (!found.ok)
    return { plan: null, missing: reasonWords(found.reason, { definition, index, book, lists: context.lists }) };
  return { missing: null, plan: toldPlan(definition, found.plan, state, index) };
}

/** So many plans are shown together, those with the nearest dates first. */
const mostPlans = 500;

/** Requests that a caller may see the plan of: everybody's for those who read everything, else those one is concerned with. */
function concerning(caller: Caller) {
  if (may(caller, 'read every record') || may(caller, 'help requests on')) return undefined;
  return or(
    eq(t.requests.asker, caller.id),
    eq(t.requests.owner, caller.id),
    eq(t.requests.subject, caller.id),
    inArray(
      t.requests.id,
      sql`(select ${t.tasks.request} from ${t.tasks} where ${t.tasks.holder} = ${caller.id} and ${t.tasks.open} = true)`,
    ),
    inArray(t.requests.id, sql`(select ${t.alerts.request} from ${t.alerts} where ${t.alerts.person} = ${caller.id})`),
  );
}

export async function allPlans(house: House, caller: Caller, filter: FindPlans): Promise<PlansView> {
  const { db } = house;
  const { index, lists, now } = await house.moment(db);
  const today = todayFor(index, caller.id, now);
  const rules = await rulesFor(db, index);
  // Conditions of a plan look at answers and at the day; nobody's leave is read for it.
  const book = { ...rules, index, today, entries: [], adjustments: [] };
  const context: Around = { index, lists, now, book };
  const stored = await db
    .select()
    .from(t.requests)
    .where(
      and(
        isNotNull(t.requests.plannedFor),
        concerning(caller),
        filter.workflow ? eq(t.requests.workflow, filter.workflow) : undefined,
      ),
    )
    .orderBy(asc(t.requests.plannedFor), asc(t.requests.number))
    .limit(mostPlans + 1);
  const rows: PlanRow[] = [];
  const unknown: PlansView['unknown'] = [];
  for (const one of stored.slice(0, mostPlans)) {
    const request = await upToDate(db, one);
    const definition = await loadDefinition(db, request.workflow, request.workflowVersion);
    const row = rowOf(definition, request, context);
    if ('why' in row) unknown.push(row);
    else if (!filter.place || row.placeName === index.place(filter.place)?.name) rows.push(row);
  }
  return { today, rows, more: Math.max(0, stored.length - mostPlans), unknown };
}

function rowOf(
  definition: Definition,
  { id, title, state, asker, subject }: StoredRequest,
  context: Around,
): PlanRow | PlansView['unknown'][number] {
  const { index, book, lists } = context;
  const found = planOf(definition, state, context);
  if (!found?.ok) {
    const why = found ? reasonWords(found.reason, { definition, index, book, lists }) : 'it counts back from no date';
    return { request: id ?? '', title, why };
  }
  const { plan } = found;
  const last = plan.chain.at(-1);
  const needed = plan.lines.filter(line => line.state !== 'not needed');
  return {
    request: id ?? '',
    title,
    workflowName: definition.name,
    personName: personName(index, (subject ?? asker) as PersonId),
    label: fieldById(definition, plan.field)?.label ?? plan.field,
    date: plan.date,
    placeName: index.place(plan.place)?.name ?? plan.place,
    toGo: plan.toGo,
    state: plan.state,
    slack: plan.slack,
    done: needed.filter(line => line.state === 'done').length,
    of: needed.length,
    decides:
      last === undefined || plan.slack === null ? null : `${planName(definition, last)}: ${slackWords(plan.slack)}`,
    lines: plan.lines.map(line => ({ ...toldLine(definition, plan, line, index), why: null })),
    told: Boolean(state.alerted),
  };
}

const noteWords = (note: DateNote, notice: number | undefined, placeName: string): string => {
  switch (note) {
    case 'no working day':
      return `Nobody works at ${placeName} on this day.`;
    case 'past the leaving day':
      return 'The person leaves before this day.';
    case 'less notice':
      return `The form asks for ${workingWords({ workingDays: notice ?? 0 })} of notice; this is less.`;
    case 'has passed':
      return 'This day has passed: what is left is late at once.';
  }
};

export async function tryDate(house: House, caller: Caller, id: string, to: CivilDate): Promise<DateMoveView> {
  const { db } = house;
  const stored = await loadRequest(db, id);
  if (!stored || !(await isConcerned(house, db, stored, caller))) throw notFound();
  const definition = await loadDefinition(db, stored.workflow, stored.workflowVersion);
  const helps = may(caller, 'help requests on');
  const about = { subject: subjectOf(stored), actor: caller.id, workflow: stored.workflow };
  const context = { ...(await contextOf(house, db, about)), helps };
  const { index } = context;
  const { state } = stored;
  const before = definition.countsBack ? dateIn(state.answers, definition.countsBack.field) : null;
  const nothing = {
    before,
    after: to,
    notes: [],
    lines: [],
    stateBefore: null,
    stateAfter: null,
    told: [],
    follows: [],
  };
  if (!mayMoveDate(definition, state, context, caller.id)) return { ...nothing, fault: 'You may not move this date.' };
  const found = previewDate(definition, state, to, context);
  if (!found.ok) return { ...nothing, fault: found.fault };
  const { move } = found;
  const place = placeOfWork(definition, state, context, to);
  const placeName = (place && index.place(place)?.name) ?? 'the place';
  return {
    before,
    after: to,
    fault: null,
    notes: move.notes.map(note => noteWords(note, definition.countsBack?.notice, placeName)),
    lines: (move.after?.lines ?? []).flatMap(line => {
      const was = move.before?.lines.find(one => one.step === line.step);
      if (!line.days && !was?.days) return [];
      return [
        {
          step: line.step,
          number: stepNumber(definition, line.step),
          what: planWhat(definition, line.step),
          holder: planHolder(definition, line, index),
          before: was?.days ?? null,
          after: line.days,
          stateBefore: was?.state ?? line.state,
          stateAfter: line.state,
        },
      ];
    }),
    stateBefore: move.before?.state ?? null,
    stateAfter: move.after?.state ?? null,
    told: move.told.map(person => nameOf(index, person)),
    follows: move.follows.map(one => followingWords(definition, one, context, caller.id)),
  };
}

/** Times are those of whoever looks. */
function followingWords(definition: Definition, following: Following, context: Context, reader: PersonId): string {
  const step = `Step ${stepNumber(definition, following.step)}`;
  if (following.what === 'taken back') {
    const { before, after } = following;
    return `${step} is taken back after ${fullDate(after)}${before ? `, not after ${fullDate(before)}` : ''}.`;
  }
  const { before, after } = following;
  if (!after) return `${step} waits no longer: the moment that it waits for has passed.`;
  const was = before ? `, not until ${dueWords(context, reader, before)}` : '';
  return `${step} waits until ${dueWords(context, reader, after)}${was}.`;
}

/** Whether the date of a request may be moved by somebody. */
export const mayMove = (definition: Definition, state: RequestState, context: Context, caller: Caller): boolean =>
  mayMoveDate(definition, state, { ...context, helps: may(caller, 'help requests on') }, caller.id);
