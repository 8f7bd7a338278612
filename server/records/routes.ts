/** People as they are on file, over HTTP. */
import { Router } from 'express';
import { type House, keepExport } from '../house/index.ts';
import { serving } from '../http/index.ts';
import { previewChange, saveChange, takeBack } from './changing.ts';
import { farOf, stopUnderway } from './underway.ts';
import { decidesChoices, decidesView } from './views/deciding.ts';
import { changesView, listsView, measuresView, postsView, rolesView } from './views/kept.ts';
import { linesView } from './views/lines.ts';
import { peopleView, personPage, recordChoices, writePeople } from './views/page.ts';
import { calendarFile, readyHolidays } from './views/readyHolidays.ts';

export function recordRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  at('GET /lines', ({ caller, query }) => linesView(house, caller, query));
  at('GET /records/file.csv', async ({ caller, query, response }) => {
    await keepExport(house, caller, 'People', query);
    response.setHeader('Content-Disposition', 'attachment; filename="people.csv"');
    response.type('csv');
    await writePeople(house, caller, query, response);
  });
  at('GET /records', ({ caller, query }) => peopleView(house, caller, query));
  at('POST /records/preview', ({ caller, body }) => previewChange(house, caller, body.change, body.id));
  at('GET /records/preview/:id', async ({ caller, params }) => farOf(house, caller, params.id));
  at('DELETE /records/preview/:id', async ({ caller, params }) => stopUnderway(house, caller, params.id));
  at('POST /records/changes', ({ caller, body }) => saveChange(house, caller, body));
  at('POST /records/changes/:id/back', ({ caller, params, body }) => takeBack(house, caller, params.id, body.reason));
  at('GET /posts', ({ caller, query }) => postsView(house, caller, query.row));
  at('GET /roles', ({ caller }) => rolesView(house, caller));
  at('GET /measures', ({ caller }) => measuresView(house, caller));
  at('GET /lists', ({ caller }) => listsView(house, caller));
  at('GET /ready-holidays', ({ query }) => readyHolidays(house, query));
  at('GET /calendars/:id/file.ics', async ({ params, response }) => {
    const text = await calendarFile(house, params.id);
    response.setHeader('Content-Disposition', 'attachment; filename="holidays.ics"');
    response.type('text/calendar').send(text);
  });
  at('GET /decides', ({ query }) => decidesView(house, query));
  at('GET /decides/choices', () => decidesChoices(house));
  at('GET /records/choices', ({ caller }) => recordChoices(house, caller));
  at('GET /records/changes', ({ caller }) => changesView(house, caller));
  at('GET /records/:person', ({ caller, params }) => personPage(house, caller, params.person));
  return router;
}
