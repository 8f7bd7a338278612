/** The directory as the sheet needs it, people to choose from, and cover. */
import { SetCover } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import { Router } from 'express';
import { z } from 'zod';
import { mustDesign } from '../access/index.ts';
import type { House } from '../house.ts';
import { callerOf, read } from '../http/index.ts';
import { coversView, endCover, findPeople, setCover } from './covers.ts';

const Find = z.object({ words: z.string().max(100).default('') });
const Whose = z.object({ person: z.string().min(1).max(40).optional() });

export function peopleRoutes(house: House): Router {
  const router = Router();
  router.get('/directory', async (request, response) => {
    mustDesign(callerOf(request));
    response.json((await house.directory(house.db)).directory);
  });
  router.get('/people', async (request, response) => {
    callerOf(request);
    response.json(await findPeople(house, read(Find, request.query).words));
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
  router.delete('/covers/:person/:from', async (request, response) => {
    const caller = callerOf(request);
    await endCover(house, caller, request.params.person as PersonId, request.params.from);
    response.status(204).end();
  });
  return router;
}
