/** Reference lists: rows that forms let people pick from, and that requests may add to and change. */
import { type Cell, idFrom, type ListRow, type ReferenceList } from '@north-pebble/core/form';
import type { CivilDate } from '@north-pebble/core/time';
import type { Effect, NamedValues } from '@north-pebble/core/workflow';
import { and, asc, eq } from 'drizzle-orm';
import { type Executor, inLedger, type Transaction, tables as t } from '../database/index.ts';
import { byKey, insertMany } from './directory.ts';

export async function loadLists(db: Executor): Promise<ReferenceList[]> {
  const lists = await db.select().from(t.lists).orderBy(asc(t.lists.position), asc(t.lists.name));
  if (lists.length === 0) return [];
  const of = byKey(await db.select().from(t.listRows).orderBy(asc(t.listRows.title)), row => row.list);
  return lists.map(list => ({
    id: list.id,
    name: list.name,
    columns: list.columns,
    owners: list.owners ?? [],
    rows: (of.get(list.id) ?? []).map(({ list: _, ...row }) => ({
      ...row,
      from: row.from as CivilDate | null,
      to: row.to as CivilDate | null,
    })),
  }));
}

export async function storeLists(db: Executor, lists: readonly ReferenceList[]): Promise<void> {
  await insertMany(
    db,
    t.lists,
    lists.map(({ id, name, columns, owners = [] }, position) => ({
      id,
      name,
      position,
      columns: [...columns],
      owners: [...owners],
    })),
  );
  await insertMany(
    db,
    t.listRows,
    lists.flatMap(list => list.rows.map(row => ({ list: list.id, ...row }))),
  );
}

const cellOf = (value: unknown): Cell =>
  typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean' ? value : null;

/** Named values put into the columns of a list; the name `Title` is the row's own. */
function cellsFor(list: ReferenceList, values: NamedValues, before: ListRow['cells'] = {}) {
  const cells: Record<string, Cell> = { ...before };
  for (const column of list.columns) if (column.label in values) cells[column.id] = cellOf(values[column.label]);
  return cells;
}

/** Carries out what a request asked of a list; nothing when the list or the row is gone. */
export async function changeList(
  tx: Transaction,
  lists: readonly ReferenceList[],
  effect: Extract<Effect, { kind: 'add row' | 'change row' }>,
): Promise<void> {
  const list = lists.find(l => l.id === effect.list);
  if (!list) return;
  const title = cellOf(effect.values.Title);
  if (effect.kind === 'add row') {
    const named = String(title ?? Object.values(effect.values)[0] ?? 'Row').slice(0, 200);
    const rows = await tx.select({ id: t.listRows.id }).from(t.listRows).where(eq(t.listRows.list, list.id));
    const id = idFrom(
      named,
      rows.map(row => row.id),
    );
    await tx.insert(t.listRows).values({ list: list.id, id, title: named, cells: cellsFor(list, effect.values) });
    await inLedger(tx, { what: 'row', keys: [{ list: list.id, id }] });
    return;
  }
  const at = and(eq(t.listRows.list, list.id), eq(t.listRows.id, effect.row));
  const [row] = await tx.select().from(t.listRows).where(at).for('update');
  if (!row) return;
  const cells = cellsFor(list, effect.values, row.cells);
  await tx
    .update(t.listRows)
    .set({ cells, ...(title === null ? {} : { title: String(title).slice(0, 200) }) })
    .where(at);
  await inLedger(tx, { what: 'row', keys: [{ list: list.id, id: effect.row }] });
}
