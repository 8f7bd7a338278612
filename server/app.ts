/** The HTTP application: the API under /api, the pages beside it. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { constants } from 'node:zlib';
import compression from 'compression';
import express, { type Express, type RequestHandler } from 'express';
import expressStaticGzip from 'express-static-gzip';
import helmet from 'helmet';
import { callLog } from './callLog.ts';
import { clockRoutes } from './clock/index.ts';
import { connectionRoutes } from './connections/index.ts';
import { differenceRoutes } from './differences/index.ts';
import { fileRoutes } from './files/index.ts';
import { firstPasswordRoutes } from './firstPasswords/index.ts';
import { guestRoutes } from './guests/index.ts';
import type { House } from './house/index.ts';
import {
  answerFaults,
  callerOrNobody,
  describeRoutes,
  fewAtOnce,
  notFound,
  ProblemError,
  readBody,
  send,
  slowDown,
} from './http/index.ts';
import { incomingRoutes, scimServer } from './incoming/index.ts';
import { leaveRoutes } from './leave/index.ts';
import { leavingRoutes } from './leaving/index.ts';
import type { Live } from './live/index.ts';
import { mailroomRoutes, type StandIn } from './messages/index.ts';
import { movingBody, movingRoutes } from './moving/index.ts';
import { outsideRoutes } from './outside/index.ts';
import { peopleRoutes } from './people/index.ts';
import { plannerRoutes, readFeed } from './planner/index.ts';
import { recordRoutes } from './records/index.ts';
import { paperRoutes } from './register/index.ts';
import { mustReadFile, requestRoutes } from './requests/index.ts';
import { reviewRoutes } from './reviews/index.ts';
import { knowCaller, ownPagesOnly, sessionRoutes } from './session/index.ts';
import { wishRoutes } from './wishes/index.ts';
import { workflowRoutes } from './workflows/index.ts';

export type AppOptions = {
  /** Folder of the built pages; the API runs without it. */
  pages: string | null;
  mailReceived: string;
  /** The demo’s stand-in for a directory. */
  directory?: StandIn | null;
  signInTriesPerMinute: number;
  /** Proxies before us whose word about a caller’s address counts. */
  proxies: number;
  /** Watches calls, where somebody reads how they go. */
  watch?: RequestHandler | undefined;
};

const isOfApi = (path: string): boolean => path === '/api' || path.startsWith('/api/');

/** What the API answers is data: never shown as a page, never kept, never taken for anything else than it says. */
const neverAPage: RequestHandler = (_request, response, next) => {
  response.setHeader('Content-Security-Policy', "default-src 'none'; frame-ancestors 'none'");
  response.setHeader('X-Content-Type-Options', 'nosniff');
  response.setHeader('Cross-Origin-Resource-Policy', 'same-origin');
  response.setHeader('Referrer-Policy', 'no-referrer');
  response.setHeader('Cache-Control', 'no-store');
  next();
};

/** How long delivery or timers may be silent before the server is not ready, in milliseconds. */
const longestSilence = 60_000;

const yearInSeconds = 31_536_000;

