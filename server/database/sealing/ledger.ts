/**
 * Writing to the house's ledger: whoever writes or takes away a row of a guarded table says so in the same transaction, and
 * the row is sealed as the database gives it back. What is written past the ledger has no line in it, and nobody without
 * the keys can add one.
 */
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import type { MySqlTable } from 'drizzle-orm/mysql-core';
import { type Executor, inOneTrip, type Transaction } from '../connection.ts';
import { insertion } from '../prepared.ts';
import * as t from '../schema/index.ts';
import {
  columnOf,
  type GuardedName,
  guardedNames,
  guardedTables,
  guardedText,
  ledgerKey,
  type Row,
} from './guarded.ts';

export type Line = { readonly n: number; readonly what: string; readonly key: string; readonly row: string | null };

/** What the seal of a line is made of. @param before the seal of the line before */
export const lineText = (before: string | null, { n, what, key, row }: Line): string =>
  JSON.stringify([before, n, what, key, row]);

/** Rows that were written or taken away: of which table, and what finds them. */
export type Touched = { readonly what: GuardedName; readonly keys: readonly Row[] };

const chunk = 500;
const putLines = insertion(t.ledger);

async function found(tx: Executor, { what, keys }: Touched): Promise<Map<string, Row>> {
  const { table, key } = guardedTables[what];
  const rows = new Map<string, Row>();
  for (let i = 0; i < keys.length; i += chunk) {
    const some = keys.slice(i, i + chunk);
    // One row is found by its whole key; of many the first column narrows enough.
    const where =
      some.length === 1
        ? and(...key.map(column => eq(columnOf(what, column), some[0][column])))
        : inArray(columnOf(what, key[0]), [...new Set(some.map(one => one[key[0]]))]);
    for (const row of (await tx
      .select()
      .from(table as MySqlTable)
      .where(where)) as Row[])
      rows.set(ledgerKey(what, row), row);
  }
  return rows;
}

/** Says in the ledger how rows stand now, at the end of the transaction that wrote them. */
export async function inLedger(tx: Transaction, ...touched: readonly Touched[]): Promise<void> {
  const lines: { what: GuardedName; key: string; row: string | null }[] = [];
  for (const one of touched) {
    if (one.keys.length === 0) continue;
    const rows = await found(tx, one);
    for (const key of new Set(one.keys.map(row => ledgerKey(one.what, row)))) {
      const row = rows.get(key);
      lines.push({ what: one.what, key, row: row ? tx.keys.seal(guardedText(one.what, row)) : null });
    }
  }
  await addLines(tx, lines);
}

/** Adds lines at the end. Whoever does holds the end of the ledger until the transaction is over. */
export async function addLines(
  tx: Transaction,
  added: readonly { what: string; key: string; row: string | null }[],
): Promise<void> {
  if (added.length === 0) return;
  const [head] = await tx.select().from(t.ledgerHead).where(eq(t.ledgerHead.id, 1)).for('update');
  // A house that has not begun its ledger takes everything into it when its first server starts.
  if (!head) return;
  let { n, seal } = head;
  const lines = added.map(one => {
    const line = { ...one, n: ++n };
    seal = tx.keys.seal(lineText(seal, line));
    return { ...line, seal };
  });
  for (let i = 0; i < lines.length; i += chunk) await inOneTrip(tx, [putLines(lines.slice(i, i + chunk))]);
  await tx.update(t.ledgerHead).set({ n, seal }).where(eq(t.ledgerHead.id, 1));
}

const batch = 5000;

/** The rows of a guarded table, some thousands at a time. */
export async function* guardedRows(db: Executor, name: GuardedName): AsyncGenerator<Row> {
  const table = guardedTables[name].table as MySqlTable;
  const order = guardedTables[name].key.map(column => asc(columnOf(name, column)));
  for (let at = 0; ; at += batch) {
    // What requests have booked is held against their events.
    const from = db.select().from(table).$dynamic();
    if (name === 'booking')
      from.leftJoin(t.requests, eq(t.requests.id, t.leaveEntries.request)).where(isNull(t.requests.id));
    const found = (await from
      .orderBy(...order)
      .limit(batch)
      .offset(at)) as Row[];
    for (const row of found) yield name === 'booking' ? (row.leave_entries as Row) : row;
    if (found.length < batch) return;
  }
}

/** Takes everything that the ledger guards into it: once, when the house begins it. @returns whether it was begun here */
export async function beginLedger(tx: Transaction): Promise<boolean> {
  const [head] = await tx.select().from(t.ledgerHead).where(eq(t.ledgerHead.id, 1)).for('update');
  if (head) return false;
  await tx.insert(t.ledgerHead).values({ id: 1, n: 0, seal: null });
  for (const what of guardedNames) {
    const lines: { what: string; key: string; row: string }[] = [];
    for await (const row of guardedRows(tx, what))
      lines.push({ what, key: ledgerKey(what, row), row: tx.keys.seal(guardedText(what, row)) });
    await addLines(tx, lines);
  }
  return true;
}
