/** The directory as the sheet needs it, people to choose from, and cover. */
import { type MailChoiceView, SetCover } from '@north-pebble/contract';
import { MailChoice, type PersonId, usualMailChoice, zoneOf } from '@north-pebble/core/people';
import { civilDateAt } from '@north-pebble/core/time';
import { eq } from 'drizzle-orm';
import { Router } from 'express';
import { z } from 'zod';
import { mustDesign } from '../access/index.ts';
import { tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { type Caller, callerOf, read } from '../http/index.ts';
import { coversView, endCover, findPeople, setCover } from './covers.ts';

const Find = z.object({ words: z.string().max(100).default('') });
const Whose = z.object({ person: z.string().min(1).max(40).optional() });

/** What somebody has chosen for their mails, and the roles whose mails they share. */
async function mailChoiceView(house: House, caller: Caller): Promise<MailChoiceView> {
  const { index, now } = await house.moment(house.db);
  const [row] = await house.db.select().from(t.mailChoices).where(eq(t.mailChoices.person, caller.id));
  const person = index.person(caller.id);
  return {
    choice: row?.choice ?? usualMailChoice,
    roles: [...new Set(index.directory.roles.filter(r => r.person === caller.id).map(r => r.role))],
    zone: person ? zoneOf(index, person, civilDateAt(now, 'UTC')) : 'UTC',
  };
}

export function peopleRoutes(house: House): Router {
  const router = Router();
  router.get('/directory', async (request, response) => {
    mustDesign(callerOf(request));
    response.json((await house.directory(house.db)).directory);
  });
  router.get('/people', async (request, response) => {
    const caller = callerOf(request);
    response.json(await findPeople(house, caller, read(Find, request.query).words));
  });
  router.get('/covers', async (request, response) => {
    const caller = callerOf(request);
    const { person } = read(Whose, request.query);
    response.json(await coversView(house, caller, (person ?? caller.id) as PersonId));
  });
  router.put('/covers', async (request, response) => {
    const caller = callerOf(request);
    const input = read(SetCover, request.body);
    await setCover(house, caller, input);
    response.json(await coversView(house, caller, input.person ?? caller.id));
  });
  router.get('/mail-choice', async (request, response) => {
    response.json(await mailChoiceView(house, callerOf(request)));
  });
  router.put('/mail-choice', async (request, response) => {
    const caller = callerOf(request);
    const choice = read(MailChoice, request.body);
    await house.db
      .insert(t.mailChoices)
      .values({ person: caller.id, choice })
      .onDuplicateKeyUpdate({ set: { choice } });
    response.json(await mailChoiceView(house, caller));
  });
  router.delete('/covers/:person/:from', async (request, response) => {
    const caller = callerOf(request);
    await endCover(house, caller, request.params.person as PersonId, request.params.from);
    response.status(204).end();
  });
  return router;
}
