/** The connections that are set up, by the names that workflows use. */
import type { Offers } from '@north-pebble/core/workflow';
import { asc, eq } from 'drizzle-orm';
import { type Executor, tables as t } from '../database/index.ts';
import { type Opened, openConnection } from './registry.ts';

export type StoredConnection = typeof t.connections.$inferSelect;

export const loadConnections = (db: Executor): Promise<StoredConnection[]> =>
  db.select().from(t.connections).orderBy(asc(t.connections.name));

export async function loadConnection(db: Executor, name: string): Promise<StoredConnection | undefined> {
  const [row] = await db.select().from(t.connections).where(eq(t.connections.name, name));
  return row;
}

/** A stored connection ready to be asked; nothing when its kind or its settings are not understood any more. */
export function opened({ kind, settings }: StoredConnection): Opened | null {
  const found = openConnection(kind, settings);
  return found.ok ? found.connection : null;
}

/** What each connection that is set up and understood can be asked to do, by its name. */
export const connectionOffers = async (db: Executor): Promise<Record<string, Offers>> =>
  Object.fromEntries(
    (await loadConnections(db)).flatMap(row => {
      const found = opened(row);
      return found ? [[row.name, found.offers] as const] : [];
    }),
  );

/** What designers may name: those that are set up. */
export const connectionNames = async (db: Executor): Promise<string[]> =>
  (await db.select({ name: t.connections.name }).from(t.connections)).map(row => row.name);
