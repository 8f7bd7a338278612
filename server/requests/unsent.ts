/** What somebody has typed for a request and not sent yet: theirs alone, kept until they send it, on whatever machine. */
import type { Unsent } from '@north-pebble/contract';
import { and, eq, lt } from 'drizzle-orm';
import { type Database, type Executor, tables as t } from '../database/index.ts';
import type { House } from '../house.ts';
import { type Caller, notFound } from '../http/index.ts';
import { isConcerned } from './service.ts';
import { loadRequest } from './store.ts';

export async function keepUnsent(house: House, caller: Caller, request: string, what: string, { value }: Unsent) {
  const { db } = house;
  const stored = await loadRequest(db, request);
  if (!stored || !(await isConcerned(house, db, stored, caller))) throw notFound();
  if (value === null) {
    await db
      .delete(t.unsent)
      .where(and(eq(t.unsent.person, caller.id), eq(t.unsent.request, request), eq(t.unsent.what, what)));
    return;
  }
  const typed = { value, at: Date.now() };
  await db
    .insert(t.unsent)
    .values({ person: caller.id, request, what, ...typed })
    .onDuplicateKeyUpdate({ set: typed });
}

export async function unsentOf(db: Executor, caller: Caller, request: string): Promise<Record<string, unknown>> {
  const rows = await db
    .select({ what: t.unsent.what, value: t.unsent.value })
    .from(t.unsent)
    .where(and(eq(t.unsent.person, caller.id), eq(t.unsent.request, request)));
  return Object.fromEntries(rows.map(row => [row.what, row.value]));
}

const keptFor = 90 * 86_400_000;

/** What nobody has come back to for a season goes. */
export const dropOldUnsent = (db: Database) => db.delete(t.unsent).where(lt(t.unsent.at, Date.now() - keptFor));
