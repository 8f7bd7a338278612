/** What a change of facts does to booked leave: kept beside the change, so that statements can tell it, and told once to each. */
import { counted, type OtherAmount, otherAmounts } from '@north-pebble/core/consequences';
import { edited, type FactEdit, factOfEdit, type OnFile } from '@north-pebble/core/facts';
import type { LeaveBook, LeaveType, Restatement } from '@north-pebble/core/leave';
import { type DirectoryIndex, indexDirectory, type PersonId } from '@north-pebble/core/people';
import { amountOfUnit, type CivilDate, type Instant, rangeWords } from '@north-pebble/core/time';
import { asc, eq } from 'drizzle-orm';
import { type Executor, type Transaction, tables as t } from '../database/index.ts';
import { byKey, insertMany } from './directory.ts';
import { loadEntriesOf, rulesFor } from './leave.ts';

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
  const after = edited({ ...index.directory, lists }, counting);
  if (!after.ok) return [];
  const changed = indexDirectory(after.directory);
  const people = counted(index, changed, edits);
  const entries = await loadEntriesOf(tx, people);
  if (entries.length === 0) return [];
  const book: LeaveBook = { index, ...(await rulesFor(tx, index)), entries, adjustments: [], today };
  return people.flatMap(person => otherAmounts(book, { ...book, index: changed }, person));
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
    'Leave that is booked for you was counted anew, because something changed of what it is counted by.',
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
  const all = (around.leave ?? (await countedAnew(tx, around, change.edits))).filter(
    one => one.state === 'booked' && one.request !== null,
  );
  if (all.length === 0) return;
  const { types } = await rulesFor(tx, around.index);
  await insertMany(
    tx,
    t.restatements,
    all.map(({ person, request, type, span, before, after, unit }) => ({
      change: change.id,
      at: change.at,
      request: request as string,
      ...{ person, type, span, before, after, unit },
    })),
  );
  const of = byKey(all, one => one.person);
  await insertMany(
    tx,
    t.effects,
    [...of].map(([person, own]) => ({
      key: `restated:${change.id}:${person}`,
      state: 'waiting' as const,
      attempts: 0,
      nextTry: 0,
      writtenAt: change.at,
      payload: {
        to: person,
        subject: 'Your leave was counted anew',
        body: letterFor(types, own, change.reason),
      },
    })),
  );
}

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
    .where(eq(t.restatements.person, person))
    .orderBy(asc(t.restatements.change));
  return rows.map(row => ({ ...row, at: row.at as Instant }));
}
