/** Public addresses over HTTP. */
import { Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import type { House } from '../house/index.ts';
import { ProblemError, send, serving, slowDown } from '../http/index.ts';
import { addressOf, keepAddress } from './addresses.ts';
import { forgettingView } from './forgetting.ts';
import { openPosts } from './openPosts.ts';
import { askedWith, publicForm, sendOutside } from './service.ts';

/** So much is sent in a minute at one public address, whoever sends it; the rest is told to come back. */
const mostAMinute = 1200;

/** @param triesPerMinute how often one address of the net may send something, and how often it may try an address that opens nothing */
export function outsideRoutes(house: House, triesPerMinute: number): Router {
  const router = Router();
  const at = serving(router);
  const slow = slowDown(triesPerMinute * 3, {
    skipSuccessfulRequests: true,
    requestWasSuccessful: (_request, response) => ![400, 403, 404].includes(response.statusCode),
  });
  // Looking at what is asked with other answers costs work, so it is counted also where it works.
  const steady = slowDown(triesPerMinute * 12);
  const sending = slowDown(triesPerMinute * 2);
  const flood = rateLimit({
    windowMs: 60_000,
    limit: mostAMinute,
    keyGenerator: request => String(request.params.token),
    standardHeaders: true,
    legacyHeaders: false,
    handler: (_request, response) =>
      send(
        response,
        new ProblemError('too many tries', 'Very much is sent here at the moment. Wait a minute, then send it again.'),
      ),
  });
  at('GET /open-posts', () => openPosts(house));
  at('GET /public/:token', call => publicForm(house, call.params.token), slow);
  at('POST /public/:token/asked', c => askedWith(house, c.params.token, c.body.answers), steady);
  at('POST /public/:token', c => sendOutside(house, c.params.token, c.body), sending, flood);
  at('GET /workflows/:id/public-address', ({ caller, params }) => addressOf(house, caller, params.id));
  at('PUT /workflows/:id/public-address', c => keepAddress(house, c.caller, c.params.id, c.body));
  at('GET /forgetting', ({ caller }) => forgettingView(house, caller));
  return router;
}
