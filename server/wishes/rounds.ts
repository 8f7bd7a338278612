/** Rounds of wishes as they are kept: open, closed, or decided by a change of facts. */
import { type FactEdit, type Of, sameValue } from '@north-pebble/core/facts';
import type { CivilDate } from '@north-pebble/core/time';
import { asc, eq, inArray, sql } from 'drizzle-orm';
import { type Executor, tables as t } from '../database/index.ts';
import { refusedField } from '../http/index.ts';

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

/**
 * What is decided is what was wished for, of a round that is closed and not decided: everybody is told that it is as they wished,
 * and nobody else that nothing of theirs could be met.
 */
export async function mustBeWished(db: Executor, change: Of<'wishes'>, today: CivilDate): Promise<void> {
  const row = await loadRound(db, change.round);
  if (!row || row.type !== change.type || row.name !== change.name)
    throw refusedField('change.round', 'There is no such round of wishes.');
  if ((await decided(db)).has(row.id)) throw refusedField('change.round', 'It is decided already.');
  if (today <= row.closes) throw refusedField('change.round', 'Wishes are still taken. Decide once they are closed.');
  const wishes = new Map((await loadWishes(db, [row.id])).map(one => [one.person, one.spans]));
  change.chosen.forEach(({ person, from, to }, n) => {
    if (!(wishes.get(person) ?? []).some(span => sameValue(span, { from, to })))
      throw refusedField(`change.chosen.${n}`, 'Nobody wished for these days. Choose one of their wishes.');
  });
  const chosen = new Set<string>(change.chosen.map(one => one.person));
  const strange = change.without.findIndex(
    (person, n) => !wishes.has(person) || chosen.has(person) || change.without.indexOf(person) !== n,
  );
  if (strange >= 0) throw refusedField(`change.without.${strange}`, 'Name those whose wishes are not met, each once.');
}
