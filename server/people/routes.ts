/** The directory as the sheet needs it, to try people rules on everyone in the browser. */
import { Router } from 'express';
import { mustDesign } from '../access/index.ts';
import type { House } from '../house.ts';
import { callerOf } from '../http/index.ts';

export function peopleRoutes(house: House): Router {
  const router = Router();
  router.get('/directory', async (request, response) => {
    mustDesign(callerOf(request));
    response.json((await house.directory(house.db)).directory);
  });
  return router;
}
