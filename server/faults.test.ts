/** The house under faults: killed, without its database, without its mail server, shared by two servers. */

import { execFile } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterEach, describe, expect, test } from '@jest/globals';
import type { DeskView, RequestView } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
import { mailConnection } from './connections/mail.ts';
import { openDatabase, tables as t } from './database/index.ts';
import { serve } from './serve.ts';
import {
  allDelivered,
  type Browser,
  eventually,
  freePort,
  houseNow,
  settingsFor,
  signedIn,
  smallHouse,
  startMail,
  startProcess,
  startSmall,
} from './testing/serving.ts';

const run = promisify(execFile);
const endings: (() => unknown)[] = [];
afterEach(async () => {
  for (const end of endings.splice(0).reverse()) await end();
});

const decide = async (browser: Browser, request: string, outcome = 'approve') => {
  const { body } = await browser.get<RequestView>(`/requests/${request}`);
  return browser.command(request, { kind: 'answer', seen: body.version, task: body.tasks[0].id, outcome });
};

describe('mail', () => {
  test('killed between decision and mail: after the restart the mail goes out once', async () => {
    const database = await smallHouse();
    const ports = { smtp: await freePort(), list: await freePort() };
    const env = {
      NP_DATABASE: database,
      NP_PORT: '0',
      NP_DEMO: '1',
      NP_LOG: 'silent',
      NP_SMTP: `smtp://127.0.0.1:${ports.smtp}`,
    };
    const first = await startProcess('server/main.ts', env);
    const base = `http://127.0.0.1:${first.port}`;
    const { body } = await (await signedIn(base, 'ina')).ask('2026-03-09', '2026-03-13');
    expect((await decide(await signedIn(base, 'tom'), body.request)).status).toBe(200);
    first.child.kill('SIGKILL');
    const mail = await startMail(ports);
    endings.push(mail.stop);
    const second = await startProcess('server/main.ts', env);
    endings.push(() => second.child.kill('SIGKILL'));
    await eventually(async () => (await mail.mails()).length >= 2);
    await allDelivered(database);
    const subjects = (await mail.mails()).map(m => m.subject).sort();
    expect(subjects).toEqual(['Approved: 5 days', 'For you to decide: Ina Okell, Annual leave, Mon 9 to Fri 13 March']);
  });

  test('a mail that is sent twice under one key is kept once', async () => {
    const mail = await startMail();
    endings.push(mail.stop);
    const connection = mailConnection(mail.smtp, { name: 'North Pebble', address: 'north-pebble@selkie.example' });
    endings.push(connection.close);
    const letter = {
      key: 'R-1:9:0:ina',
      to: { name: 'Ina Okell', mail: 'ina@selkie.example' },
      subject: 'Once',
      text: 'a',
      at: houseNow,
    };
    await connection.send(letter);
    await connection.send(letter);
    await connection.send({ ...letter, key: 'R-1:10:0:ina', subject: 'Another' });
    expect((await mail.mails()).map(m => m.subject)).toEqual(['Another', 'Once']);
  });

  test('with no mail server the decision stands, the mail waits, and goes out when there is one', async () => {
    const ports = { smtp: await freePort(), list: await freePort() };
    const small = await startSmall({ NP_SMTP: `smtp://127.0.0.1:${ports.smtp}` });
    endings.push(small.stop);
    const { body } = await (await signedIn(small.base, 'ina')).ask('2026-03-09', '2026-03-10');
    expect(body.request).toBeTruthy();
    await eventually(
      async () => (await small.db.select().from(t.effects).where(eq(t.effects.state, 'waiting')))[0].attempts > 0,
    );
    const mail = await startMail(ports);
    endings.push(mail.stop);
    // How long it pauses between tries is no matter here.
    await small.db.update(t.effects).set({ nextTry: 0 }).where(eq(t.effects.state, 'waiting'));
    await eventually(async () => (await mail.mails()).length === 1);
  });
});

