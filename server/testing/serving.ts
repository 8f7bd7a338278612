/** A server over a schema of its own, with the small house of the core's tests, and browsers that talk to it. */
import { type ChildProcess, execFile, spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { hash } from '@node-rs/argon2';
import type { Problem } from '@north-pebble/contract';
import type { PersonId } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import type { Command, Definition } from '@north-pebble/core/workflow';
import { ne } from 'drizzle-orm';
import { annual, annualLeave, directory, sick, standard } from '../../core/testing/house.ts';
import {
  type Database,
  inLedger,
  inTransaction,
  migrateDatabase,
  openDatabase,
  tables as t,
} from '../database/index.ts';
import { forgetDefinitions, insertMany, raiseDirectoryVersion, storeDirectory } from '../house/index.ts';
import { type Serving, serve } from '../serve.ts';
import { readSettings } from '../settings.ts';
import { mustAgree } from './answers.ts';
import { copyOf } from './model.ts';

export const houseNow = '2026-02-02T10:00:00Z';

const rights: Record<string, ('designer' | 'administrator' | 'auditor')[]> = {
  kay: ['designer'],
  dora: ['administrator'],
  per: ['auditor'],
};

/** A schema with the small house in it; the address of the schema. */
export async function smallHouse(server = process.env.NP_DATABASE ?? ''): Promise<string> {
  const url = await copyOf(server, 'small_house', fillSmallHouse);
  forgetDefinitions();
  return url;
}

async function fillSmallHouse(db: Database): Promise<void> {
  await migrateDatabase(db);
  await storeDirectory(db, directory);
  await insertMany(
    db,
    t.leaveTypes,
    [annual, sick].map((rules, position) => ({ id: rules.id, position, rules })),
  );
  await insertMany(db, t.leavePlans, [standard]);
  const passwordHash = await hash('low-tide', { timeCost: 1, memoryCost: 1024 });
  await insertMany(
    db,
    t.accounts,
    directory.people.map((p, card) => ({
      person: p.id,
      passwordHash,
      rights: rights[p.id] ?? [],
      card,
      cardWords: '',
    })),
  );
  await insertMany(db, t.workflows, [{ id: 'annual', position: 0, liveVersion: 1, draft: null, draftRevision: 0 }]);
  await insertMany(db, t.workflowVersions, [
    {
      workflow: 'annual',
      version: 1,
      definition: annualLeave,
      publishedAt: houseNow,
      publishedBy: 'kay',
      comment: 'First.',
    },
  ]);
  await db.insert(t.house).values({ id: 1, now: houseNow, directoryVersion: 1 });
}

/** Puts so many more people on file, for what is worked out otherwise for many. @param joined of the nth of them */
export async function putMorePeople(db: Database, n: number, joined?: (n: number) => CivilDate): Promise<void> {
  const [one] = directory.people;
  const people = Array.from({ length: n }, (_, i) => ({
    ...one,
    ...{ id: `more-${i}` as PersonId, name: `Marlo Keene ${i}`, mail: `more-${i}@selkie.example` },
    joined: joined ? joined(i) : one.joined,
  }));
  const none = { posts: [], holdings: [], covers: [], roles: [], places: [], departments: [] };
  await storeDirectory(db, { people, ...none, patterns: [], calendars: [] });
  await raiseDirectoryVersion(db);
}

/** Puts a workflow live beside the sheet. */
export async function putLive(db: Database, id: string, definition: Definition): Promise<void> {
  await inTransaction(db, async tx => {
    await tx.insert(t.workflows).values({ id, position: 9, liveVersion: 1, draft: null, draftRevision: 0 });
    await tx
      .insert(t.workflowVersions)
      .values({ workflow: id, version: 1, definition, publishedAt: houseNow, publishedBy: 'kay', comment: '' });
    await inLedger(tx, { what: 'workflow', keys: [{ id }] }, { what: 'version', keys: [{ workflow: id, version: 1 }] });
  });
}

const lowestPort = 11_000;
const highestPort = 32_000;

/** A port that is free, below those of connections going out, so that nobody takes it before it is listened on. */
export async function freePort(): Promise<number> {
  for (;;) {
    const port = lowestPort + Math.floor(Math.random() * (highestPort - lowestPort));
    const isFree = await new Promise<boolean>(done => {
      const server = createServer();
      server.once('error', () => done(false));
      server.listen(port, '127.0.0.1', () => server.close(() => done(true)));
    });
    if (isFree) return port;
  }
}

export const settingsFor = (database: string, more: Record<string, string> = {}) =>
  readSettings({
    NP_DATABASE: database,
    NP_PORT: '0',
    NP_DEMO: '1',
    NP_LOG: 'silent',
    NP_SMTP: 'smtp://127.0.0.1:1',
    NP_MAIL_DOMAIN: 'selkie.example',
    NP_SEAL_KEYS: process.env.NP_SEAL_KEYS ?? 'seal.keys',
    // The ends of the chains of this house alone.
    NP_HEADS: join(mkdtempSync(join(tmpdir(), 'np-heads-')), 'heads'),
    NP_SIGN_IN_TRIES: '1000',
    ...more,
  });

export type Small = { serving: Serving; base: string; db: Database; stop: () => Promise<void> };

export async function startSmall(more: Record<string, string> = {}): Promise<Small> {
  const serving = await serve(settingsFor(await smallHouse(), more));
  return { serving, base: `http://127.0.0.1:${serving.port}`, db: serving.house.db, stop: serving.stop };
}

export type Answer<T> = { status: number; body: T; problem: Problem };

/** One person's browser: it keeps their cookie. */
export class Browser {
  readonly base: string;
  cookie = '';
  constructor(base: string) {
    this.base = base;
  }

  /** A cookie takes the place of the one of its name. */
  #keep(pair: string): void {
    const name = pair.slice(0, pair.indexOf('=') + 1);
    const others = this.cookie.split('; ').filter(one => one !== '' && !one.startsWith(name));
    this.cookie = [...others, pair].join('; ');
  }

  async call<T = unknown>(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer<T>> {
    const response = await fetch(`${this.base}/api${path}`, {
      method,
      headers: {
        'X-North-Pebble': '1',
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
        ...(this.cookie ? { Cookie: this.cookie } : {}),
        ...headers,
      },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    for (const set of response.headers.getSetCookie()) this.#keep(set.split(';')[0]);
    const text = await response.text();
    const read = text ? (JSON.parse(text) as unknown) : undefined;
    mustAgree(method, path, response.status, read);
    return { status: response.status, body: read as T, problem: read as Problem };
  }

  get<T>(path: string): Promise<Answer<T>> {
    return this.call<T>('GET', path);
  }

  ask(from: string, to: string, id = randomUUID(), workflow = 'annual') {
    const dates = { from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } };
    const body = { id, workflow, answers: { kind: 'annual', dates } };
    return this.call<{ request: string; version: number }>('POST', '/requests', body);
  }

  command(request: string, command: Command, id = randomUUID()) {
    return this.call<{ request: string; version: number }>('POST', `/requests/${request}/commands`, { id, command });
  }
}

export async function signedIn(base: string, person: string): Promise<Browser> {
  const browser = new Browser(base);
  const { status } = await browser.call('POST', '/session', { card: person });
  if (status !== 201) throw new Error(`${person} could not sign in: ${status}`);
  return browser;
}

const compiled = new Map<string, Promise<string>>();
/** The program of a file as it was compiled for all tests of this run. */
function compiledIn(folder: string, file: string): Promise<string> {
  const known =
    compiled.get(file) ??
    promisify(execFile)(process.execPath, ['scripts/machine/compiled.mjs', file, folder]).then(({ stdout }) => stdout);
  compiled.set(file, known);
  return known;
}

/** A process of ours, once it has said that it listens. */
export async function startProcess(
  file: string,
  env: Record<string, string>,
): Promise<{ child: ChildProcess; port: number }> {
  const { NP_PROGRAMS: programs } = process.env;
  const args = programs ? [await compiledIn(programs, file)] : ['--import', 'tsx', file];
  const child = spawn(process.execPath, args, {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise((done, fail) => {
    let text = '';
    child.stdout?.on('data', chunk => {
      text += chunk;
      const line = text.split('\n').find(l => l.startsWith('{"listening"'));
      if (line) done({ child, port: Number((JSON.parse(line) as { listening: number }).listening) });
    });
    child.once('exit', code => fail(new Error(`${file} ended with ${code}`)));
  });
}

export type MailStandIn = {
  smtp: string;
  list: string;
  mails: () => Promise<{ id: string; to: string; subject: string; text: string; times: number }[]>;
  stop: () => void;
};

export async function startMail(ports?: { smtp: number; list: number }, slow = 0): Promise<MailStandIn> {
  const smtp = ports?.smtp ?? (await freePort());
  const list = ports?.list ?? (await freePort());
  const { child } = await startProcess('standins/mail/main.ts', {
    NP_SMTP_PORT: String(smtp),
    NP_MAILS_PORT: String(list),
    NP_MAIL_SLOW: String(slow),
    NP_MAILS_FILE: join(mkdtempSync(join(tmpdir(), 'np-mail-')), 'mails.jsonl'),
  });
  const address = `http://127.0.0.1:${list}/mails`;
  return {
    smtp: `smtp://127.0.0.1:${smtp}`,
    list: address,
    mails: async () =>
      (await (await fetch(`${address}?most=100000`)).json()) as {
        id: string;
        to: string;
        subject: string;
        text: string;
        times: number;
      }[],
    stop: () => void child.kill('SIGKILL'),
  };
}

/** Waits until everything that must go out has gone out, and every server has written down that it has. */
export async function allDelivered(database: string, seconds = 60): Promise<void> {
  const db = openDatabase(database, 1);
  try {
    await eventually(async () => (await db.$count(t.effects, ne(t.effects.state, 'delivered'))) === 0, seconds);
  } finally {
    await db.pool.end();
  }
}

/** Waits until something holds; after so many seconds, far more than it takes where all else runs beside it, it does not. */
export async function eventually(holds: () => Promise<boolean>, seconds = 90): Promise<void> {
  const until = Date.now() + seconds * 1000;
  while (Date.now() < until) {
    if (await holds().catch(() => false)) return;
    await new Promise(done => setTimeout(done, 100));
  }
  throw new Error(`it did not come about within ${seconds} seconds`);
}
