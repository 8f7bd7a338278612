/** What a change of facts does to booked leave: kept beside the change, so that statements can tell it, and told once to each. */
import {
  counted,
  counts,
  type OtherAmount,
  ofRules,
  otherAmounts,
  otherManagers,
  routes,
} from '@north-pebble/core/consequences';
import { edited, type FactEdit, factOfEdit, type OnFile } from '@north-pebble/core/facts';
import type { LeaveBook, LeaveType, Restatement } from '@north-pebble/core/leave';
import { type DirectoryIndex, indexDirectory, type PersonId } from '@north-pebble/core/people';
import { addDays, amountOfUnit, type CivilDate, dayOver, type Instant, rangeWords } from '@north-pebble/core/time';
import { and, asc, eq, inArray, isNotNull, or } from 'drizzle-orm';
import { besideOf, loadEntriesOf, rulesFor } from '../book/index.ts';
import { type Executor, type Transaction, tables as t, waiting } from '../database/index.ts';
import { loadDefinition } from './definitions.ts';
import { byKey, insertMany } from './directory.ts';

export type Restating = {
  readonly index: DirectoryIndex;
  readonly lists: OnFile['lists'];
  readonly today: CivilDate;
  /** Leave that is counted anew, where that was worked out before. */
  readonly leave?: readonly OtherAmount[];
};

/** Leave that edits count anew; for edits that concern few. */
async function countedAnew(
  tx: Executor,
  { index, lists = [], today }: Restating,
  edits: readonly FactEdit[],
): Promise<OtherAmount[]> {
  // What is put on balances or booked counts nothing else anew.
  const counting = edits.filter(edit => !['adjustment', 'booking'].includes(factOfEdit(edit).kind));
  const rules = await rulesFor(tx, index);
  const after = edited({ ...index.directory, ...besideOf(lists, rules) }, counting);
  if (!after.ok) return [];
  const changed = indexDirectory(after.directory);
  const people = counted(index, changed, edits);
  const entries = await loadEntriesOf(tx, people, today);
  if (entries.length === 0) return [];
  const book: LeaveBook = { index, ...rules, entries, adjustments: [], today };
  const { leaveTypes: types, leavePlans: plans } = after.directory;
  return people.flatMap(person => otherAmounts(book, { ...book, index: changed, types, plans }, person));
}

const unitWords = (amount: number, unit: 'days' | 'hours'): string =>
  amountOfUnit(Math.round(amount * 100) / 100, unit);

/** One letter to each person, with the sum for each kind of leave and then the bookings. */
function letterFor(types: readonly LeaveType[], own: readonly OtherAmount[], reason: string): string {
  const names = [...new Set(own.map(one => one.type))];
  const sums = names.map(id => {
    const of = own.filter(one => one.type === id);
    const difference = of.reduce((sum, one) => sum + one.after - one.before, 0);
    const unit = of[0]?.unit ?? 'days';
    const name = types.find(one => one.id === id)?.name ?? id;
    const words =
      difference === 0
        ? 'the same as before in all'
        : `${unitWords(Math.abs(difference), unit)} ${difference > 0 ? 'more' : 'less'} than before`;
    return `${name}: ${words}.`;
  });
  const lines = own.map(
    ({ span, before, after, unit }) =>
      `- ${rangeWords(span.from.date, span.to.date, Number.NaN)}: ${unitWords(before, unit)} → ${unitWords(after, unit)}`,
  );
  return [
    'Leave that is booked for you, or asked for, was counted anew, because something changed of what it is counted by.',
    ...(reason === '' ? [] : [`Why: ${reason}`]),
    sums.join('\n'),
    lines.join('\n'),
    'Your statement shows each booking as it was, and the difference beneath it.',
  ].join('\n\n');
}

/** Keeps what a change counted anew, and tells each person once. */
export async function restate(
  tx: Transaction,
  change: { id: number; at: Instant; reason: string; edits: readonly FactEdit[] },
  around: Restating,
): Promise<void> {
  const found = (around.leave ?? (await countedAnew(tx, around, change.edits))).filter(one => one.request !== null);
  if (found.length === 0) return;
  // While a change of booked leave is decided, a request holds days besides: the booking is what is restated.
  const all = [...new Map(found.toReversed().map(one => [one.request, one])).values()].reverse();
  const { types } = await rulesFor(tx, around.index);
  await insertMany(
    tx,
    t.restatements,
    all.map(({ person, request, type, span, before, after, unit, state }) => ({
      change: change.id,
      at: change.at,
      request: request as string,
      ...{ person, type, span, before, after, unit, state },
    })),
  );
  const of = byKey(all, one => one.person);
  await insertMany(
    tx,
    t.effects,
    [...of].map(([person, own]) => ({
      key: `restated:${change.id}:${person}`,
      ...waiting,
      writtenAt: change.at,
      payload: {
        to: person,
        subject: 'Your leave was counted anew',
        body: letterFor(types, own, change.reason),
      },
    })),
  );
}

