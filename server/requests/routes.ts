/** Asking, deciding, the desk, and one's own requests. */
import { PreviewInput, SaveDraft, SendCommand, Submit } from '@north-pebble/contract';
import type { Answers } from '@north-pebble/core/form';
import { and, eq } from 'drizzle-orm';
import { Router } from 'express';
import { tables as t } from '../database/index.ts';
import type { House } from '../house.ts';
import { callerOf, read } from '../http/index.ts';
import { desk } from './desk.ts';
import { command, liveDefinition, preview, submit } from './service.ts';
import { askable, askView, ownRequests, requestView } from './views.ts';

export function requestRoutes(house: House): Router {
  const router = Router();
  router.get('/desk', async (request, response) => {
    response.json(await desk(house, callerOf(request)));
  });
  router.get('/askable', async (request, response) => {
    callerOf(request);
    response.json(await askable(house, callerOf(request)));
  });
  router.get('/askable/:workflow', async (request, response) => {
    response.json(await askView(house, callerOf(request), request.params.workflow));
  });
  router.put('/askable/:workflow/draft', async (request, response) => {
    const caller = callerOf(request);
    const { answers } = read(SaveDraft, request.body);
    const { workflow } = request.params;
    await liveDefinition(house.db, workflow);
    const draft = { answers: answers as Answers, savedAt: await house.now(house.db) };
    await house.db
      .insert(t.requestDrafts)
      .values({ person: caller.id, workflow, ...draft })
      .onDuplicateKeyUpdate({ set: draft });
    response.json({ savedAt: draft.savedAt });
  });
  router.delete('/askable/:workflow/draft', async (request, response) => {
    const { id } = callerOf(request);
    const { workflow } = request.params;
    await house.db
      .delete(t.requestDrafts)
      .where(and(eq(t.requestDrafts.person, id), eq(t.requestDrafts.workflow, workflow)));
    response.status(204).end();
  });
  router.post('/preview', async (request, response) => {
    const caller = callerOf(request);
    response.json(await preview(house, caller, read(PreviewInput, request.body)));
  });
  router.get('/requests', async (request, response) => {
    response.json(await ownRequests(house, callerOf(request)));
  });
  router.post('/requests', async (request, response) => {
    const caller = callerOf(request);
    response.status(201).json(await submit(house, caller, read(Submit, request.body)));
  });
  router.get('/requests/:id', async (request, response) => {
    response.json(await requestView(house, callerOf(request), request.params.id));
  });
  router.post('/requests/:id/commands', async (request, response) => {
    const caller = callerOf(request);
    response.json(await command(house, caller, request.params.id, read(SendCommand, request.body)));
  });
  return router;
}
