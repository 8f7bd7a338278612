/** Rounds of wishes as they are kept: open, closed, or decided by a change of facts. */
import type { FactEdit, Of } from '@north-pebble/core/facts';
import { asc, eq, inArray, sql } from 'drizzle-orm';
import { type Executor, tables as t } from '../database/index.ts';

export type RoundRow = typeof t.wishRounds.$inferSelect;
export type WishRow = typeof t.wishes.$inferSelect;

export const loadRounds = (db: Executor): Promise<RoundRow[]> =>
  db.select().from(t.wishRounds).orderBy(asc(t.wishRounds.closes), asc(t.wishRounds.id));

export async function loadRound(db: Executor, id: number): Promise<RoundRow | undefined> {
  const [row] = await db.select().from(t.wishRounds).where(eq(t.wishRounds.id, id));
  return row;
}

export const loadWishes = async (db: Executor, rounds: readonly number[]): Promise<WishRow[]> =>
  rounds.length === 0
    ? []
    : db
        .select()
        .from(t.wishes)
        .where(inArray(t.wishes.round, [...rounds]));

/** What was decided of rounds, by their numbers; a decision that was taken back is none. */
export async function decided(db: Executor): Promise<ReadonlyMap<number, readonly FactEdit[]>> {
  const { id, change, edits, takesBack } = t.factChanges;
  const rows = await db
    .select({ id, change, edits })
    .from(t.factChanges)
    .where(sql`json_value(${change}, '$.what') = 'wishes'`);
  if (rows.length === 0) return new Map();
  const back = await db
    .select({ takesBack })
    .from(t.factChanges)
    .where(
      inArray(
        takesBack,
        rows.map(row => row.id),
      ),
    );
  const gone = new Set(back.map(row => row.takesBack));
  return new Map(
    rows.flatMap(row => (gone.has(row.id) ? [] : [[(row.change as Of<'wishes'>).round, row.edits] as const])),
  );
}
