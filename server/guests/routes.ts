/** The page of a guest, by their personal link; and guests for those who look after them. */
import { type Request, type Response, Router } from 'express';
import { receive, refuseLarge, sendFile } from '../files/index.ts';
import type { House } from '../house/index.ts';
import { serving, slowDown } from '../http/index.ts';
import { demoAddress, demoGuests } from './demo.ts';
import { newDevice } from './links.ts';
import {
  askForCode,
  askForLink,
  askQuestion,
  type By,
  giveTheCode,
  handIn,
  mustBeTheirFile,
  readPaper,
  reply,
  saveSection,
  see,
  signPaper,
  takeFile,
  withdraw,
  withdrawConsent,
} from './service.ts';
import { guestStandings, previewView } from './views.ts';

const cookieName = 'np_device';
const cookieDays = 200;

function deviceOf(request: Request, response: Response, isSecure: boolean): string {
  for (const pair of (request.headers.cookie ?? '').split(';')) {
    const [name, value] = pair.trim().split('=');
    if (name === cookieName && /^[A-Za-z0-9_-]{20,60}$/.test(value ?? '')) return value;
  }
  const device = newDevice();
  const secure = isSecure ? '; Secure' : '';
  response.setHeader(
    'Set-Cookie',
    `${cookieName}=${device}; HttpOnly; SameSite=Strict; Path=/; Max-Age=${cookieDays * 86_400}${secure}`,
  );
  return device;
}

/** @param triesPerMinute how often one address may try a link that opens nothing, or a code that is wrong */
export function guestRoutes(house: House, triesPerMinute: number): Router {
  const router = Router();
  const at = serving(router);
  const isSecure = house.address.startsWith('https:');
  // Guessing is slowed down: what works is not counted.
  const slow = slowDown(triesPerMinute * 3, {
    skipSuccessfulRequests: true,
    requestWasSuccessful: (_request, response) => ![400, 403, 404].includes(response.statusCode),
  });
  const by = (call: { params: { token: string }; request: Request; response: Response }): By => ({
    token: call.params.token,
    device: deviceOf(call.request, call.response, isSecure),
  });
  at('GET /guest/:token', call => see(house, by(call)), slow);
  at('PUT /guest/:token/sections/:section', c => saveSection(house, by(c), c.params.section, c.body), slow);
  at('POST /guest/:token/sections/:section', c => handIn(house, by(c), c.params.section, c.body.answers), slow);
  at('POST /guest/:token/questions', call => askQuestion(house, by(call), call.body.text), slow);
  at('POST /guest/:token/replies', c => reply(house, by(c), c.body.task, c.body.text), slow);
  at('POST /guest/:token/withdrawal', call => withdraw(house, by(call)), slow);
  at('POST /guest/:token/consents/:field/back', c => withdrawConsent(house, by(c), c.params.field), slow);
  at(
    'POST /guest/:token/files',
    async call => {
      refuseLarge(call.request, call.query.name);
      return receive(call.request, call.response, content => takeFile(house, by(call), call.query.name, content));
    },
    slow,
  );
  at(
    'GET /guest/:token/files/:file',
    async call => {
      const file = await mustBeTheirFile(house, by(call), call.params.file);
      await sendFile(house, call.response, file);
    },
    slow,
  );
  at('GET /guest/:token/papers/:field', call => readPaper(house, by(call), call.params.field), slow);
  at('POST /guest/:token/papers/:field', c => signPaper(house, by(c), c.params.field, c.body), slow);
  at('POST /guest/:token/link', call => askForLink(house, by(call)), slow);
  at('POST /guest/:token/code', call => askForCode(house, by(call)), slow);
  at('POST /guest/:token/device', call => giveTheCode(house, by(call), call.body.code), slow);
  at('GET /demo/guests', () => demoGuests(house));
  at('POST /demo/guests', ({ body, request, response }) =>
    demoAddress(house, body.request, body.step, deviceOf(request, response, isSecure)),
  );
  at('GET /requests/:id/guests', ({ caller, params }) => guestStandings(house, caller, params.id));
  at('GET /requests/:id/guests/:step', c => previewView(house, c.caller, c.params.id, c.params.step));
  return router;
}
