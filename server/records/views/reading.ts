/** What somebody reads of their colleagues, as the house says. */
import type { DirectoryIndex } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { eq } from 'drizzle-orm';
import { colleagueReader } from '../../access/index.ts';
import { tables as t } from '../../database/index.ts';
import type { House } from '../../house/index.ts';
import type { Caller } from '../../http/index.ts';

export async function readerFor(house: House, caller: Caller, index: DirectoryIndex, today: CivilDate) {
  const [row] = await house.db.select({ shared: t.house.colleaguesRead }).from(t.house).where(eq(t.house.id, 1));
  const shared = row?.shared ?? [];
  return { ...colleagueReader(caller, shared, index, today), shared };
}
