/** The directory as the sheet needs it, people to choose from, and cover. */
import type { MailChoiceView } from '@north-pebble/contract';
import { usualMailChoice, zoneFor } from '@north-pebble/core/people';

import { eq } from 'drizzle-orm';
import { Router } from 'express';
import { tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { type Caller, pagedOf, pageOf, serving } from '../http/index.ts';
import { coversView, endCover, findPeople, setCover } from './covers.ts';

/** What somebody has chosen for their mails, and the roles whose mails they share. */
async function mailChoiceView(house: House, caller: Caller): Promise<MailChoiceView> {
  const { index, now } = await house.moment(house.db);
  const [row] = await house.db.select().from(t.mailChoices).where(eq(t.mailChoices.person, caller.id));
  return {
    choice: row?.choice ?? usualMailChoice,
    roles: [...new Set(index.directory.roles.filter(r => r.person === caller.id).map(r => r.role))],
    zone: zoneFor(index, caller.id, now),
  };
}

export function peopleRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  at('GET /directory', async ({ query: { row } }) => {
    const { index, directoryVersion } = await house.moment(house.db);
    const { directory } = index;
    const { people, posts, holdings } = directory;
    const rows = Math.max(people.length, posts.length, holdings.length);
    const rest = { covers: [], roles: [], places: [], departments: [], patterns: [], calendars: [] };
    // What is left of somebody’s leave is no part of it; whoever rehearses with a person asks for theirs.
    return {
      ...directory,
      // What does not grow with the house stands on the first page.
      ...(row === 0 ? {} : rest),
      ...pagedOf(rows, row, directoryVersion),
      posts: pageOf(posts, row),
      holdings: pageOf(holdings, row),
      people: pageOf(people, row).map(({ openings: _, circumstances: _o, number: _n, ...own }) => ({
        ...own,
        records: own.records.map(({ costCentre: _c, ...record }) => record),
      })),
    };
  });
  at('GET /people', ({ caller, query }) => findPeople(house, caller, query.words));
  at('GET /covers', ({ caller, query }) => coversView(house, caller, query.person ?? caller.id));
  at('PUT /covers', async ({ caller, body }) => {
    await setCover(house, caller, body);
    return coversView(house, caller, body.person ?? caller.id);
  });
  at('GET /mail-choice', ({ caller }) => mailChoiceView(house, caller));
  at('PUT /mail-choice', async ({ caller, body: choice }) => {
    await house.db
      .insert(t.mailChoices)
      .values({ person: caller.id, choice })
      .onDuplicateKeyUpdate({ set: { choice } });
    return mailChoiceView(house, caller);
  });
  at('DELETE /covers/:person/:from', ({ caller, params }) => endCover(house, caller, params.person, params.from));
  return router;
}
