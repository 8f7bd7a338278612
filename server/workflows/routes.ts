/** The shelf and the sheet. */
import { Archive, Move, Publish, SetPermissions, TakeBack } from '@north-pebble/contract';
import { PersonId } from '@north-pebble/core/people';
import { type Definition, pathText, readDefinition } from '@north-pebble/core/workflow';
import { Router } from 'express';
import { z } from 'zod';
import { mustDesign, mustReadWorkflows } from '../access/index.ts';
import type { House } from '../house/index.ts';
import { callerOf, ProblemError, read } from '../http/index.ts';
import { movable, moveRequests } from './moving.ts';
import { rehearsalView, surroundings } from './rehearsal.ts';
import {
  archive,
  beginWorkflow,
  draftMark,
  dropDraft,
  publish,
  saveDraft,
  setPermissions,
  sheet,
  shelf,
  takeBack,
  versionOf,
} from './service.ts';

/** The definition's own reader says what is wrong in words; so the envelope is read first. */
const Envelope = z.object({ revision: z.number().int().nonnegative(), definition: z.unknown() });
const Beginning = z.object({ definition: z.unknown() });
const Version = z.coerce.number().int().positive();

function definitionFrom(given: unknown): Definition {
  const found = readDefinition(given);
  if (found.ok) return found.definition;
  const faults = found.faults.map(f => ({ field: f.path.join('.'), message: f.message }));
  const [first] = found.faults;
  throw new ProblemError('bad input', `${pathText(first.path)}: ${first.message}`, faults);
}

export function workflowRoutes(house: House): Router {
  const router = Router();
  router.get('/workflows', async (request, response) => {
    const caller = callerOf(request);
    mustReadWorkflows(caller);
    response.json(await shelf(house, caller));
  });
  router.post('/workflows', async (request, response) => {
    const caller = callerOf(request);
    mustDesign(caller);
    const definition = definitionFrom(read(Beginning, request.body).definition);
    response.status(201).json(await beginWorkflow(house, caller, definition));
  });
  router.get('/surroundings', async (request, response) => {
    mustReadWorkflows(callerOf(request));
    response.json(await surroundings(house));
  });
  router.get('/rehearsal/:person', async (request, response) => {
    mustDesign(callerOf(request));
    response.json(await rehearsalView(house, read(PersonId, request.params.person)));
  });
  router.get('/workflows/:id', async (request, response) => {
    const caller = callerOf(request);
    mustReadWorkflows(caller);
    response.json(await sheet(house, caller, request.params.id));
  });
  router.get('/workflows/:id/versions/:version', async (request, response) => {
    const caller = callerOf(request);
    mustReadWorkflows(caller);
    response.json(await versionOf(house, caller, request.params.id, read(Version, request.params.version)));
  });
  router.get('/workflows/:id/draft/mark', async (request, response) => {
    const caller = callerOf(request);
    mustReadWorkflows(caller);
    response.json(await draftMark(house, caller, request.params.id));
  });
  router.put('/workflows/:id/draft', async (request, response) => {
    const caller = callerOf(request);
    mustDesign(caller);
    const { revision, definition } = read(Envelope, request.body);
    const input = { revision, definition: definitionFrom(definition) };
    response.json(await saveDraft(house, caller, request.params.id, input));
  });
  router.delete('/workflows/:id/draft', async (request, response) => {
    const caller = callerOf(request);
    mustDesign(caller);
    await dropDraft(house, caller, request.params.id);
    response.status(204).end();
  });
  router.post('/workflows/:id/publish', async (request, response) => {
    const caller = callerOf(request);
    mustDesign(caller);
    response.json(await publish(house, caller, request.params.id, read(Publish, request.body)));
  });
  router.post('/workflows/:id/take-back', async (request, response) => {
    const caller = callerOf(request);
    mustDesign(caller);
    response.json(await takeBack(house, caller, request.params.id, read(TakeBack, request.body)));
  });
  router.put('/workflows/:id/archive', async (request, response) => {
    const caller = callerOf(request);
    mustDesign(caller);
    await archive(house, caller, request.params.id, read(Archive, request.body).archived);
    response.status(204).end();
  });
  router.put('/workflows/:id/permissions', async (request, response) => {
    const caller = callerOf(request);
    mustDesign(caller);
    await setPermissions(house, caller, request.params.id, read(SetPermissions, request.body).permissions);
    response.status(204).end();
  });
  router.get('/workflows/:id/moving', async (request, response) => {
    const caller = callerOf(request);
    mustDesign(caller);
    response.json(await movable(house, caller, request.params.id));
  });
  router.post('/workflows/:id/moving', async (request, response) => {
    const caller = callerOf(request);
    mustDesign(caller);
    response.json(await moveRequests(house, caller, request.params.id, read(Move, request.body)));
  });
  return router;
}