describe('timers', () => {
  test('two servers share the timers: reminders and limits come once, at their own time', async () => {
    const database = await smallHouse();
    const one = await serve(settingsFor(database));
    const two = await serve(settingsFor(database));
    endings.push(one.stop, two.stop);
    const base = `http://127.0.0.1:${one.port}`;
    const ina = await signedIn(base, 'ina');
    const ids: string[] = [];
    for (const [from, to] of [
      ['2026-03-02', '2026-03-04'],
      ['2026-03-16', '2026-03-18'],
      ['2026-04-13', '2026-04-15'],
    ]) {
      ids.push((await ina.ask(from, to)).body.request);
    }
    const wren = await signedIn(base, 'kay');
    expect((await ina.call('POST', '/clock', { days: 1, hours: 0 })).status).toBe(403);
    expect((await wren.call('POST', '/clock', { days: 0, hours: 0 })).status).toBe(400);
    expect((await wren.call('POST', '/clock', { days: 4, hours: 0 })).status).toBe(200);
    await eventually(async () =>
      (await one.house.db.select().from(t.timers)).every(timer => timer.at > '2026-02-06T10:00:00Z'),
    );
    for (const id of ids) {
      const { body } = await wren.get<RequestView>(`/requests/${id}`);
      const happened = body.trail.filter(l => /reminder|limit passed/.test(l.text)).map(l => [l.at, l.text]);
      expect(happened).toEqual([
        ['2026-02-03T17:00:00Z', 'sent a reminder'],
        ['2026-02-04T17:00:00Z', 'the limit passed; passed to Dora Quill'],
        ['2026-02-05T17:00:00Z', 'sent a reminder'],
      ]);
      expect(body.tasks).toMatchObject([{ holder: 'dora', due: '2026-02-06T17:00:00Z' }]);
    }
    const dora = await signedIn(base, 'dora');
    expect((await dora.get<DeskView>('/desk')).body.items).toHaveLength(3);
    expect((await (await signedIn(base, 'tom')).get<DeskView>('/desk')).body.items).toHaveLength(0);
  });
});

describe('the database gone for a while', () => {
  test('is said with what to do, nothing is half done, and work goes on when it is back', async () => {
    const folder = join(mkdtempSync(join(tmpdir(), 'np-gone-')), 'db');
    const script = (verb: string) => run(process.execPath, ['scripts/machine/database.mjs', verb, folder]);
    const setUp = `import('./scripts/machine/database.mjs').then(m => m.startDatabase(${JSON.stringify(folder)}, { stays: true }))`;
    await run(process.execPath, ['-e', setUp]);
    endings.push(async () => {
      await script('stop');
      rmSync(folder, { recursive: true, force: true });
    });
    const database = await smallHouse(readFileSync(join(folder, 'address'), 'utf8'));
    const serving = await serve(settingsFor(database));
    endings.push(serving.stop);
    const base = `http://127.0.0.1:${serving.port}`;
    const ina = await signedIn(base, 'ina');
    await script('stop');
    const gone = await ina.ask('2026-03-09', '2026-03-13');
    expect(gone).toMatchObject({
      status: 503,
      problem: { code: 'database away', detail: expect.stringContaining('What you typed is kept') },
    });
    expect((await ina.call('GET', '/health')).status).toBe(503);
    await script('start');
    await eventually(async () => (await ina.call('GET', '/health')).status === 200);
    expect((await ina.ask('2026-03-09', '2026-03-13')).status).toBe(201);
    const db = openDatabase(database, 1);
    expect(await db.select().from(t.requests)).toHaveLength(1);
    await db.pool.end();
  });
});

describe('processes that share a port', () => {
  const isAlive = (pid: number) => {
    try {
      process.kill(pid, 0);
      return true;
    } catch {
      return false;
    }
  };

  test('one that dies is replaced while the others answer, and all of them end together', async () => {
    const database = await smallHouse();
    const env = { NP_DATABASE: database, NP_PORT: '0', NP_DEMO: '1', NP_LOG: 'silent', NP_PROCESSES: '2' };
    const { child, port } = await startProcess('server/main.ts', env);
    endings.push(() => child.kill('SIGKILL'));
    const pid = child.pid ?? 0;
    const workers = () =>
      readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').filter(Boolean).map(Number);
    const base = `http://127.0.0.1:${port}`;
    const ina = await signedIn(base, 'ina');
    const before = workers();
    expect(before).toHaveLength(2);
    process.kill(before[0], 'SIGKILL');
    await eventually(async () => workers().length === 2 && !workers().includes(before[0]));
    // The browser knows nothing of it: it asks again where nobody answered, under the same id.
    const id = randomUUID();
    await eventually(async () => (await ina.ask('2026-03-09', '2026-03-13', id)).status === 201);
    const all = workers();
    child.kill('SIGTERM');
    await eventually(async () => child.exitCode !== null && !all.some(isAlive));
    expect(child.exitCode).toBe(0);
  });
});
