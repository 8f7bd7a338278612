/** Comings and leavings, over HTTP. */
import { Router } from 'express';
import type { House } from '../house/index.ts';
import { serving } from '../http/index.ts';
import { handOver, handOverView, movesView } from './leaving.ts';

export function leavingRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  at('GET /moves', ({ caller }) => movesView(house, caller));
  at('GET /records/:person/hand-over', ({ caller, params }) => handOverView(house, caller, params.person));
  at('POST /records/:person/hand-over', ({ caller, params, body }) => handOver(house, caller, params.person, body));
  return router;
}
