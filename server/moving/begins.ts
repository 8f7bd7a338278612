/** The day on which a house begins here, and who comes without saying what was before it. */
import { type Fact, type FactEdit, factOfEdit } from '@north-pebble/core/facts';
import { type DirectoryIndex, recordOn } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { eq } from 'drizzle-orm';
import { type Executor, inLedger, inTransaction, tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';

/** @returns nothing where it was never said */
export async function beginsOn(db: Executor): Promise<CivilDate | null> {
  const [row] = await db.select({ on: t.house.beginsOn }).from(t.house).where(eq(t.house.id, 1));
  return (row?.on ?? null) as CivilDate | null;
}

export async function setBegins(house: House, on: CivilDate | null): Promise<CivilDate | null> {
  await inTransaction(house.db, async tx => {
    await tx.update(t.house).set({ beginsOn: on }).where(eq(t.house.id, 1));
    await inLedger(tx, { what: 'house', keys: [{ id: 1 }] });
  });
  return beginsOn(house.db);
}

/**
 * Names of those who come with these edits, were employed before the house begins, earn leave by a plan on that day and have no
 * opening: for them every year since their first day would be worked out as if nobody had ever taken leave.
 */
export function withoutOpening(edits: readonly FactEdit[], after: DirectoryIndex, begins: CivilDate): string[] {
  const isNew = ({ before, after: now }: FactEdit): boolean => before === null && now?.kind === 'person';
  const ids = edits.filter(isNew).map(edit => (factOfEdit(edit) as Extract<Fact, { kind: 'person' }>).id);
  return ids.flatMap(id => {
    const person = after.person(id);
    if (!person || person.joined >= begins || (person.left !== null && person.left < begins)) return [];
    const earns = recordOn(person, begins).plan !== null;
    return earns && (person.openings ?? []).length === 0 ? [person.name] : [];
  });
}
