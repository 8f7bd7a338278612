/** The connections that are set up, by the names that workflows use. */
import type { Offers } from '@north-pebble/core/workflow';
import { asc, eq } from 'drizzle-orm';
import {
  type Database,
  type Executor,
  inLedger,
  inTransaction,
  isHidden,
  type Keys,
  type Transaction,
  tables as t,
} from '../database/index.ts';
import { type Opened, openConnection, secretNames } from './registry.ts';

export type StoredConnection = typeof t.connections.$inferSelect;

/** Settings with their secrets changed, by what hides or shows them. */
function withSecrets({ kind, settings }: StoredConnection, change: (secret: string) => string): unknown {
  if (typeof settings !== 'object' || settings === null) return settings;
  const secrets = secretNames(kind);
  return Object.fromEntries(
    Object.entries(settings).map(([name, value]) =>
      secrets.includes(name) && typeof value === 'string' ? [name, change(value)] : [name, value],
    ),
  );
}

const hidden = (keys: Keys, row: StoredConnection): StoredConnection => ({
  ...row,
  settings: withSecrets(row, secret => (isHidden(secret) ? secret : keys.hide(secret, `connection ${row.name}`))),
});

const shown = (keys: Keys, row: StoredConnection): StoredConnection => ({
  ...row,
  settings: withSecrets(row, secret => (isHidden(secret) ? keys.show(secret, `connection ${row.name}`) : secret)),
});

export const loadConnections = async (db: Executor): Promise<StoredConnection[]> =>
  (await db.select().from(t.connections).orderBy(asc(t.connections.name))).map(row => shown(db.keys, row));

/** Stores a connection, its secrets hidden. */
export const keepConnection = (db: Database, connection: StoredConnection): Promise<void> =>
  inTransaction(db, async tx => {
    const { name, ...row } = hidden(tx.keys, connection);
    await tx
      .insert(t.connections)
      .values({ name, ...row })
      .onDuplicateKeyUpdate({ set: row });
    await inLedger(tx, { what: 'connection', keys: [{ name }] });
  });

export const dropConnection = (db: Database, name: string): Promise<void> =>
  inTransaction(db, async tx => {
    await tx.delete(t.connections).where(eq(t.connections.name, name));
    await inLedger(tx, { what: 'connection', keys: [{ name }] });
  });

/** Hides secrets that were stored as they are. */
export async function hideConnections(tx: Transaction): Promise<void> {
  for (const row of await tx.select().from(t.connections)) {
    const { settings } = hidden(tx.keys, row);
    await tx.update(t.connections).set({ settings }).where(eq(t.connections.name, row.name));
  }
}

export async function loadConnection(db: Executor, name: string): Promise<StoredConnection | undefined> {
  const [row] = await db.select().from(t.connections).where(eq(t.connections.name, name));
  return row && shown(db.keys, row);
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
