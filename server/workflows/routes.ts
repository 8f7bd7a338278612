/** The shelf and the sheet. */
import { Publish } from '@north-pebble/contract';
import { pathText, readDefinition } from '@north-pebble/core/workflow';
import { Router } from 'express';
import { z } from 'zod';
import { mustDesign, mustReadWorkflows } from '../access/index.ts';
import type { House } from '../house.ts';
import { callerOf, ProblemError, read } from '../http/index.ts';
import { dropDraft, publish, saveDraft, sheet, shelf } from './service.ts';

/** The definition's own reader says what is wrong in words; so the envelope is read first. */
const Envelope = z.object({ revision: z.number().int().nonnegative(), definition: z.unknown() });

export function workflowRoutes(house: House): Router {
  const router = Router();
  router.get('/workflows', async (request, response) => {
    mustReadWorkflows(callerOf(request));
    response.json(await shelf(house));
  });
  router.get('/workflows/:id', async (request, response) => {
    mustReadWorkflows(callerOf(request));
    response.json(await sheet(house, request.params.id));
  });
  router.put('/workflows/:id/draft', async (request, response) => {
    const caller = callerOf(request);
    mustDesign(caller);
    const { revision, definition: given } = read(Envelope, request.body);
    const found = readDefinition(given);
    if (!found.ok) {
      const faults = found.faults.map(f => ({ field: f.path.join('.'), message: f.message }));
      const [first] = found.faults;
      throw new ProblemError('bad input', `${pathText(first.path)}: ${first.message}`, faults);
    }
    response.json(await saveDraft(house, caller, request.params.id, { revision, definition: found.definition }));
  });
  router.delete('/workflows/:id/draft', async (request, response) => {
    mustDesign(callerOf(request));
    await dropDraft(house, request.params.id);
    response.status(204).end();
  });
  router.post('/workflows/:id/publish', async (request, response) => {
    const caller = callerOf(request);
    mustDesign(caller);
    response.json(await publish(house, caller, request.params.id, read(Publish, request.body)));
  });
  return router;
}
