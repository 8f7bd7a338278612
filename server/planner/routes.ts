import { Router } from 'express';
import { type House, keepExport } from '../house/index.ts';
import { serving } from '../http/index.ts';
import { dropFeed, feedsView, makeFeed, renewFeed } from './feeds.ts';
import { plannerView } from './planner.ts';
import { plannerAway, plannerRows, writePlanner } from './rows.ts';

export function plannerRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  at('GET /planner', ({ caller, query }) => plannerView(house, caller, query));
  at('GET /planner/rows', ({ caller, query }) => plannerRows(house, caller, query));
  at('GET /planner/away', ({ caller, query }) => plannerAway(house, caller, query));
  at('GET /planner/file.csv', async ({ caller, query, response }) => {
    await keepExport(house, caller, 'Planner', query);
    response.setHeader('Content-Disposition', 'attachment; filename="planner.csv"');
    response.type('csv');
    await writePlanner(house, caller, query, response);
  });
  at('GET /feeds', ({ caller }) => feedsView(house, caller));
  at('POST /feeds', ({ caller, body }) => makeFeed(house, caller, body));
  at('POST /feeds/:id/renew', ({ caller, params }) => renewFeed(house, caller, params.id));
  at('DELETE /feeds/:id', ({ caller, params }) => dropFeed(house, caller, params.id));
  return router;
}
