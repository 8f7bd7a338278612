/** Asking, deciding, the desk, and one's own requests. */
import {
  BookLeave,
  FindRequests,
  HelpEffect,
  Look,
  NewSet,
  PreviewInput,
  SaveDraft,
  SendCommand,
  Submit,
  Unsent,
  UnsentWhat,
} from '@north-pebble/contract';
import type { Answers } from '@north-pebble/core/form';
import { and, eq } from 'drizzle-orm';
import { Router } from 'express';
import { z } from 'zod';
import { mustFindAll } from '../access/index.ts';
import { tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { callerOf, ProblemError, read } from '../http/index.ts';
import { bookLeave, command, liveDefinition, preview, submit } from './commands/commands.ts';
import { deleteSet, savedSets, saveSet } from './drafts/sets.ts';
import { keepUnsent } from './drafts/unsent.ts';
import { comingTimers } from './views/coming.ts';
import { desk } from './views/desk.ts';
import { writeCsv, writeXlsx } from './views/exporting.ts';
import { look } from './views/looking.ts';
import { exported, findRequests, headings } from './views/search.ts';
import { helpEffect, helpTimer, stuckRequests } from './views/stuck.ts';
import { askable, askView, ownRequests, requestView } from './views/views.ts';

const ExportFormat = z.object({ format: z.enum(['csv', 'xlsx']) });
const Numbered = z.object({ id: z.coerce.number().int().positive() });

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
  router.post('/leave', async (request, response) => {
    const caller = callerOf(request);
    response.status(201).json(await bookLeave(house, caller, read(BookLeave, request.body)));
  });
  router.get('/requests/find', async (request, response) => {
    response.json(await findRequests(house, callerOf(request), read(FindRequests, request.query)));
  });
  router.get('/requests/export.:format', async (request, response) => {
    const caller = callerOf(request);
    const find = read(FindRequests, request.query);
    if (find.whose === 'all') mustFindAll(caller);
    const { format } = read(ExportFormat, request.params);
    const rows = exported(house, caller, find);
    response.setHeader('Content-Disposition', `attachment; filename="requests.${format}"`);
    response.type(format);
    await (format === 'csv' ? writeCsv : writeXlsx)(response, headings(find), rows);
  });
  router.get('/requests/stuck', async (request, response) => {
    response.json(await stuckRequests(house, callerOf(request)));
  });
  router.get('/requests/coming', async (request, response) => {
    response.json(await comingTimers(house, callerOf(request)));
  });
  router.post('/effects/:id', async (request, response) => {
    const caller = callerOf(request);
    const { how } = read(HelpEffect, request.body);
    await helpEffect(house, caller, read(Numbered, request.params).id, how);
    response.status(204).end();
  });
  router.post('/timers/:key/again', async (request, response) => {
    await helpTimer(house, callerOf(request), request.params.key);
    response.status(204).end();
  });
  router.get('/sets', async (request, response) => {
    response.json(await savedSets(house, callerOf(request)));
  });
  router.post('/sets', async (request, response) => {
    const caller = callerOf(request);
    await saveSet(house, caller, read(NewSet, request.body));
    response.status(201).json(await savedSets(house, caller));
  });
  router.delete('/sets/:id', async (request, response) => {
    await deleteSet(house, callerOf(request), read(Numbered, request.params).id);
    response.status(204).end();
  });
  router.get('/requests/:id', async (request, response) => {
    response.json(await requestView(house, callerOf(request), request.params.id));
  });
  router.post('/requests/:id/commands', async (request, response) => {
    const caller = callerOf(request);
    const sent = read(SendCommand, request.body);
    if (sent.command.kind === 'look') throw new ProblemError('bad input', 'A look is sent to /looks.');
    response.json(await command(house, caller, request.params.id, sent));
  });
  router.post('/requests/:id/looks', async (request, response) => {
    response.json(await look(house, callerOf(request), request.params.id, read(Look, request.body)));
  });
  router.put('/requests/:id/unsent/:what', async (request, response) => {
    const { id, what } = request.params;
    await keepUnsent(house, callerOf(request), id, read(UnsentWhat, what), read(Unsent, request.body));
    response.status(204).end();
  });
  return router;
}
