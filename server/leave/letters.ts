/** Letters to those who have much left, or some to lapse: each with their own figures, once. */
import type { NewLetters } from '@north-pebble/contract';
import { type FactEdit, factKey } from '@north-pebble/core/facts';
import { filteredStandings, leftWords, planThrough, rulesOn, type StandingRow } from '@north-pebble/core/leave';
import { amountOfUnit, type CivilDate, fullDate, toDay, yearOf } from '@north-pebble/core/time';
import { eq, like } from 'drizzle-orm';
import { inTransaction, type Transaction, tables as t, waiting } from '../database/index.ts';
import { adjustmentsOf, type House, insertMany, keepFacts, rulesFor } from '../house/index.ts';
import { type Caller, mustHave, ProblemError } from '../http/index.ts';
import { standingsView } from './standings.ts';

/** Where what lapses depends on it, a letter that told what lapses is a fact, and stands on the statement. */
async function keepWarnings(
  house: House,
  tx: Transaction,
  caller: Caller,
  { type, today }: { readonly type: string; readonly today: CivilDate },
  rows: readonly StandingRow[],
): Promise<void> {
  const { index, lists, now } = await house.moment(tx);
  const { plans } = await rulesFor(tx, index);
  const warned = rows.filter(({ person, lapsing, atTurn }) => {
    const own = index.person(person);
    const plan = own && planThrough(plans, own, today);
    return lapsing + atTurn > 0 && plan !== undefined && rulesOn(plan.rules, toDay(today)).carryOver?.warned;
  });
  const there = new Set(
    (
      await adjustmentsOf(
        tx,
        warned.map(row => row.person),
      )
    ).map(one => factKey({ kind: 'adjustment', ...one })),
  );
  const edits = warned.flatMap(({ person, lapsing, atTurn, lapsesOn, to, unit }): FactEdit[] => {
    const first = lapsing > 0 && lapsesOn ? `the first on ${fullDate(lapsesOn)}` : `by ${fullDate(to)}`;
    const reason = `letter: ${amountOfUnit(lapsing + atTurn, unit)} lapse unless taken, ${first}`;
    const after = { kind: 'adjustment' as const, person, type, date: today, amount: 0, reason, warns: true };
    return there.has(factKey(after)) ? [] : [{ before: null, after }];
  });
  if (edits.length === 0) return;
  await keepFacts(
    tx,
    {
      ...{ at: now, by: caller.id, request: null, reason: 'A letter told what lapses', from: today },
      ...{ change: null, edits, takesBack: null, keepsAccounts: false },
    },
    { index, lists, today },
  );
}

/** @throws ProblemError where others are found than were looked at: nobody is written to then */
export async function writeLetters(
  house: House,
  caller: Caller,
  { id, people, note, ...find }: NewLetters,
): Promise<{ letters: number }> {
  mustHave(caller, 'keep records');
  const view = await standingsView(house, caller, find);
  const rows = filteredStandings(view.rows, find);
  const type = view.types.find(one => one.id === view.type)?.name.toLowerCase() ?? 'leave';
  if (rows.length !== people)
    throw new ProblemError('stale', 'Others are found now than before. Look at them again, and write then.');
  const at = await house.now(house.db);
  return inTransaction(house.db, async tx => {
    // Pressed twice, or sent again after a lost answer, it writes once.
    await tx.select().from(t.house).where(eq(t.house.id, 1)).for('update');
    const there = await tx.$count(t.effects, like(t.effects.key, `left:${id}:%`));
    if (there > 0) return { letters: there };
    await insertMany(
      tx,
      t.effects,
      rows.map(row => ({
        key: `left:${id}:${row.person}`,
        ...waiting,
        writtenAt: at,
        payload: {
          to: row.person,
          subject: `Your ${type}: ${amountOfUnit(row.free, row.unit)} left`,
          body: leftWords(row, type, note, yearOf(view.today)),
        },
      })),
    );
    await keepWarnings(house, tx, caller, { type: view.type, today: view.today }, rows);
    return { letters: rows.length };
  });
}