/**
 * Open requests look once more: who has their steps, where their workflow says so, and until when what is open is due. Now,
 * or on the day from which the change holds.
 */
export async function lookAgain(
  tx: Transaction,
  change: { id: number; at: Instant; from: CivilDate | null; edits: readonly FactEdit[] },
  { index, lists = [], today }: Restating,
): Promise<void> {
  // What leave types and plans say moves no task and no limit.
  const own = change.edits.filter(edit => (routes(edit) || counts(edit)) && !ofRules(edit));
  const after = own.length === 0 ? null : edited({ ...index.directory, lists }, own);
  if (!after?.ok) return;
  const changed = indexDirectory(after.directory);
  const day = change.from !== null && change.from > today ? change.from : today;
  const requests = new Set([
    ...(await movingRequests(tx, own, index, changed, day)),
    ...(await limitedRequests(tx, own.some(edit => counts(edit)) ? counted(index, changed, own) : [])),
  ]);
  const zone = index.directory.places[0]?.zone ?? 'UTC';
  const at = day === today ? change.at : dayOver(addDays(day, -1), zone);
  await insertMany(
    tx,
    t.timers,
    [...requests].map(request => ({
      key: `${request}:facts:${change.id}`,
      request,
      task: 'facts',
      what: 'facts' as const,
      at,
    })),
  );
}

/** Those with something open whose limit is counted by what is changed. */
async function limitedRequests(tx: Transaction, people: readonly PersonId[]): Promise<string[]> {
  if (people.length === 0) return [];
  const rows = await tx
    .selectDistinct({ request: t.tasks.request })
    .from(t.tasks)
    .where(and(eq(t.tasks.open, true), inArray(t.tasks.holder, [...people])));
  return rows.map(row => row.request);
}

/** Those of workflows whose open tasks go along, where the change may have given a step to somebody else. */
async function movingRequests(
  tx: Transaction,
  edits: readonly FactEdit[],
  index: DirectoryIndex,
  after: DirectoryIndex,
  day: CivilDate,
): Promise<string[]> {
  if (!edits.some(edit => routes(edit))) return [];
  const workflows = await tx
    .select({ id: t.workflows.id, version: t.workflows.liveVersion })
    .from(t.workflows)
    .where(isNotNull(t.workflows.liveVersion));
  const moving: string[] = [];
  for (const { id, version } of workflows) if ((await loadDefinition(tx, id, version ?? 1)).tasksMove) moving.push(id);
  if (moving.length === 0) return [];
  const others = otherManagers(index, after, day).map(one => one.person);
  // Roles and heads are asked for anybody; other lines only for those whose line it is.
  const isWide = edits.some(edit => ['role', 'place', 'department'].includes(factOfEdit(edit).kind));
  if (!isWide && others.length === 0) return [];
  const open = await tx
    .select({ id: t.requests.id })
    .from(t.requests)
    .where(
      and(
        eq(t.requests.status, 'open'),
        inArray(t.requests.workflow, moving),
        isWide ? isNotNull(t.requests.id) : or(inArray(t.requests.asker, others), inArray(t.requests.subject, others)),
      ),
    );
  return open.flatMap(({ id }) => id ?? []);
}

/** What was counted anew of one request, for whoever looks at it. */
export const restatementsOfRequest = (db: Executor, request: string) =>
  db
    .select({
      before: t.restatements.before,
      after: t.restatements.after,
      unit: t.restatements.unit,
      at: t.restatements.at,
      cause: t.factChanges.reason,
    })
    .from(t.restatements)
    .innerJoin(t.factChanges, eq(t.factChanges.id, t.restatements.change))
    .where(eq(t.restatements.request, request))
    .orderBy(asc(t.restatements.change));

/** What was counted anew for somebody, oldest first. */
export async function restatementsOf(db: Executor, person: PersonId): Promise<Restatement[]> {
  const rows = await db
    .select({
      request: t.restatements.request,
      type: t.restatements.type,
      span: t.restatements.span,
      before: t.restatements.before,
      after: t.restatements.after,
      unit: t.restatements.unit,
      change: t.restatements.change,
      at: t.restatements.at,
      cause: t.factChanges.reason,
    })
    .from(t.restatements)
    .innerJoin(t.factChanges, eq(t.factChanges.id, t.restatements.change))
    .where(and(eq(t.restatements.person, person), eq(t.restatements.state, 'booked')))
    .orderBy(asc(t.restatements.change));
  return rows.map(row => ({ ...row, at: row.at as Instant }));
}
