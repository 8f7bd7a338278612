/** Leave over HTTP: statements, its rules, what is let pass, and everybody’s balances. */
import { Router } from 'express';
import { type House, keepExport } from '../house/index.ts';
import { serving } from '../http/index.ts';
import { joiningView, leavingView } from './coming.ts';
import { writeLetters } from './letters.ts';
import { letPass, passesOf, takeBackPass } from './passes.ts';
import { makePayExport, payView, writePay } from './pay.ts';
import { rulesView } from './rules.ts';
import { standingsView, writeStandings } from './standings.ts';
import { statementPdf } from './statementPdf.ts';
import { balances } from './statements.ts';
import { tried } from './trying.ts';
import { closeYears, yearEndView } from './yearEnd.ts';

export function leaveRoutes(house: House): Router {
  const router = Router();
  const at = serving(router);
  at('GET /balances/:person', ({ caller, params: { person } }) =>
    balances(house, caller, person === 'me' ? caller.id : person),
  );
  at('GET /balances/:person/statement.pdf', async ({ caller, params: { person }, query, response }) => {
    const bytes = await statementPdf(house, caller, person === 'me' ? caller.id : person, query.type);
    response.setHeader('Content-Disposition', 'attachment; filename="statement.pdf"');
    response.type('application/pdf').send(Buffer.from(bytes));
  });
  at('POST /balances/:person/try', ({ caller, params: { person }, body }) =>
    tried(house, caller, person === 'me' ? caller.id : person, body),
  );
  at('GET /leave/rules', ({ caller }) => rulesView(house, caller));
  at('GET /leave/passes/:person', ({ caller, params }) => passesOf(house, caller, params.person));
  at('POST /leave/passes', ({ caller, body }) => letPass(house, caller, body));
  at('DELETE /leave/passes/:id', ({ caller, params }) => takeBackPass(house, caller, params.id));
  at('GET /leave/year-end', ({ caller, query }) => yearEndView(house, caller, query));
  at('POST /leave/year-end', ({ caller, body }) => closeYears(house, caller, body));
  at('GET /leave/pay', ({ caller }) => payView(house, caller));
  at('POST /leave/pay', ({ caller, body }) => makePayExport(house, caller, body));
  at('GET /leave/pay/:id/file.csv', async ({ caller, params, response }) => {
    await keepExport(house, caller, 'Leave for pay', params);
    response.setHeader('Content-Disposition', 'attachment; filename="leave-for-pay.csv"');
    response.type('csv');
    await writePay(house, caller, params.id, response);
  });
  at('GET /leave/balances/file.csv', async ({ caller, query, response }) => {
    await keepExport(house, caller, 'Balances', query);
    response.setHeader('Content-Disposition', 'attachment; filename="balances.csv"');
    response.type('csv');
    await writeStandings(house, caller, query, response);
  });
  at('GET /leave/leaving/:person', ({ caller, params, query }) => leavingView(house, caller, params.person, query));
  at('GET /leave/joining', ({ caller, query }) => joiningView(house, caller, query));
  at('POST /leave/letters', ({ caller, body }) => writeLetters(house, caller, body));
  at('GET /leave/balances', ({ caller, query }) => standingsView(house, caller, query));
  return router;
}
