/** Moving in by files, over HTTP. */

import { may } from '@north-pebble/contract';
import express, { type RequestHandler, Router } from 'express';
import { type House, keepExport } from '../house/index.ts';
import { callerOrNobody, isOutOfBounds, ProblemError, send, serving } from '../http/index.ts';
import { beginsOn, setBegins } from './begins.ts';
import { writeTable, writeTemplate } from './files.ts';
import { previewFiles, takeOver } from './moving.ts';

const mostCells = 2_000_000;
const large = express.json({ limit: '24mb', inflate: false });

/** Files of a house are larger than anything else that is sent: read for those alone who may move in. */
export const movingBody: RequestHandler = (request, response, next) => {
  const caller = callerOrNobody(request);
  if (!caller || !may(caller, 'keep records')) return next();
  large(request, response, fault => {
    if (fault || !isOutOfBounds(request.body, mostCells)) next(fault);
    else send(response, new ProblemError('bad input', 'This is nested too deeply, or has too many cells.'));
  });
};

export function movingRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  const asFile = (response: express.Response, name: string) => {
    response.setHeader('Content-Disposition', `attachment; filename="${name}.csv"`);
    response.type('csv');
  };
  at('GET /moving/:table/template.csv', async ({ params: { table }, response }) => {
    asFile(response, `${table}-template`);
    await writeTemplate(response, table);
  });
  at('GET /moving/:table/file.csv', async ({ caller, params: { table }, response }) => {
    await keepExport(house, caller, 'On file', { table });
    asFile(response, table);
    await writeTable(house, response, table, await house.moment(house.db));
  });
  at('GET /moving/begins', async () => ({ on: await beginsOn(house.db) }));
  at('PUT /moving/begins', async ({ body }) => ({ on: await setBegins(house, body.on) }));
  at('POST /moving/preview', ({ body }) => previewFiles(house, body.files));
  at('POST /moving', ({ caller, body }) => takeOver(house, caller, body));
  return router;
}
