/** What connections are asked to do, from the command that asks to the answer on the request. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { ConnectionsView, FeedMade, PlannerRows, RequestView, StuckRow } from '@north-pebble/contract';
import type { Command } from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import ICAL from 'ical.js';
import { contextFor, date, halves, instant } from '../../core/testing/house.ts';
import { decide, flow, given, who } from '../../core/testing/run.ts';
import { inTransaction, tables as t } from '../database/index.ts';
import { carryOutInside } from '../requests/effects.ts';
import { Browser, eventually, putLive, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { Target } from '../testing/target.ts';
import { askReady } from './index.ts';

let small: Small;
let target: Target;
let address: string;
let dora: Browser;
let kay: Browser;
let ina: Browser;

beforeAll(async () => {
  small = await startSmall();
  target = new Target();
  address = await target.listen();
  [dora, kay, ina] = await Promise.all(['dora', 'kay', 'ina'].map(who => signedIn(small.base, who)));
});
afterAll(async () => {
  await target.close();
  await small.stop();
});
beforeEach(async () => {
  target.received.length = 0;
  target.reply = () => ({ status: 200, body: {} });
  await small.db.delete(t.effects);
});

const settings = () => ({ kind: 'http', settings: { address, secret: target.secret, inside: true }, paused: false });
const connect = (name = 'Directory', more: object = {}) =>
  dora.call<ConnectionsView>('PUT', `/connections/${encodeURIComponent(name)}`, { ...settings(), ...more });

const account = (more: object = {}) => ({
  verb: 'Provision',
  id: 'account',
  when: null,
  connection: 'Directory',
  action: 'create account',
  values: [{ name: 'name', formula: 'Remark' }],
  waits: true,
  fills: [{ from: 'account', field: 'remark' }],
  ...more,
});
const tell = { verb: 'Tell', id: 'tell', when: null, to: [who({ kind: 'manager', levels: 1 })], message: 'yes' };

/** A workflow put live beside the sheet, and a request in it. */
async function asked(...steps: unknown[]): Promise<string> {
  const id = `w-${randomUUID().slice(0, 8)}`;
  const definition = flow(...steps);
  await putLive(small.db, id, definition);
  const answers = { ...given, dates: halves('2026-02-09', '2026-02-10'), remark: 'ina' };
  const sent = await ina.call<{ request: string }>('POST', '/requests', { id: randomUUID(), workflow: id, answers });
  if (sent.status !== 201) throw new Error(JSON.stringify(sent.problem));
  return sent.body.request;
}
const view = async (request: string) => (await kay.get<RequestView>(`/requests/${request}`)).body;
const help = async (request: string, command: object) =>
  kay.command(request, { seen: (await view(request)).version, ...command } as Command);
const rowOf = async (request: string) =>
  (await small.db.select().from(t.effects).where(eq(t.effects.request, request))).find(
    row => row.connection === 'Directory' && row.undoes === null,
  );
const hurry = () => small.db.update(t.effects).set({ nextTry: 0 }).where(eq(t.effects.connection, 'Directory'));

