/** What somebody has typed for a request and not sent yet: theirs alone, kept until they send it, on whatever machine. */
import type { Unsent } from '@north-pebble/contract';
import { and, count, eq, lt, ne } from 'drizzle-orm';
import { type Database, type Executor, tables as t } from '../../database/index.ts';
import type { House } from '../../house/index.ts';
import { type Caller, notFound, ProblemError } from '../../http/index.ts';
import { isConcerned } from '../commands/commands.ts';
import { loadRequest } from '../store.ts';

/** At so many places what one person has typed is kept. */
const mostPlaces = 1000;

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
  const [{ n }] = await db
    .select({ n: count() })
    .from(t.unsent)
    .where(and(eq(t.unsent.person, caller.id), ne(t.unsent.what, what)));
  if (n >= mostPlaces)
    throw new ProblemError('refused', 'You have typed at more places than are kept. Send or empty some of it first.');
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
