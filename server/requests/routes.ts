/** Asking, deciding, the desk, and one's own requests. */
import type { Answers } from '@north-pebble/core/form';
import { Router } from 'express';
import { type House, keepExport } from '../house/index.ts';
import { mustHave, ProblemError, serving, writeCsv, writeXlsx } from '../http/index.ts';
import { bookLeave } from './commands/booking.ts';
import { command, giveAgain, preview, submit } from './commands/commands.ts';
import { dropBegun, keepBegun } from './drafts/begun.ts';
import { keepUnsent } from './drafts/unsent.ts';
import { comingTimers } from './views/coming.ts';
import { desk } from './views/desk.ts';
import { holdsView } from './views/holds.ts';
import { look } from './views/looking.ts';
import { allPlans, tryDate } from './views/plans.ts';
import { exported, findRequests, headings } from './views/search.ts';
import { deleteSet, savedSets, saveSet } from './views/sets.ts';
import { helpEffect, helpTimer, stuckRequests } from './views/stuck.ts';
import { askable, askView, ownRequests, requestView } from './views/views.ts';
import { volumeView } from './views/volume.ts';
import { listShape } from './views/worklists.ts';

export function requestRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  at('GET /desk', ({ caller }) => desk(house, caller));
  at('GET /askable', ({ caller }) => askable(house, caller));
  at('GET /askable/:workflow', ({ caller, params }) => askView(house, caller, params.workflow));
  at('PUT /askable/:workflow/draft', ({ caller, params, body }) =>
    keepBegun(house, caller, params.workflow, body.answers as Answers),
  );
  at('DELETE /askable/:workflow/draft', ({ caller, params }) => dropBegun(house, caller, params.workflow));
  at('POST /preview', ({ caller, body }) => preview(house, caller, body));
  at('GET /requests', ({ caller }) => ownRequests(house, caller));
  at('POST /requests', ({ caller, body }) => submit(house, caller, body));
  at('POST /leave', ({ caller, body }) => bookLeave(house, caller, body));
  at('GET /requests/find', ({ caller, query }) => findRequests(house, caller, query));
  at('GET /requests/volume', ({ caller, query }) => volumeView(house, caller, query));
  at('GET /requests/shape/:workflow', ({ caller, params }) => listShape(house, caller, params.workflow));
  at('GET /requests/export.:format', async ({ caller, params: { format }, query, response }) => {
    if (query.whose === 'all') mustHave(caller, 'read every record');
    const rows = exported(house, caller, query);
    await keepExport(house, caller, 'Requests', query);
    response.setHeader('Content-Disposition', `attachment; filename="requests.${format}"`);
    response.type(format);
    await (format === 'csv' ? writeCsv : writeXlsx)(response, headings(query), rows);
  });
  at('GET /requests/stuck', ({ caller }) => stuckRequests(house, caller));
  at('GET /requests/coming', ({ caller }) => comingTimers(house, caller));
  at('POST /effects/:id', ({ caller, params, body }) => helpEffect(house, caller, params.id, body.how));
  at('POST /timers/:key/again', ({ caller, params }) => helpTimer(house, caller, params.key));
  at('POST /requests/:request/fault/again', ({ params }) => giveAgain(house, params.request as string));
  at('GET /sets', ({ caller }) => savedSets(house, caller));
  at('POST /sets', async ({ caller, body }) => {
    await saveSet(house, caller, body);
    return savedSets(house, caller);
  });
  at('DELETE /sets/:id', ({ caller, params }) => deleteSet(house, caller, params.id));
  at('GET /plans', ({ caller, query }) => allPlans(house, caller, query));
  at('GET /requests/:id/date', ({ caller, params, query }) => tryDate(house, caller, params.id, query.to));
  at('GET /requests/:id/holds', ({ caller, params }) => holdsView(house, caller, params.id));
  at('GET /requests/:id', ({ caller, params }) => requestView(house, caller, params.id));
  at('POST /requests/:id/commands', ({ caller, params, body }) => {
    if (body.command.kind === 'look') throw new ProblemError('bad input', 'A look is sent to /looks.');
    return command(house, caller, params.id, body);
  });
  at('POST /requests/:id/looks', ({ caller, params, body }) => look(house, caller, params.id, body));
  at('PUT /requests/:id/unsent/:what', ({ caller, params, body }) =>
    keepUnsent(house, caller, params.id, params.what, body),
  );
  return router;
}