describe('a signed call', () => {
  test('goes out after the command, signed, with a key; what it gives back fills fields and lets the request go on', async () => {
    await connect();
    target.reply = () => ({ status: 201, body: { account: 'ina.okell' } });
    const request = await asked(account(), tell);
    await eventually(async () => (await view(request)).status === 'closed');
    expect(target.received).toHaveLength(1);
    expect(target.received[0]).toMatchObject({
      signed: true,
      key: expect.stringContaining(`${request}:`),
      body: { action: 'create account', request, step: 'account', values: { name: 'ina' } },
    });
    const shown = await view(request);
    expect(shown.answers.remark).toBe('ina.okell');
    expect(shown.trail.map(line => line.text)).toContain('heard that step 2 is done');
    expect(await rowOf(request)).toMatchObject({ state: 'delivered', result: { account: 'ina.okell' } });
  });

  test('is tried again while the other side is out of order, with the same key, and never twice after it was taken', async () => {
    await connect();
    let tries = 0;
    target.reply = () => (++tries < 3 ? { status: 503, body: { reason: 'later' } } : { status: 200 });
    const request = await asked(account());
    await eventually(async () => {
      await hurry();
      return (await view(request)).status === 'closed';
    });
    expect(new Set(target.received.map(one => one.key)).size).toBe(1);
    expect(await rowOf(request)).toMatchObject({ state: 'delivered', attempts: 3, fault: null });
  });

  test('refused without a way for it, it stands among what cannot go on, with its reason and what helps', async () => {
    await connect();
    target.reply = () => ({ status: 422, body: { reason: 'the name is taken' } });
    const request = await asked(account(), tell);
    await eventually(async () => (await view(request)).status === 'stuck');
    const rows = (await kay.get<StuckRow[]>('/requests/stuck')).body.filter(row => row.request === request);
    const outside = rows.find(row => row.cause === 'not done outside');
    expect(outside).toMatchObject({ number: '2', remedies: ['ask again', 'done by hand', 'go on without'] });
    expect(outside?.words).toContain('the name is taken');
    target.reply = () => ({ status: 200 });
    expect((await help(request, { kind: 'ask again', key: outside?.effect })).status).toBe(200);
    await eventually(async () => (await view(request)).status === 'closed');
    expect(target.received.map(one => one.key)).toEqual([outside?.effect, outside?.effect]);
  });

  test('done by hand it does not go out any more, and nobody but HR operations may say so', async () => {
    // Nobody has set up a connection of this name.
    const request = await asked(account({ connection: 'Keys' }), tell);
    const [row] = await small.db.select().from(t.effects).where(eq(t.effects.connection, 'Keys'));
    expect(row).toMatchObject({ state: 'waiting', attempts: 0 });
    const seen = (await view(request)).version;
    const command = { kind: 'done by hand', seen, key: row.key, note: 'The key hangs in the office.' } as Command;
    expect((await ina.command(request, command)).status).toBe(403);
    expect((await kay.command(request, command)).status).toBe(200);
    expect((await view(request)).status).toBe('closed');
    expect((await small.db.select().from(t.effects).where(eq(t.effects.key, row.key)))[0].state).toBe('given up');
    await connect('Keys');
    await askReady(small.serving.house, { id: randomUUID() }, { name: 'Keys', ...settings() });
    expect(target.received).toEqual([]);
  });

  test('an answer that comes twice counts once', async () => {
    await connect();
    const request = await asked(account({ waits: undefined, fills: undefined }), decide());
    await eventually(async () => (await rowOf(request))?.state === 'delivered');
    const before = (await view(request)).version;
    await small.db.update(t.effects).set({ state: 'waiting', nextTry: 0 }).where(eq(t.effects.request, request));
    await eventually(async () => (await rowOf(request))?.state === 'delivered');
    expect((await view(request)).version).toBe(before);
  });

  test('what ends on a day is taken back after it, with what the other side said when it made it', async () => {
    await connect();
    target.reply = () => ({ status: 200, body: { account: 'ina.okell' } });
    const request = await asked(account({ removeOn: 'Start date' }));
    await eventually(async () => (await view(request)).status === 'closed');
    const [undo] = (await small.db.select().from(t.effects)).filter(row => row.undoes !== null);
    expect(undo).toMatchObject({ state: 'waiting', notBefore: '2026-03-03T00:00:00Z' });
    await small.db.update(t.house).set({ now: '2026-03-03T06:00:00Z' });
    small.serving.house.wake();
    await eventually(async () => (await rowOf(request))?.state === 'undone');
    await small.db.update(t.house).set({ now: '2026-02-02T10:00:00Z' });
    expect(target.received.at(-1)?.body).toMatchObject({ undo: true, result: { account: 'ina.okell' } });
    expect((await view(request)).trail.map(line => line.text)).toContain(
      'heard that what step 2 brought about is taken back',
    );
  });

  test('a last day is a whole day of the place where the person works, also after it was moved', async () => {
    await connect();
    const request = await asked(account({ removeOn: 'add days(Start date, 120)' }));
    await eventually(async () => (await view(request)).status === 'closed');
    const undo = async () => (await small.db.select().from(t.effects)).find(row => row.undoes !== null);
    expect(await undo()).toMatchObject({ notBefore: '2026-06-30T23:00:00Z' });
    const key = (await rowOf(request))?.key ?? '';
    await inTransaction(small.db, tx =>
      carryOutInside(
        tx,
        request,
        [
          {
            kind: 'undo on',
            key: `${key}:undo on`,
            of: key,
            on: date('2026-07-14'),
            at: instant('2026-07-14T23:00:00Z'),
          },
        ],
        contextFor('ina'),
        9,
      ),
    );
    expect(await undo()).toMatchObject({ notBefore: '2026-07-14T23:00:00Z' });
  });

  test('calls of one request go out in the order in which they were asked for, also when the first is late', async () => {
    await connect();
    let first = true;
    target.reply = ({ body }) => {
      if (body.action !== 'create account' || !first) return { status: 200 };
      first = false;
      return { status: 503 };
    };
    const quick = { waits: undefined, fills: undefined };
    const request = await asked(account(quick), account({ ...quick, id: 'group', action: 'add to group' }));
    await eventually(async () => {
      await hurry();
      const rows = await small.db.select().from(t.effects).where(eq(t.effects.connection, 'Directory'));
      return rows.length === 2 && rows.every(row => row.state === 'delivered');
    });
    expect(target.received.map(one => one.body.action)).toEqual(['create account', 'create account', 'add to group']);
    expect((await view(request)).status).toBe('closed');
  });

  test('a slow connection holds up no letter and no other connection', async () => {
    const slow = new Target();
    const slowAddress = await slow.listen();
    let release: () => void = () => {};
    const held = new Promise<void>(done => {
      release = done;
    });
    slow.reply = () => ({ status: 200, until: held });
    await connect();
    await connect('Slow', { settings: { address: slowAddress, secret: slow.secret, inside: true } });
    await asked(account({ connection: 'Slow', waits: undefined, fills: undefined }));
    await eventually(async () => {
      await small.db.update(t.effects).set({ nextTry: 0 }).where(eq(t.effects.connection, 'Slow'));
      return slow.received.length > 0;
    });
    const request = await asked(account());
    await eventually(async () => (await view(request)).status === 'closed');
    const [row] = await small.db.select().from(t.effects).where(eq(t.effects.connection, 'Slow'));
    expect(row.state).toBe('waiting');
    release();
    await held;
    await slow.close();
  });
});

