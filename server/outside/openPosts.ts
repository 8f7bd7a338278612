/** The open posts as anybody outside reads them, each with the way to apply for it. */
import type { OpenPostsView } from '@north-pebble/contract';
import { isPickable, listById, openPostsList, readOutside } from '@north-pebble/core/form';
import { civilDateAt } from '@north-pebble/core/time';
import { outsideFields } from '@north-pebble/core/workflow';
import { tables as t } from '../database/index.ts';
import { type House, nameOfHouse } from '../house/index.ts';
import { openAddress } from './addresses.ts';

/** The public address at which one of the open posts can be chosen; nothing while there is none. */
async function applyAt(house: House): Promise<string | null> {
  const now = await house.now(house.db);
  for (const { token } of await house.db.select({ token: t.publicForms.token }).from(t.publicForms)) {
    const opened = await openAddress(house.db, token, now).catch(() => null);
    const outside = opened?.definition.opening?.outside;
    if (!opened || opened.why !== null || !outside) continue;
    const asks = outsideFields(opened.definition, outside);
    if (asks.some(field => field.kind === 'pick' && field.list === openPostsList)) return `/apply#${token}`;
  }
  return null;
}

export async function openPosts(house: House): Promise<OpenPostsView> {
  const { lists, now } = await house.moment(house.db);
  const day = civilDateAt(now, 'UTC');
  const list = listById(lists ?? [], openPostsList);
  const address = await applyAt(house);
  const rows = (list?.rows ?? []).filter(row => isPickable(row, day));
  return {
    house: await nameOfHouse(house.db),
    posts: readOutside(list, day).map((post, n) => ({
      ...post,
      apply: address && rows[n] ? `${address}.${rows[n].id}` : null,
    })),
  };
}
