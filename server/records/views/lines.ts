/** The reporting lines as they are on a day. */
import type { LinesView } from '@north-pebble/contract';
import { type DirectoryIndex, linesOn, type PersonId, personName, todayFor } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import type { House } from '../../house/index.ts';
import type { Caller } from '../../http/index.ts';
import { mayChangeRecords } from '../changing.ts';

function dottedOf(index: DirectoryIndex, holder: PersonId | null): string[] {
  const to = holder === null ? null : (index.person(holder)?.dottedTo ?? null);
  return to === null ? [] : [personName(index, to)];
}

export async function linesView(house: House, caller: Caller, wanted: CivilDate | undefined): Promise<LinesView> {
  const { index, now } = await house.moment(house.db);
  const today = todayFor(index, caller.id, now);
  const day = wanted ?? today;
  const { top, loose, posts } = linesOn(index, day);
  return {
    day,
    today,
    top,
    loose,
    posts: index.directory.posts.map(post => {
      const found = posts.get(post.id);
      const holder = found?.holder ?? null;
      return {
        id: post.id,
        title: post.title,
        where: [index.department(post.department)?.name, index.place(post.place)?.name].filter(Boolean).join(', '),
        holder: holder === null ? null : { id: holder, name: personName(index, holder) },
        holdsOthers: found?.holdsOthers ?? false,
        below: found?.below ?? [],
        all: found?.all ?? 0,
        dotted: dottedOf(index, holder),
        mine: holder === caller.id,
      };
    }),
    mayMove: mayChangeRecords(caller),
  };
}
