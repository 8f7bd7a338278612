/** Lists that leave the house as files: each is written down before the first line of it is. */
import type { ExportRows } from '@north-pebble/contract';
import { type PersonId, personName } from '@north-pebble/core/people';
import type { Instant } from '@north-pebble/core/time';
import { desc } from 'drizzle-orm';
import { inLedger, inTransaction, tables as t } from '../database/index.ts';
import type { Caller } from '../http/index.ts';
import type { House } from './house.ts';

/** @param query what was looked for, as it stands in the address */
export async function keepExport(house: House, caller: Caller, what: string, query: object = {}): Promise<void> {
  const said = Object.entries(query).flatMap(([name, value]) =>
    value === '' || value === null || value === undefined ? [] : [`${name}: ${String(value)}`],
  );
  const at = await house.now(house.db);
  await inTransaction(house.db, async tx => {
    const [{ insertId: id }] = await tx.insert(t.exports).values({
      by: caller.seenBy ?? caller.id,
      as: caller.seenBy ? caller.id : null,
      what: [what, ...said].join(', ').slice(0, 300),
      at,
    });
    await inLedger(tx, { what: 'file taken along', keys: [{ id }] });
  });
}

const mostShown = 200;

export async function exportRows(house: House): Promise<ExportRows> {
  const index = await house.directory(house.db);
  const rows = await house.db.select().from(t.exports).orderBy(desc(t.exports.id)).limit(mostShown);
  return rows.map(({ id, by, as, what, at }) => ({
    id,
    who: personName(index, by as PersonId),
    as: as === null ? null : personName(index, as as PersonId),
    what,
    at: at as Instant,
  }));
}
