/** Plans back from a date as they are asked for, moved and told of over HTTP, with their rows in the database. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { DateMoveView, DeskView, PlansView, RequestView } from '@north-pebble/contract';
import type { CivilDate } from '@north-pebble/core/time';
import type { Command, Definition } from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import { bad, decide, flow, given, good, task } from '../../../core/testing/run.ts';
import { audit } from '../../audit/index.ts';
import { tables as t } from '../../database/index.ts';
import {
  type Browser,
  eventually,
  houseNow,
  putLive,
  type Small,
  signedIn,
  startSmall,
} from '../../testing/serving.ts';

let small: Small;
let ina: Browser;
let tom: Browser;
let dora: Browser;
let kay: Browser;
let con: Browser;
beforeAll(async () => {
  small = await startSmall();
  [ina, tom, dora, kay, con] = await Promise.all(
    ['ina', 'tom', 'dora', 'kay', 'con'].map(one => signedIn(small.base, one)),
  );
});
afterAll(() => small.stop());
beforeEach(() => small.db.update(t.house).set({ now: houseNow }));

const joining: Definition = {
  ...flow(
    decide({ outcomes: [good, bad], plan: { takes: 2 } }),
    task({
      id: 'contract',
      task: 'Writes the contract',
      plan: { takes: 4, daysBefore: 5 },
      limit: { within: { byPlan: true }, remind: null, atLimit: 'wait' },
    }),
  ),
  countsBack: {
    field: 'start',
    place: 'post',
    notice: 5,
    alert: { workingDays: 8, tell: { first: { kind: 'role', role: 'HR partner' }, otherwise: [] } },
  },
};

async function asked(start = '2026-03-02', answers: object = {}, definition = joining) {
  const id = `w-${randomUUID().slice(0, 8)}`;
  await putLive(small.db, id, definition);
  return ina.call<{ request: string }>('POST', '/requests', {
    id: randomUUID(),
    workflow: id,
    answers: { ...given, start, ...answers },
  });
}
const view = async (request: string, browser = ina) => (await browser.get<RequestView>(`/requests/${request}`)).body;
const send = async (request: string, command: object, browser = ina) =>
  browser.command(request, { seen: (await view(request)).version, ...command } as Command);
const move = (request: string, date: string, browser = ina) =>
  send(request, { kind: 'move date', date, reason: 'The boat is late.' }, browser);
const tryDate = async (request: string, to: string, browser = ina) =>
  (await browser.get<DateMoveView>(`/requests/${request}/date?to=${to}`)).body;
const row = async (request: string) => (await small.db.select().from(t.requests).where(eq(t.requests.id, request)))[0];
const notReady = async (browser: Browser, request: string) =>
  (await browser.get<DeskView>('/desk')).body.items.filter(
    item => item.kind === 'not ready' && item.request === request,
  );

describe('a plan over HTTP', () => {
  test('is told with the request, and stands among all for those whom it concerns and for HR', async () => {
    const { request } = (await asked()).body;
    const { plan } = await view(request);
    expect(plan).toMatchObject({
      date: '2026-03-02',
      label: 'Start date',
      placeName: 'Ovay Station',
      toGo: 20,
      state: 'fine',
    });
    expect(plan?.lines.map(line => [line.number, line.what, line.holder, line.state])).toEqual([
      ['2', 'Decision', 'Tom Lund', 'fine'],
      ['3', 'Writes the contract', 'the asker’s line manager', 'fine'],
    ]);
    const seen = async (browser: Browser) =>
      (await browser.get<PlansView>('/plans')).body.rows.some(one => one.request === request);
    expect(await Promise.all([ina, tom, dora, kay, con].map(seen))).toEqual([true, true, true, true, false]);
    expect((await row(request)).plannedFor).toBe('2026-03-02');
    // Ended, it is nobody’s plan any more.
    await send(request, { kind: 'withdraw', note: null });
    expect((await row(request)).plannedFor).toBeNull();
    expect(await seen(kay)).toBe(false);
  });

  test('asking with too little notice is refused at the date', async () => {
    const { status, problem } = await asked('2026-02-06');
    expect([status, problem.faults?.[0].field]).toEqual([400, 'start']);
    expect(problem.faults?.[0].message).toContain('Mon 9 February is the first day that can be');
  });

  test('the date is moved with a preview, its limit and its timers follow, and the trail holds', async () => {
    const { request } = (await asked()).body;
    const [held] = (await view(request)).tasks;
    await send(request, { kind: 'answer', task: held.id, outcome: 'yes', note: null }, tom);
    expect((await view(request)).tasks[0].due).toBe('2026-02-20T17:00:00Z');
    const before = await tryDate(request, '2026-03-09');
    expect(before).toMatchObject({
      before: '2026-03-02',
      after: '2026-03-09',
      fault: null,
      notes: [],
      told: ['Tom Lund'],
    });
    expect(before.lines).toEqual([
      expect.objectContaining({
        number: '3',
        before: expect.objectContaining({ latestFinish: '2026-02-20' }),
        after: expect.objectContaining({ latestFinish: '2026-02-27' }),
      }),
    ]);
    // Trying changes nothing.
    expect((await row(request)).plannedFor).toBe('2026-03-02');
    expect((await move(request, '2026-03-09')).status).toBe(200);
    const now = await view(request);
    expect([now.plan?.date, now.tasks[0].due]).toEqual(['2026-03-09', '2026-02-27T17:00:00Z']);
    expect(now.trail.map(line => line.text)).toEqual(
      expect.arrayContaining(['moved Start date', 'counted a limit anew']),
    );
    expect((await row(request)).plannedFor).toBe('2026-03-09');
    const letters = await small.db.select().from(t.effects).where(eq(t.effects.request, request));
    expect(letters.filter(one => one.payload.subject?.startsWith('Moved to')).map(one => one.payload.to)).toEqual([
      'tom',
    ]);
    expect((await audit(small.db)).faults).toEqual([]);
  });

  test('waits that follow the date are said before it is moved', async () => {
    const eve = { verb: 'Hold', id: 'eve', when: null, until: { kind: 'before', workingDays: 1, field: 'start' } };
    const [ask, ...rest] = joining.steps;
    const waiting = { ...joining, steps: [ask, eve, ...rest] } as Definition;
    const { request } = (await asked('2026-03-02', {}, waiting)).body;
    expect((await tryDate(request, '2026-03-09')).follows).toEqual([
      'Step 2 waits until Fri 6 Mar 00:00, not until Fri 27 Feb 00:00.',
    ]);
    expect((await tryDate(request, '2026-02-03')).follows).toEqual([
      'Step 2 waits no longer: the moment that it waits for has passed.',
    ]);
  });

  test('what is worth a second look is said before it: a day on which nobody works, too little notice', async () => {
    const { request } = (await asked()).body;
    const notes = async (to: string) => (await tryDate(request, to)).notes;
    expect(await notes('2026-03-08')).toEqual(['Nobody works at Ovay Station on this day.']);
    expect(await notes('2026-02-05')).toEqual(['The form asks for 5 working days of notice; this is less.']);
    expect((await tryDate(request, '2026-02-01')).fault).toBe('This day has passed.');
    expect((await tryDate(request, '2026-03-02')).fault).toBe('It is on this day already.');
  });

  test('only those who may move it: a holder and an auditor may not, HR and whoever helps requests on may', async () => {
    const { request } = (await asked()).body;
    expect((await tryDate(request, '2026-03-09', tom)).fault).toBe('You may not move this date.');
    expect((await move(request, '2026-03-09', tom)).status).toBe(403);
    expect((await move(request, '2026-03-09', con)).status).toBe(404);
    expect((await view(request, tom)).may.moveDate).toBe(false);
    expect((await view(request, kay)).may.moveDate).toBe(true);
    expect((await move(request, '2026-03-09', kay)).status).toBe(200);
    expect((await move(request, '2026-03-10', dora)).status).toBe(200);
    expect((await send(request, { kind: 'move date', date: '2026-13-40', reason: 'x' })).status).toBe(400);
    expect((await send(request, { kind: 'move date', date: '2026-03-11', reason: ' ' })).status).toBe(400);
  });

  test('two who move it at once: the second hears that it has moved', async () => {
    const { request } = (await asked()).body;
    const { version: seen } = await view(request);
    const command = (date: string) => ({ kind: 'move date', seen, date: date as CivilDate, reason: 'so' }) as Command;
    const both = await Promise.all([
      ina.command(request, command('2026-03-09')),
      kay.command(request, command('2026-03-16')),
    ]);
    expect(both.map(one => one.status).sort()).toEqual([200, 409]);
  });
});

describe('telling that it is not ready', () => {
  test('comes on its morning by mail and on the desk, and goes by itself when all is done', async () => {
    const { request } = (await asked()).body;
    expect(await notReady(dora, request)).toEqual([]);
    await small.db.update(t.house).set({ now: '2026-02-18T07:00:01Z' });
    await eventually(async () => (await notReady(dora, request)).length === 1);
    const [item] = await notReady(dora, request);
    expect(item.facts).toEqual(['Mon 2 March, 8 working days to go', '2 of 2 left', '2 working days late']);
    expect(await notReady(tom, request)).toEqual([]);
    const letters = await small.db.select().from(t.effects).where(eq(t.effects.request, request));
    expect(letters.filter(one => one.payload.subject?.startsWith('Not ready')).map(one => one.payload.to)).toEqual([
      'dora',
    ]);
    expect((await view(request)).plan?.told?.names).toEqual(['Dora Quill']);
    const answer = async () => {
      const [held] = (await view(request)).tasks;
      return held;
    };
    await send(request, { kind: 'answer', task: (await answer()).id, outcome: 'yes', note: null }, tom);
    expect(await notReady(dora, request)).toHaveLength(1);
    await send(request, { kind: 'complete', task: (await answer()).id, ticked: [], answers: {}, note: null }, tom);
    expect(await notReady(dora, request)).toEqual([]);
    expect(await small.db.select().from(t.alerts).where(eq(t.alerts.request, request))).toEqual([]);
    expect((await audit(small.db)).faults).toEqual([]);
  });

  test('a request that is withdrawn leaves nobody’s desk with a row', async () => {
    const { request } = (await asked('2026-03-03')).body;
    await small.db.update(t.house).set({ now: '2026-02-19T07:00:01Z' });
    await eventually(async () => (await notReady(dora, request)).length === 1);
    await send(request, { kind: 'withdraw', note: null });
    expect(await notReady(dora, request)).toEqual([]);
  });
});
