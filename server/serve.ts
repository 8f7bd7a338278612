/** One server: the application, the timers and the outbox over one database. */
import cluster from 'node:cluster';
import { existsSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { setupAddress } from './accounts/index.ts';
import { createApp } from './app.ts';
import { beginSeals, headsBeside, keepAnchored, keepHeads } from './audit/index.ts';
import { hideConnections } from './connections/index.ts';
import { mailConnection } from './connections/mail.ts';
import { alone, Keys, migrateDatabase, openDatabase, outside } from './database/index.ts';
import { keepCompared } from './differences/index.ts';
import { type House, openHouse } from './house/index.ts';
import { keepReady, keepToldOfAbsence } from './leave/index.ts';
import { keepOwners, keepToldOfReturn } from './leaving/index.ts';
import { Live } from './live/index.ts';
import { openMailServer } from './messages/smtpServer.ts';
import { houseMetrics, portOf, serveMetrics } from './metrics.ts';
import { keepDelivering } from './outbox/index.ts';
import { Proving } from './proving/index.ts';
import { keepRegister } from './register/index.ts';
import { keepReviewed } from './reviews/index.ts';
import type { Settings } from './settings.ts';
import { keepTidy } from './tidy.ts';
import { keepTime } from './timers/index.ts';

/** Beside the server when it is built. */
const besides = fileURLToPath(new URL('./pages', import.meta.url));
const builtPages = existsSync(besides) ? besides : null;

export type Serving = {
  port: number;
  mailPort: number | null;
  metricsPort: number | null;
  house: House;
  /** Where a new house is set up; nothing when somebody looks after it already. */
  setup: string | null;
  stop: () => Promise<void>;
};

export async function serve(settings: Settings): Promise<Serving> {
  const log = pino({ level: settings.NP_LOG });
  const db = openDatabase(settings.NP_DATABASE, undefined, undefined, new Keys(settings.NP_SEAL_KEYS));
  await alone(db, 'made ready', async () => {
    await migrateDatabase(db);
    await beginSeals(db, hideConnections);
  });
  const address = settings.NP_ADDRESS ?? `http://127.0.0.1:${settings.NP_PORT}`;
  const domain = settings.NP_MAIL_DOMAIN ?? new URL(address).hostname;
  const from = { name: settings.NP_MAIL_NAME, address: settings.NP_MAIL_FROM ?? `north-pebble@${domain}` };
  const postman = keepDelivering(() => house, mailConnection(settings.NP_SMTP, from), { lease: settings.NP_LEASE });
  const proving = new Proving();
  const house: House = openHouse({
    proving,
    db,
    log,
    demo: settings.NP_DEMO === '1',
    address,
    domain,
    keepDays: {
      letters: settings.NP_KEEP_DAYS,
      commands: settings.NP_KEEP_COMMANDS_DAYS,
      mails: settings.NP_KEEP_MAILS_DAYS,
    },
    wake: () => outside(() => postman.wake()),
  });
  const stopTimers = keepTime(house);
  const stopTidying = keepTidy(house);
  const stopComparing = keepCompared(house);
  const stopRegister = keepRegister(house);
  const stopReviews = keepReviewed(house);
  const stopTelling = keepToldOfAbsence(house);
  const stopTellingReturn = keepToldOfReturn(house);
  const stopOwners = keepOwners(house);
  const stopMakingReady = keepReady(house);
  const stopAnchoring = keepAnchored(house, settings.NP_ANCHOR_EVERY);
  const stopHeads = keepHeads(house, settings.NP_HEADS ?? headsBeside(settings.NP_SEAL_KEYS), settings.NP_HEADS_EVERY);
  const mailServer =
    settings.NP_SMTP_IN === undefined
      ? null
      : await openMailServer(house, settings.NP_SMTP_IN, settings.NP_SMTP_CHECKED_BY);
  const live = new Live(house);
  const metrics = settings.NP_METRICS_PORT === undefined ? null : houseMetrics(house);
  const app = createApp(house, live, {
    pages: settings.NP_PAGES ?? builtPages,
    mailReceived: settings.NP_MAILROOM,
    directory:
      settings.NP_DIRECTORY && settings.NP_DIRECTORY_TOKEN
        ? { address: settings.NP_DIRECTORY, token: settings.NP_DIRECTORY_TOKEN }
        : null,
    signInTriesPerMinute: settings.NP_SIGN_IN_TRIES,
    proxies: settings.NP_PROXIES,
    watch: metrics?.watch,
  });
  const server: Server = createServer(app);
  // Longer than proxies keep a connection that is not used: else one may be closed as a call comes in on it.
  server.keepAliveTimeout = 75_000;
  await new Promise<void>((done, fail) => {
    server.once('error', fail);
    server.listen(settings.NP_PORT, settings.NP_HOST, done);
  });
  const port = (server.address() as AddressInfo).port;
  // Where several processes share the work, whoever started them tells of all.
  const told =
    metrics && settings.NP_METRICS_PORT !== undefined && !cluster.isWorker
      ? await serveMetrics(settings.NP_METRICS_PORT, settings.NP_HOST, () => metrics.registry.metrics())
      : null;
  return {
    port,
    mailPort: mailServer?.port ?? null,
    metricsPort: told && portOf(told),
    house,
    setup: settings.NP_DEMO === '1' ? null : await setupAddress(db, settings.NP_ADDRESS ?? `http://127.0.0.1:${port}`),
    async stop() {
      told?.close();
      await mailServer?.close();
      live.stop();
      server.closeAllConnections();
      await new Promise(done => server.close(done));
      stopTidying();
      stopComparing();
      stopRegister();
      stopReviews();
      stopTelling();
      stopTellingReturn();
      stopOwners();
      await stopMakingReady();
      await stopAnchoring();
      await stopHeads();
      await stopTimers();
      await postman.stop();
      await proving.stop();
      await house.papers.stop();
      await house.reckoning.stop();
      await db.pool.end();
    },
  };
}
