/** Lists of requests at a step: what of their answers a reader sees as columns, what they may answer there, and how many. */
import type { ListShape, Permissions, RequestRow } from '@north-pebble/contract';
import { answerWords, isAsked, isEmptyAnswer } from '@north-pebble/core/form';
import { type DirectoryIndex, todayFor } from '@north-pebble/core/people';
import {
  currencyOf,
  type Definition,
  type EventOf,
  figuresSeen,
  figureWords,
  inSentence,
  isHeldBy,
  listsOf,
  naming,
  openOutcomes,
  openStatuses,
  ownFields,
  readEvent,
  sightsOf,
  stepById,
  structure,
} from '@north-pebble/core/workflow';
import { and, eq, inArray, isNotNull, isNull, or, sql } from 'drizzle-orm';
import { readerOf, workflowRights } from '../../access/index.ts';
import { tables as t } from '../../database/index.ts';
import { type House, loadDefinition, type Moment, rulesFor, subjectOf } from '../../house/index.ts';
import { type Caller, notFound } from '../../http/index.ts';
import type { StoredRequest } from '../store.ts';

type Beside = Pick<RequestRow, 'cells' | 'decide'>;

/** Who held which step of each request, for what its readers may see. */
async function givenIn(house: House, ids: readonly string[]): Promise<Map<string, EventOf<'given'>[]>> {
  const found = new Map<string, EventOf<'given'>[]>();
  if (ids.length === 0) return found;
  const rows = await house.db
    .select({ request: t.events.request, body: t.events.body, form: t.events.form })
    .from(t.events)
    .where(and(inArray(t.events.request, [...ids]), eq(t.events.kind, 'given')));
  for (const { request, body, form } of rows) {
    const event = readEvent(body, form);
    if (event.kind === 'given') found.set(request, [...(found.get(request) ?? []), event]);
  }
  return found;
}

/** What stands beside the rows of one workflow: its own columns, and what may be answered at once. */
export async function besideRows(
  house: House,
  caller: Caller,
  stored: readonly StoredRequest[],
  shown: readonly string[],
): Promise<Map<string, Beside>> {
  const moment = await house.moment(house.db);
  const rules = await rulesFor(house.db, moment.index);
  const given = await givenIn(
    house,
    stored.flatMap(row => (row.id ? [row.id] : [])),
  );
  const found = new Map<string, Beside>();
  for (const row of stored) {
    const id = row.id ?? '';
    const definition = await loadDefinition(house.db, row.workflow, row.workflowVersion);
    found.set(id, {
      cells: cellsOf(definition, row, caller, moment, rules, given.get(id) ?? [], shown),
      decide: decideOf(definition, row, caller, moment),
    });
  }
  return found;
}

function cellsOf(
  definition: Definition,
  row: StoredRequest,
  caller: Caller,
  { index, lists, now }: Moment,
  rules: Awaited<ReturnType<typeof rulesFor>>,
  given: readonly EventOf<'given'>[],
  shown: readonly string[],
): Record<string, string> {
  const day = todayFor(index, subjectOf(row), now);
  const sights = sightsOf(definition, readerOf(caller, { ...row, given }, index, day));
  const all = listsOf({ index, lists });
  const figures = figuresSeen(definition, row.state.figures, sights, all);
  const names = naming({ index, lists, book: { ...rules, today: day } });
  const cells: Record<string, string> = {};
  for (const id of shown) {
    const field = definition.form.fields.find(one => one.id === id);
    const figure = definition.figures.find(one => one.id === id);
    const answer = row.state.answers[id];
    if (field && sights.get(id) === 'open' && !isEmptyAnswer(answer)) cells[id] = answerWords(field, answer, names);
    else if (figure && figures[id] !== undefined && figures[id] !== null)
      cells[id] = figureWords(figure, figures[id], currencyOf(definition));
  }
  return cells;
}

/** What the reader may answer without filling anything in. */
function decideOf(
  definition: Definition,
  row: StoredRequest,
  caller: Caller,
  { index, now }: Moment,
): Beside['decide'] {
  const { state } = row;
  const around = { index, now, workflow: row.workflow };
  const task = state.tasks.find(one => isHeldBy(definition, one, caller.id, around, state));
  const step = task && stepById(definition, task.step);
  if (!task || step?.verb !== 'Decide' || task.question) return null;
  const fills = ownFields(definition, step.id).length > 0;
  const outcomes = openOutcomes(step, state)
    .filter(one => !one.needs && one.tone !== 'rework' && (one.tone === 'bad' || !fills))
    .map(({ id, label, tone, note }) => ({ id, label, tone, note }));
  return outcomes.length === 0
    ? null
    : { task: task.id, seen: state.version, step: `${row.workflow}/${row.workflowVersion}/${step.id}`, outcomes };
}

/** The steps and columns of a workflow, for those who have something to do with its requests. */
export async function listShape(house: House, caller: Caller, workflow: string): Promise<ListShape> {
  const { db } = house;
  const [live] = await db
    .select({ version: t.workflows.liveVersion, permissions: t.workflows.permissions })
    .from(t.workflows)
    .where(and(eq(t.workflows.id, workflow), isNull(t.workflows.archivedAt)));
  if (!live?.version || !(await hasToDo(house, caller, workflow, live.permissions))) throw notFound();
  const definition = await loadDefinition(db, workflow, live.version);
  const { index } = await house.moment(db);
  const open = await db
    .select({ at: sql<string>`json_extract(${t.requests.state}, '$.at')`, n: sql<number>`count(*)` })
    .from(t.requests)
    .where(
      and(eq(t.requests.workflow, workflow), isNotNull(t.requests.id), inArray(t.requests.status, [...openStatuses])),
    )
    .groupBy(sql`1`);
  const counts = new Map<string, number>();
  for (const { at, n } of open)
    for (const step of typeof at === 'string' ? (JSON.parse(at) as string[]) : (at as string[]))
      counts.set(step, (counts.get(step) ?? 0) + Number(n));
  return {
    steps: structure(definition)
      .all.filter(({ step }) => step.verb === 'Decide' || step.verb === 'Do' || step.verb === 'Hold')
      .map(({ step, number }) => ({
        id: step.id,
        words: `${number}. ${step.verb === 'Do' ? step.task : shortOf(definition, step.id, index)}`,
        open: counts.get(step.id) ?? 0,
      })),
    columns: [
      ...definition.form.fields.filter(isAsked).map(({ id, label }) => ({ id, label })),
      ...definition.figures.map(({ id, name }) => ({ id, label: name })),
    ],
  };
}

const longest = 60;
function shortOf(definition: Definition, id: string, index: DirectoryIndex): string {
  const step = stepById(definition, id);
  const words = step ? inSentence(definition, step, index) : id;
  return words.length > longest ? `${words.slice(0, longest).trimEnd()} …` : words;
}

async function hasToDo(
  house: House,
  caller: Caller,
  workflow: string,
  permissions: Permissions | null,
): Promise<boolean> {
  if (workflowRights(caller, permissions).see) return true;
  const rows = await house.db
    .select({ id: t.requests.id })
    .from(t.requests)
    .leftJoin(t.tasks, eq(t.tasks.request, t.requests.id))
    .where(
      and(
        eq(t.requests.workflow, workflow),
        or(
          eq(t.requests.asker, caller.id),
          eq(t.requests.owner, caller.id),
          eq(t.tasks.holder, caller.id),
          eq(t.tasks.coverFor, caller.id),
        ),
      ),
    )
    .limit(1);
  return rows.length > 0;
}
