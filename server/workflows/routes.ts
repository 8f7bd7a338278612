/** The shelf and the sheet. */
import { type Definition, type FilledLetter, pathText, readDefinition } from '@north-pebble/core/workflow';
import { Router } from 'express';
import type { House } from '../house/index.ts';
import { ProblemError, serving } from '../http/index.ts';
import { BrokenPaper } from '../papers/index.ts';
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
  versionOf,
} from './service.ts';
import { took } from './took.ts';

/** The definition's own reader says what is wrong in words. */
function definitionFrom(given: unknown): Definition {
  const found = readDefinition(given);
  if (found.ok) return found.definition;
  const faults = found.faults.map(f => ({ field: f.path.join('.'), message: f.message }));
  const [first] = found.faults;
  throw new ProblemError('bad input', `${pathText(first.path)}: ${first.message}`, faults);
}

export function workflowRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  at('POST /letters/look', async ({ body, response }) => {
    try {
      const bytes = await house.papers.letter(body as FilledLetter);
      response.type('application/pdf').send(Buffer.from(bytes));
    } catch (fault) {
      if (!(fault instanceof BrokenPaper)) throw fault;
      throw new ProblemError('refused', `This letter cannot be set on pages: ${fault.message}.`);
    }
  });
  at('GET /workflows', ({ caller }) => shelf(house, caller));
  at('POST /workflows', ({ caller, body }) => beginWorkflow(house, caller, definitionFrom(body.definition)));
  at('GET /surroundings', () => surroundings(house));
  at('GET /rehearsal/:person', ({ params }) => rehearsalView(house, params.person));
  at('GET /workflows/:id', ({ caller, params }) => sheet(house, caller, params.id));
  at('GET /workflows/:id/took', ({ caller, params }) => took(house, caller, params.id));
  at('GET /workflows/:id/versions/:version', ({ caller, params }) =>
    versionOf(house, caller, params.id, params.version),
  );
  at('GET /workflows/:id/draft/mark', ({ caller, params }) => draftMark(house, caller, params.id));
  at('PUT /workflows/:id/draft', ({ caller, params, body }) =>
    saveDraft(house, caller, params.id, { revision: body.revision, definition: definitionFrom(body.definition) }),
  );
  at('DELETE /workflows/:id/draft', ({ caller, params }) => dropDraft(house, caller, params.id));
  at('POST /workflows/:id/publish', ({ caller, params, body }) => publish(house, caller, params.id, body));
  at('PUT /workflows/:id/archive', ({ caller, params, body }) => archive(house, caller, params.id, body.archived));
  at('PUT /workflows/:id/permissions', ({ caller, params, body }) =>
    setPermissions(house, caller, params.id, body.permissions),
  );
  at('GET /workflows/:id/moving', ({ caller, params }) => movable(house, caller, params.id));
  at('POST /workflows/:id/moving', ({ caller, params, body }) => moveRequests(house, caller, params.id, body));
  return router;
}
