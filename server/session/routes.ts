/** Sign-in and sign-out, and the middleware that says who is calling. */
import { type Request, type RequestHandler, Router } from 'express';
import { ipKeyGenerator } from 'express-rate-limit';
import { accountRoutes, hashOf, isNewHouse } from '../accounts/index.ts';
import type { House } from '../house/index.ts';
import { ProblemError, send, serving, setCaller, slowDown } from '../http/index.ts';
import { callersByToken, seeAs, sessionView, signIn, signOut, stopSeeing } from './service.ts';

const cookieName = 'np_session';

function tokenOf(header: string | undefined): string | undefined {
  for (const pair of (header ?? '').split(';')) {
    const [name, value] = pair.trim().split('=');
    if (name === cookieName && value) return value;
  }
  return undefined;
}

/** @param isSecure whether people reach us over TLS: then the cookie never goes out in the open */
const cookie = (value: string, maxAge: number, isSecure: boolean): string =>
  `${cookieName}=${value}; HttpOnly; SameSite=Strict; Path=/; Max-Age=${maxAge}${isSecure ? '; Secure' : ''}`;

/** Knows the caller by their cookie; who is not known goes on as nobody. */
export function knowCaller(house: House): RequestHandler {
  const callerOf = callersByToken(house);
  return async (request, _response, next) => {
    const token = tokenOf(request.headers.cookie);
    const caller = token ? await callerOf(token) : null;
    if (token && caller) setCaller(request, caller, () => callerOf(token));
    next();
  };
}

/** Anything that changes something must come from our own pages: other sites cannot set this header. */
export const ownPagesOnly: RequestHandler = (request, response, next) => {
  const reads = request.method === 'GET' || request.method === 'HEAD';
  if (reads || request.headers['x-north-pebble'] === '1') return next();
  send(response, new ProblemError('not allowed', 'This call did not come from North Pebble’s own pages.'));
};

/**
 * Guessing is slowed down in three ways, each counting tries that failed: of one address at one account; of one address
 * at all accounts, which is much, since a whole house may share one; and of all addresses at one account. So nobody who
 * guesses keeps their colleagues out.
 */
function slowGuessing(tries: number): RequestHandler[] {
  const account = (request: Request) => {
    const { mail, card } = (request.body ?? {}) as { mail?: unknown; card?: unknown };
    return String(mail ?? card ?? '')
      .trim()
      .toLowerCase()
      .slice(0, 200);
  };
  const address = (request: Request) => ipKeyGenerator(request.ip ?? '');
  const limiter = (limit: number, keyGenerator: (request: Request) => string) =>
    slowDown(limit, { keyGenerator, skipSuccessfulRequests: true });
  return [
    limiter(tries, request => `${address(request)} ${account(request)}`),
    limiter(tries * 20, address),
    limiter(tries * 5, account),
  ];
}

export function sessionRoutes(house: House, triesPerMinute: number): Router {
  const router = Router();
  // Once somebody looks after the house that is so for good, and is not asked again.
  let isSetUp = false;
  const isNew = async () => {
    if (!isSetUp) isSetUp = !(await isNewHouse(house.db));
    return !isSetUp;
  };
  const slow = slowDown(triesPerMinute * 3);
  router.use(accountRoutes(house, slow, header => hashOf(tokenOf(header) ?? '')));
  const isSecure = house.address.startsWith('https:');
  const at = serving(router);
  at('GET /session', async ({ caller }) => sessionView(house, caller, await isNew()));
  at(
    'POST /session',
    async ({ body, request, response }) => {
      const before = tokenOf(request.headers.cookie);
      const token = await signIn(house, body);
      if (before) await signOut(house, before);
      response.setHeader('Set-Cookie', cookie(token, 14 * 86_400, isSecure));
      return {};
    },
    ...slowGuessing(triesPerMinute),
  );
  at('DELETE /session', async ({ request, response }) => {
    const token = tokenOf(request.headers.cookie);
    if (token) await signOut(house, token);
    response.setHeader('Set-Cookie', cookie('', 0, isSecure));
  });
  at('POST /session/as', async ({ caller, request, body }) =>
    seeAs(house, caller, tokenOf(request.headers.cookie) ?? '', body),
  );
  at('DELETE /session/as', async ({ request }) => {
    await stopSeeing(house, tokenOf(request.headers.cookie) ?? '');
  });
  return router;
}
