/** The reporting lines as they are on a day. */
import type { LinesView } from '@north-pebble/contract';
import {
  type DirectoryIndex,
  linesOn,
  type PersonId,
  personName,
  postsOf,
  reportsTo,
  todayFor,
} from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import type { House } from '../../house/index.ts';
import { type Caller, pagedOf, pageOf } from '../../http/index.ts';
import { mayChangeRecords } from '../changing.ts';
import { readerFor } from './reading.ts';

function dottedOf(index: DirectoryIndex, holder: PersonId | null): string[] {
  const to = holder === null ? null : (index.person(holder)?.dottedTo ?? null);
  return to === null ? [] : [personName(index, to)];
}

/** The posts above and below one's own: what somebody sees where the lines of all are not for colleagues. */
function ownLine(
  index: DirectoryIndex,
  person: PersonId,
  day: CivilDate,
  posts: ReturnType<typeof linesOn>['posts'],
): ReadonlySet<string> {
  const found = new Set<string>();
  const down = (post: string) => {
    if (found.has(post)) return;
    found.add(post);
    for (const below of posts.get(post)?.below ?? []) down(below);
  };
  const mine = postsOf(index, person, day).map(post => post.id);
  for (const post of mine) down(post);
  for (const post of mine) {
    const passed = new Set<string>();
    for (let at = index.post(post); at && !passed.has(at.id); at = index.post(reportsTo(at, day) ?? '')) {
      passed.add(at.id);
      found.add(at.id);
    }
  }
  return found;
}

type Wanted = { readonly day?: CivilDate | undefined; readonly row: number };

/** The lines of a day are drawn up once for all of their pages. */
const linesOf = new WeakMap<DirectoryIndex, Map<CivilDate, ReturnType<typeof linesOn>>>();
/** So many days are looked at side by side. */
const mostDays = 20;

function linesFor(index: DirectoryIndex, day: CivilDate): ReturnType<typeof linesOn> {
  const days = linesOf.get(index) ?? new Map<CivilDate, ReturnType<typeof linesOn>>();
  linesOf.set(index, days);
  const found = days.get(day) ?? linesOn(index, day);
  if (days.size > mostDays) days.clear();
  days.set(day, found);
  return found;
}

export async function linesView(house: House, caller: Caller, { day: wanted, row }: Wanted): Promise<LinesView> {
  const { index, now, directoryVersion } = await house.moment(house.db);
  const today = todayFor(index, caller.id, now);
  const reader = await readerFor(house, caller, index, today);
  const isForAll = reader.all || reader.shared.includes('manager');
  // Who came and who left is told by days that colleagues may not read.
  const day = isForAll ? (wanted ?? today) : today;
  const { top, loose, posts } = linesFor(index, day);
  const own = isForAll ? null : ownLine(index, caller.id, day, posts);
  const isShown = (post: string) => own === null || own.has(post);
  const shown = index.directory.posts.filter(post => isShown(post.id));
  return {
    ...{ day, today, ...pagedOf(shown.length, row, directoryVersion) },
    // What holds the lines together stands on the first page.
    top: row === 0 ? top.filter(isShown) : [],
    loose: row === 0 ? loose.filter(isShown) : [],
    posts: pageOf(shown, row).map(post => {
      const found = posts.get(post.id);
      const holder = found?.holder ?? null;
      return {
        id: post.id,
        title: post.title,
        where: [index.department(post.department)?.name, index.place(post.place)?.name].filter(Boolean).join(', '),
        holder: holder === null ? null : { id: holder, name: personName(index, holder) },
        holdsOthers: found?.holdsOthers ?? false,
        below: (found?.below ?? []).filter(isShown),
        all: found?.all ?? 0,
        dotted: dottedOf(index, holder),
        mine: holder === caller.id,
      };
    }),
    mayMove: mayChangeRecords(caller),
  };
}
