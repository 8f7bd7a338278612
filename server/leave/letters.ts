/** Letters to those who have much left, or some to lapse: each with their own figures, once. */
import type { NewLetters } from '@north-pebble/contract';
import { filteredStandings, leftWords } from '@north-pebble/core/leave';
import { amountOfUnit, yearOf } from '@north-pebble/core/time';
import { eq, like } from 'drizzle-orm';
import { inTransaction, tables as t } from '../database/index.ts';
import { type House, insertMany } from '../house/index.ts';
import { type Caller, mustHave, ProblemError } from '../http/index.ts';
import { standingsView } from './standings.ts';

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
        state: 'waiting' as const,
        attempts: 0,
        nextTry: 0,
        writtenAt: at,
        payload: {
          to: row.person,
          subject: `Your ${type}: ${amountOfUnit(row.free, row.unit)} left`,
          body: leftWords(row, type, note, yearOf(view.today)),
        },
      })),
    );
    return { letters: rows.length };
  });
}
