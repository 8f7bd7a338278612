/** A first password: asked for by the workflow, mailed as an address alone, shown once, set in the directory, kept nowhere. */
import { randomUUID } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { like } from 'drizzle-orm';
import { halves } from '../../core/testing/house.ts';
import { flow, given } from '../../core/testing/run.ts';
import { directoryApp } from '../../standins/directory/app.ts';
import { tables as t } from '../database/index.ts';
import { Browser, eventually, putLive, type Small, signedIn, startMail, startSmall } from '../testing/serving.ts';

const token = 'a token of some length';
let small: Small;
let server: Server;
let base: string;
let made: ReturnType<typeof directoryApp>;
let mail: Awaited<ReturnType<typeof startMail>>;
beforeAll(async () => {
  mail = await startMail();
  made = directoryApp({ token, folder: mkdtempSync(join(tmpdir(), 'np-scim-')), base: () => base });
  server = made.app.listen(0, '127.0.0.1');
  await new Promise(done => server.once('listening', done));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  small = await startSmall({ NP_SMTP: mail.smtp });
});
afterAll(async () => {
  await small.stop();
  mail.stop();
  server.closeAllConnections();
  server.close();
});
const turn = (switches: object) =>
  fetch(`${base}/switches`, {
    method: 'PUT',
    headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
    body: JSON.stringify(switches),
  });

test('whoever gets an account is written an address, which shows the password once and sets it', async () => {
  const dora = await signedIn(small.base, 'dora');
  const settings = { address: `${base}/scim/v2`, token, inside: true };
  await dora.call('PUT', '/connections/Directory', { kind: 'directory', settings, paused: false });
  const definition = flow({
    verb: 'Provision',
    id: 'account',
    when: null,
    connection: 'Directory',
    action: 'create account',
    values: [
      { name: 'name', formula: 'Remark' },
      { name: 'welcome', formula: '"mika@post.example"' },
    ],
    waits: true,
  });
  await putLive(small.db, 'joining', definition);
  const answers = { ...given, dates: halves('2026-02-09', '2026-02-10'), remark: 'Mika Odegard' };
  const ina = await signedIn(small.base, 'ina');
  const sent = await ina.call('POST', '/requests', { id: randomUUID(), workflow: 'joining', answers });
  expect(sent.status).toBe(201);
  let text = '';
  await eventually(async () => {
    const all = (await (await fetch(`${mail.list}?most=1000`)).json()) as {
      to: string;
      subject: string;
      text: string;
    }[];
    text = all.find(one => one.subject === 'Your account is ready')?.text ?? '';
    return text !== '';
  });
  expect(text).toContain('Your account “mika.odegard” is there.');
  const address = /\/first#([\w-]{43})/.exec(text)?.[1] as string;
  const anybody = new Browser(small.base);
  const open = () => anybody.call<{ account: string; password: string }>('POST', '/first-password', { token: address });
  // A directory that is down uses nothing up.
  await turn({ down: true });
  expect((await open()).status).toBe(422);
  await turn({ down: false });
  const { status, body } = await open();
  expect(status).toBe(200);
  expect(body).toMatchObject({ connection: 'Directory', account: 'mika.odegard' });
  expect(body.password).toMatch(/^[a-zA-Z2-9]{4}(-[a-zA-Z2-9]{4}){3}$/);
  expect(JSON.stringify(made.directory.store.all('User'))).toContain(body.password);
  expect((await open()).problem.detail).toContain('was used already');
  // Neither in a mail nor in a table.
  const kept = [
    await small.db.select().from(t.effects),
    await small.db.select().from(t.events),
    await small.db.select().from(t.requests),
    await small.db.select().from(t.firstPasswords),
  ];
  expect(JSON.stringify(kept)).not.toContain(body.password);
  expect(JSON.stringify(kept)).not.toContain(address);
  expect(text).not.toContain(body.password);
});

test('an account that nobody is to be written of brings no address, nor does one of a guess', async () => {
  expect(await small.db.$count(t.effects, like(t.effects.key, '%:first'))).toBe(1);
  const anybody = new Browser(small.base);
  expect((await anybody.call('POST', '/first-password', { token: 'x'.repeat(43) })).status).toBe(422);
  expect((await anybody.call('POST', '/first-password', { token: 'short' })).status).toBe(400);
});
