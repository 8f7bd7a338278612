/** Letters about a request to somebody who has left: they go to whoever owns it, since the address is nobody's any more. */
import {
  type DirectoryIndex,
  hasLeft,
  hrOperations,
  type Person,
  type PersonId,
  todayFor,
} from '@north-pebble/core/people';
import { type CivilDate, fullDate, type Instant } from '@north-pebble/core/time';
import { eq } from 'drizzle-orm';
import { inTransaction, tables as t, waiting } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { asDelivered, type Row } from './claims.ts';

const isGone = (index: DirectoryIndex, person: Person | undefined, now: Instant): boolean =>
  person !== undefined && hasLeft(person, todayFor(index, person.id, now));

/** The reader of a letter about a request, where they have left; what is about their account goes where it says. */
export function leaverOf(index: DirectoryIndex, { request, payload }: Row, now: Instant): Person | null {
  if (request === null || payload.address !== undefined || payload.account !== undefined || payload.first) return null;
  const person = index.person(payload.to as PersonId);
  return person && isGone(index, person, now) ? person : null;
}

/**
 * To the owner of the request, and where they have left too, to HR operations; written once, however often this is tried.
 * What can be answered, or put into a calendar, by its reader alone stays behind.
 */
export async function forward(
  house: House,
  row: Row,
  leaver: Person,
  index: DirectoryIndex,
  now: Instant,
): Promise<void> {
  const [found] = await house.db
    .select({ owner: t.requests.owner, asker: t.requests.asker })
    .from(t.requests)
    .where(eq(t.requests.id, row.request ?? ''));
  const owner = index.person((found?.owner ?? found?.asker ?? '') as PersonId);
  const to = owner && !isGone(index, owner, now) ? owner.id : hrOperations;
  const { task: _task, attach: _attach, html: _html, link: _link, ...payload } = row.payload;
  const body = `This was for ${leaver.name}, who left on ${fullDate(leaver.left as CivilDate)}.\n\n${payload.body}`;
  await inTransaction(house.db, async tx => {
    await tx
      .insert(t.effects)
      .ignore()
      .values({
        key: `${row.key}:for a leaver`,
        request: row.request,
        payload: { ...payload, to, body },
        ...waiting,
        writtenAt: row.writtenAt,
      });
    await tx.update(t.effects).set(asDelivered(row)).where(eq(t.effects.id, row.id));
  });
}