describe('connections', () => {
  test('are set up by administrators; a secret is never shown, and stays when none is given', async () => {
    expect((await kay.call('PUT', '/connections/Other', settings())).status).toBe(403);
    const made = await connect('Other');
    expect(made.status).toBe(200);
    expect(JSON.stringify(made.body)).not.toContain(target.secret);
    const again = await connect('Other', { settings: { address, secret: '', inside: true } });
    expect(again.status).toBe(200);
    const [row] = await small.db.select().from(t.connections).where(eq(t.connections.name, 'Other'));
    // In the database it stands hidden.
    expect(JSON.stringify(row)).not.toContain(target.secret);
    expect((await dora.call('POST', '/connections/Other/check')).body).toEqual({ reached: true, words: 'It answers.' });
  });

  test.each([
    [
      'an address that is none',
      { address: 'directory', secret: 'a secret of sixteen letters', inside: true },
      'address',
    ],
    ['a short secret', { address: 'https://directory.example', secret: 'short', inside: false }, 'secret'],
  ])('%s is refused at its field', async (_, wrong, field) => {
    const { status, problem } = await dora.call('PUT', '/connections/Wrong', { ...settings(), settings: wrong });
    expect(status).toBe(400);
    expect(problem.faults?.map(fault => fault.field)).toContain(field);
  });

  test.each([
    'http://127.0.0.1:9/',
    'http://localhost:9/',
    'http://[::1]:9/',
    'http://169.254.169.254/',
    'http://10.1.2.3/',
  ])('%s is not called unless an administrator allows private addresses', async inside => {
    await connect('Inside', { settings: { address: inside, secret: target.secret, inside: false } });
    const { body } = await dora.call<{ reached: boolean; words: string }>('POST', '/connections/Inside/check');
    expect(body.reached).toBe(false);
    expect(body.words).toContain('private network');
  });

  test('what is asked of a name that nobody has set up waits, and the page says so', async () => {
    await asked(account({ connection: 'Nowhere' }));
    const { body } = await dora.get<ConnectionsView>('/connections');
    expect(body.missing).toContainEqual({ name: 'Nowhere', waiting: 1 });
    expect((await new Browser(small.base).get('/connections')).status).toBe(401);
    expect((await ina.get('/connections')).status).toBe(403);
  });
});

