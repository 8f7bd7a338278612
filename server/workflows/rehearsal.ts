/** What a rehearsal and a kept check need to know about one person. */
import type { RehearsalView, SurroundingsView } from '@north-pebble/contract';
import { latestDay, type PersonId, todayFor } from '@north-pebble/core/people';
import type { RehearsalFacts } from '@north-pebble/core/proof';
import { readDefinition } from '@north-pebble/core/workflow';
import { asc } from 'drizzle-orm';
import { connectionNames, connectionOffers } from '../connections/index.ts';
import { type Executor, tables as t } from '../database/index.ts';
import { type House, loadBookAndAway, loadDefinition, loadTypes } from '../house/index.ts';
import { notFound } from '../http/index.ts';

export async function rehearsalFacts(house: House, db: Executor, person: PersonId): Promise<RehearsalFacts> {
  const { index, lists, now } = await house.moment(db);
  const { book, away } = await loadBookAndAway(db, index, person, todayFor(index, person, now));
  return { index, lists, away, book };
}

export async function rehearsalView(house: House, person: PersonId): Promise<RehearsalView> {
  const index = await house.directory(house.db);
  if (!index.person(person)) throw notFound();
  const { book, away } = await rehearsalFacts(house, house.db, person);
  const { types, plans, entries, adjustments } = book;
  return {
    types: [...types],
    plans: [...plans],
    entries: [...entries],
    adjustments: [...adjustments],
    person,
    openings: [...(index.person(person)?.openings ?? [])],
    away: [...away],
  };
}

/** What the sheet checks a definition against, besides the directory. */
export async function surroundings(house: House): Promise<SurroundingsView> {
  const { db } = house;
  const { index, lists, now } = await house.moment(db);
  const rows = await db.select().from(t.workflows).orderBy(asc(t.workflows.position));
  const workflows = await Promise.all(
    rows.map(async row => {
      const read = row.draft && readDefinition(row.draft);
      const name = read?.ok
        ? read.definition.name
        : row.liveVersion
          ? (await loadDefinition(db, row.id, row.liveVersion)).name
          : row.id;
      return { id: row.id, name };
    }),
  );
  const types = await loadTypes(db);
  return {
    lists: [...lists],
    leaveTypes: types.map(({ id, name }) => ({ id, name })),
    workflows,
    connections: await connectionNames(db),
    offers: await connectionOffers(db),
    today: latestDay(index, now),
  };
}