export function createApp(house: House, live: Live, options: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  // Nothing of the API is kept by anybody, so nobody asks whether what they have is what we have.
  app.disable('etag');
  app.set('trust proxy', options.proxies);
  const isSecure = house.address.startsWith('https:');
  const forPages = helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        'default-src': ["'self'"],
        'script-src': ["'self'"],
        // The component library writes its rules into style elements.
        'style-src': ["'self'", "'unsafe-inline'"],
        'img-src': ["'self'", 'data:'],
        'worker-src': ["'self'"],
        'object-src': ["'none'"],
        'frame-ancestors': ["'none'"],
        'base-uri': ["'none'"],
        'form-action': ["'self'"],
      },
    },
    strictTransportSecurity: isSecure && { maxAge: yearInSeconds, includeSubDomains: false },
  });
  app.use((request, response, next) => (isOfApi(request.path) ? next() : forPages(request, response, next)));
  // Where nobody reads them, calls are not written down one by one; faults are.
  if (house.log.isLevelEnabled('info')) {
    app.use(callLog(house.log));
  }
  // A stream that is told bit by bit must not wait to be worth compressing; what a command answers never is.
  const compress = compression({
    filter: (request, response) => request.path !== '/api/live' && compression.filter(request, response),
  });
  // Pages are fetched over slow lines more often than they are asked for, so more work goes into making them small.
  const compressPages = compression({ brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: 8 } } });
  app.use((request, response, next) => {
    if (request.method !== 'GET') return next();
    return (isOfApi(request.path) ? compress : compressPages)(request, response, next);
  });

  app.get('/api/health', async (_request, response) => {
    await house.db.execute('select 1');
    response.json({ ok: true });
  });
  // Alive is not ready: what delivers and keeps time must have beaten lately too.
  app.get('/api/ready', async (_request, response) => {
    await house.db.execute('select 1');
    const late = [...house.beats].filter(([, at]) => Date.now() - at > longestSilence);
    if (late.length > 0) response.status(503).json({ ready: false, late: late.map(([what]) => what) });
    else response.json({ ready: true });
  });
  // Directories tell of people by a standard of their own, with a token instead of a session.
  app.use('/scim/v2', slowDown(options.signInTriesPerMinute * 60), scimServer(house));
  // Calendars of other programs come with an address and nothing else.
  app.use('/feeds', slowDown(options.signInTriesPerMinute * 12), readFeed(house));
  const api = express.Router();
  if (options.watch) api.use(options.watch);
  api.use(neverAPage);
  if (isSecure) {
    api.use((_request, response, next) => {
      response.setHeader('Strict-Transport-Security', `max-age=${yearInSeconds}`);
      next();
    });
  }
  api.use(ownPagesOnly);
  api.use(knowCaller(house));
  // Whoever is not known sends little, and not often; counted before anything of it is read.
  api.use(slowDown(options.signInTriesPerMinute * 30, { skip: request => callerOrNobody(request) !== null }));
  api.use(fewAtOnce());
  api.use('/moving', movingBody);
  api.use((request, response, next) =>
    request.path.startsWith('/moving') && request.body !== undefined ? next() : readBody(request, response, next),
  );
  api.use(describeRoutes());
  api.use(sessionRoutes(house, options.signInTriesPerMinute));
  api.use(live.routes());
  api.use(requestRoutes(house));
  api.use(fileRoutes(house, mustReadFile));
  api.use(paperRoutes(house));
  api.use(recordRoutes(house));
  api.use(movingRoutes(house));
  api.use(incomingRoutes(house));
  api.use(leavingRoutes(house));
  api.use(reviewRoutes(house));
  api.use(firstPasswordRoutes(house, options.signInTriesPerMinute));
  api.use(guestRoutes(house, options.signInTriesPerMinute));
  api.use(outsideRoutes(house, options.signInTriesPerMinute));
  api.use(workflowRoutes(house));
  api.use(peopleRoutes(house));
  api.use(leaveRoutes(house));
  api.use(wishRoutes(house));
  api.use(plannerRoutes(house));
  api.use(clockRoutes(house));
  api.use(connectionRoutes(house));
  api.use(differenceRoutes(house));
  if (house.demo) api.use(mailroomRoutes(house, options.mailReceived, options.directory ?? null));
  api.use((_request, response) => send(response, notFound()));
  app.use('/api', api);

  const { pages } = options;
  if (pages && existsSync(join(pages, 'index.html'))) {
    // What is in this folder is called by what it holds, so that it never changes; it was made small when it was built.
    const assets = expressStaticGzip(join(pages, 'assets'), {
      index: false,
      enableBrotli: true,
      orderPreference: ['br', 'gz'],
      serveStatic: { maxAge: '1y', immutable: true, fallthrough: true },
    });
    app.use('/assets', assets);
    app.use(express.static(pages, { index: false, maxAge: '1h', immutable: false }));
    app.get('/apply', (_request, response) => response.sendFile(join(pages, 'apply.html')));
    app.get('/mine', (_request, response) => response.sendFile(join(pages, 'mine.html')));
    app.get(/.*/, (_request, response) => response.sendFile(join(pages, 'index.html')));
  } else {
    app.use((_request, response) => send(response, new ProblemError('not found', 'The pages are not built.')));
  }
  app.use(answerFaults(house.log));
  return app;
}
