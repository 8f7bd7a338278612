/** Sign-in and sign-out, and the middleware that says who is calling. */
import { SignIn } from '@north-pebble/contract';
import { type RequestHandler, Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import type { House } from '../house.ts';
import { callerOrNobody, ProblemError, read, send, setCaller } from '../http/index.ts';
import { callersByToken, sessionView, signIn, signOut } from './service.ts';

const cookieName = 'np_session';

function tokenOf(header: string | undefined): string | undefined {
  for (const pair of (header ?? '').split(';')) {
    const [name, value] = pair.trim().split('=');
    if (name === cookieName && value) return value;
  }
  return undefined;
}

const cookie = (value: string, maxAge: number): string =>
  `${cookieName}=${value}; HttpOnly; SameSite=Strict; Path=/; Max-Age=${maxAge}`;

/** Knows the caller by their cookie; who is not known goes on as nobody. */
export function knowCaller(house: House): RequestHandler {
  const callerOf = callersByToken(house);
  return async (request, _response, next) => {
    const token = tokenOf(request.headers.cookie);
    const caller = token ? await callerOf(token) : null;
    if (caller) setCaller(request, caller);
    next();
  };
}

/** Anything that changes something must come from our own pages: other sites cannot set this header. */
export const ownPagesOnly: RequestHandler = (request, response, next) => {
  const reads = request.method === 'GET' || request.method === 'HEAD';
  if (reads || request.headers['x-north-pebble'] === '1') return next();
  send(response, new ProblemError('not allowed', 'This call did not come from North Pebble’s own pages.'));
};

export function sessionRoutes(house: House, triesPerMinute: number): Router {
  const router = Router();
  const slowDown = rateLimit({
    windowMs: 60_000,
    limit: triesPerMinute,
    skipSuccessfulRequests: true,
    handler: (_request, response) =>
      send(response, new ProblemError('too many tries', 'Wait a minute, then try again.')),
  });
  router.get('/session', async (request, response) => {
    response.json(await sessionView(house, callerOrNobody(request)));
  });
  router.post('/session', slowDown, async (request, response) => {
    const before = tokenOf(request.headers.cookie);
    const token = await signIn(house, read(SignIn, request.body));
    if (before) await signOut(house, before);
    response.setHeader('Set-Cookie', cookie(token, 14 * 86_400));
    response.status(201).json({});
  });
  router.delete('/session', async (request, response) => {
    const token = tokenOf(request.headers.cookie);
    if (token) await signOut(house, token);
    response.setHeader('Set-Cookie', cookie('', 0));
    response.status(204).end();
  });
  return router;
}
