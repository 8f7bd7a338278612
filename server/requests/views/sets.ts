/** Named sets of filters: one's own, and those that others share. */
import { may, type NewSet, type SavedSet } from '@north-pebble/contract';
import { type DirectoryIndex, isHeldOn, type PersonId, todayFor } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { nameOf } from '@north-pebble/core/workflow';
import { and, asc, eq, inArray, or } from 'drizzle-orm';
import { tables as t } from '../../database/index.ts';
import type { House } from '../../house/index.ts';
import { type Caller, notFound, ProblemError } from '../../http/index.ts';
import { countFound } from './search.ts';

const most = 200;
/** So many are counted each time; a role is given a handful of lists. */
const mostCounted = 12;

const rolesOf = ({ directory }: DirectoryIndex, person: PersonId, day: CivilDate): string[] => [
  ...new Set(directory.roles.filter(r => r.person === person && isHeldOn(r, day)).map(r => r.role)),
];

export async function savedSets(house: House, caller: Caller): Promise<SavedSet[]> {
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, caller.id, now);
  const roles = rolesOf(index, caller.id, today);
  const rows = await house.db
    .select()
    .from(t.savedSets)
    .where(
      or(
        eq(t.savedSets.owner, caller.id),
        eq(t.savedSets.shared, true),
        roles.length > 0 ? inArray(t.savedSets.role, roles) : undefined,
      ),
    )
    .orderBy(asc(t.savedSets.name))
    .limit(most);
  let counted = 0;
  return Promise.all(
    rows.map(async ({ id, owner, place, name, query, shared, role }) => ({
      id,
      place,
      name,
      query,
      shared,
      role,
      own: owner === caller.id,
      ownerName: nameOf(index, owner as PersonId),
      count:
        place === 'requests' && role !== null && roles.includes(role) && counted++ < mostCounted
          ? await countFound(house, caller, query)
          : null,
    })),
  );
}

/** A list is given to a role by those who hold it too, and by those who look after requests. */
export async function saveSet(house: House, caller: Caller, set: NewSet): Promise<void> {
  if (set.role !== null && !may(caller, 'help requests on')) {
    const { index, now } = await house.moment(house.db);
    if (!rolesOf(index, caller.id, todayFor(index, caller.id, now)).includes(set.role))
      throw new ProblemError('not allowed', 'Lists are given to a role by those who hold it, and by HR operations.');
  }
  await house.db.insert(t.savedSets).values({ ...set, owner: caller.id });
}

export async function deleteSet(house: House, caller: Caller, id: number): Promise<void> {
  const [{ affectedRows }] = await house.db
    .delete(t.savedSets)
    .where(and(eq(t.savedSets.id, id), eq(t.savedSets.owner, caller.id)));
  if (affectedRows === 0) throw notFound();
}
