/** Named sets of filters: one's own, and those that others share. */
import type { NewSet, SavedSet } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import { nameOf } from '@north-pebble/core/workflow';
import { and, asc, eq, or } from 'drizzle-orm';
import { tables as t } from '../../database/index.ts';
import type { House } from '../../house/index.ts';
import { type Caller, notFound } from '../../http/index.ts';

const most = 200;

export async function savedSets(house: House, caller: Caller): Promise<SavedSet[]> {
  const index = await house.directory(house.db);
  const rows = await house.db
    .select()
    .from(t.savedSets)
    .where(or(eq(t.savedSets.owner, caller.id), eq(t.savedSets.shared, true)))
    .orderBy(asc(t.savedSets.name))
    .limit(most);
  return rows.map(({ id, owner, place, name, query, shared }) => ({
    id,
    place,
    name,
    query,
    shared,
    own: owner === caller.id,
    ownerName: nameOf(index, owner as PersonId),
  }));
}

export async function saveSet(house: House, caller: Caller, set: NewSet): Promise<void> {
  await house.db.insert(t.savedSets).values({ ...set, owner: caller.id });
}

export async function deleteSet(house: House, caller: Caller, id: number): Promise<void> {
  const [{ affectedRows }] = await house.db
    .delete(t.savedSets)
    .where(and(eq(t.savedSets.id, id), eq(t.savedSets.owner, caller.id)));
  if (affectedRows === 0) throw notFound();
}
