/** Wishes for the same days, over HTTP. */
import { Router } from 'express';
import type { House } from '../house/index.ts';
import { serving } from '../http/index.ts';
import { compared, dropRound, keepOwnWishes, makeRound, roundsView } from './service.ts';

export { mustBeWished } from './rounds.ts';

export function wishRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  at('GET /wishes', ({ caller }) => roundsView(house, caller));
  at('POST /wishes', ({ caller, body }) => makeRound(house, caller, body));
  at('GET /wishes/:id', ({ caller, params }) => compared(house, caller, params.id));
  at('DELETE /wishes/:id', ({ params }) => dropRound(house, params.id));
  at('PUT /wishes/:id/own', ({ caller, params, body }) => keepOwnWishes(house, caller, params.id, body));
  return router;
}