describe('in the house', () => {
  test('a line on the planner is there with the command, and goes when the request is withdrawn', async () => {
    const plan = {
      verb: 'Record',
      id: 'plan',
      when: null,
      effect: { kind: 'planner', span: 'dates', label: 'On a course' },
    };
    const request = await asked(plan, decide());
    const lines = () => small.db.select().from(t.plannerLines).where(eq(t.plannerLines.request, request));
    expect(await lines()).toMatchObject([
      { person: 'ina', firstDay: '2026-02-09', lastDay: '2026-02-10', label: 'On a course' },
    ]);
    const days = 'from=2026-02-09&to=2026-02-15&only=ina';
    const { body } = await ina.get<PlannerRows>(`/planner/rows?${days}`);
    expect(body.rows[0]?.bars).toMatchObject([
      { first: 0, kind: 'elsewhere', label: expect.stringContaining('On a course') },
    ]);
    const { body: feed } = await ina.call<FeedMade>('POST', '/feeds', { of: 'self', group: null });
    const inCalendar = async () => {
      const text = await (await fetch(`${small.base}${new URL(feed.address).pathname}`)).text();
      const events = new ICAL.Component(ICAL.parse(text) as never).getAllSubcomponents('vevent');
      return events.map(event => ({
        uid: String(event.getFirstPropertyValue('uid')),
        sequence: Number(event.getFirstPropertyValue('sequence')),
        status: event.getFirstPropertyValue('status'),
        title: event.getFirstPropertyValue('summary'),
        end: String(event.getFirstPropertyValue('dtend')),
      }));
    };
    const [there] = await inCalendar();
    expect(there).toMatchObject({ status: 'CONFIRMED', title: 'On a course', end: '2026-02-11' });
    await ina.command(request, { kind: 'withdraw', seen: (await view(request)).version, note: null } as Command);
    // It is on no planner any more; calendars that have it are told, under a higher number.
    expect((await ina.get<PlannerRows>(`/planner/rows?${days}`)).body.rows[0]?.bars).toEqual([]);
    const [gone] = await inCalendar();
    expect(gone).toMatchObject({ uid: there?.uid, status: 'CANCELLED' });
    expect(gone?.sequence).toBeGreaterThan(there?.sequence ?? 0);
  });

  test('a record is changed from today on; who reads the directory sees it at once', async () => {
    const change = (property: string, formula: string) => ({
      verb: 'Record',
      id: `change-${property.replace(/\W/g, '-')}`,
      when: null,
      effect: { kind: 'person', property, formula },
    });
    await asked(change('name', '"Ina Marrow"'), change('full-time share', '0.6'));
    const { index } = await small.serving.house.moment(small.db);
    const person = index.directory.people.find(one => one.id === 'ina');
    expect(person?.name).toBe('Ina Marrow');
    expect(person?.records.at(-1)).toMatchObject({ from: '2026-02-02', fte: 0.6 });
  });

  test('a request opened in another workflow is there with the command, and its opener hears when it has ended', async () => {
    const child = await asked(decide());
    const [{ workflow }] = await small.db
      .select({ workflow: t.requests.workflow })
      .from(t.requests)
      .where(eq(t.requests.id, child));
    const open = {
      verb: 'Record',
      id: 'open',
      when: null,
      effect: {
        kind: 'open',
        workflow,
        values: ['Kind', 'Dates', 'Amount', 'Start date', 'Urgent', 'Lead', 'Post'].map(name => ({
          name,
          formula: name,
        })),
      },
    };
    const refused = await asked(open, tell);
    expect((await view(refused)).trail.some(line => line.text.includes('was refused'))).toBe(true);
    const simple = { ...open, effect: { kind: 'open', workflow: await simpleWorkflow(), values: [] } };
    const parent = await asked(simple, { verb: 'Hold', id: 'until', when: null, until: { kind: 'requests' } });
    const [opened] = await small.db.select().from(t.requests).where(eq(t.requests.openedBy, parent));
    expect(opened).toMatchObject({ asker: 'ina', status: 'open' });
    expect((await view(parent)).status).toBe('open');
    const tom = await signedIn(small.base, 'tom');
    const task = opened.state.tasks[0];
    await tom.command(opened.id ?? '', {
      kind: 'answer',
      seen: opened.state.version,
      task: task.id,
      outcome: 'yes',
      note: null,
    } as Command);
    expect((await view(parent)).status).toBe('closed');
  });
});

/** One that needs no answers. */
async function simpleWorkflow(): Promise<string> {
  const id = `w-${randomUUID().slice(0, 8)}`;
  const definition = { ...flow(decide()), form: { fields: [] }, figures: [] };
  await putLive(small.db, id, definition);
  return id;
}

test('a request whose last part is on its way says so, wherever it is told how it stands', async () => {
  const request = await asked(account({ connection: 'Locks', waits: undefined, fills: undefined }));
  const shown = await view(request);
  expect(shown.standing).toBe('Approved, not all of it done yet');
  expect(shown.outside).toEqual([
    { key: expect.any(String), number: '2', what: 'Locks: create account', state: 'on its way', reason: null },
  ]);
  expect([shown.may.helpOutside, (await ina.get<RequestView>(`/requests/${request}`)).body.may.helpOutside]).toEqual([
    true,
    false,
  ]);
  await help(request, { kind: 'go on without', key: shown.outside[0].key, note: 'The lock is gone.' });
  expect((await view(request)).outside[0].state).toBe('given up');
});
