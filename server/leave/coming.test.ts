/** Leavers, joiners, and letters to those with much left; and sickness without an end as others see it. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type {
  BalanceView,
  JoiningView,
  LeavingView,
  PlannerRows,
  RequestView,
  StandingsView,
} from '@north-pebble/contract';
import { eq, like } from 'drizzle-orm';
import { daysBoughtOrSold } from '../../core/starters/leave.ts';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
let kay: Browser;
let ina: Browser;
beforeAll(async () => {
  small = await startSmall();
  kay = await signedIn(small.base, 'kay');
  ina = await signedIn(small.base, 'ina');
});
afterAll(() => small.stop());

const halves = (from: string, to: string) => ({ from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } });

describe('before a date is on file', () => {
  test('what a leaver has left, and leave that goes on after the last day, are told and nothing is changed', async () => {
    const id = randomUUID();
    const span = halves('2026-06-29', '2026-07-03');
    await kay.call('POST', '/leave', { id, person: 'ina', type: 'annual', span, reason: 'By telephone' });
    const { body } = await kay.get<LeavingView>('/leave/leaving/ina?on=2026-06-30');
    // 13 of half a year, less the two days of June; what was carried has lapsed.
    expect(body.types).toMatchObject([{ id: 'annual', unit: 'days', entitled: 13, balance: 11 }]);
    expect(body.after).toEqual([
      { request: expect.stringMatching(/^R-\d+$/), label: 'Annual leave: Mon 29 June to Fri 3 July' },
    ]);
    const [person] = await small.db.select().from(t.people).where(eq(t.people.id, 'ina'));
    expect(person?.leftOn).toBeNull();
    const early = await kay.get('/leave/leaving/ina?on=2019-12-31');
    expect(early.problem.faults).toMatchObject([{ field: 'on' }]);
    expect((await kay.get('/leave/leaving/nobody?on=2026-06-30')).status).toBe(404);
  });

  test('what a joiner is given is told for the first leave year and the one after it', async () => {
    const ask = (query: string) => kay.get<JoiningView>(`/leave/joining?${query}`);
    expect((await ask('plan=standard&joined=2026-07-01&share=0.5')).body).toEqual({
      unit: 'days',
      years: [
        { until: '2026-12-31', amount: 6.5 },
        { until: '2027-12-31', amount: 13 },
      ],
    });
    expect((await ask('plan=none&joined=2026-07-01&share=1')).problem.faults).toMatchObject([{ field: 'plan' }]);
    for (const bad of ['plan=standard&joined=2026-07-01&share=0', 'plan=standard&joined=soon&share=1', 'share=1'])
      expect((await ask(bad)).status).toBe(400);
  });
});

describe('letters to those with much left', () => {
  test('go to each who is found with their own figures, once, and to nobody when others are found meanwhile', async () => {
    const { rows } = (await kay.get<StandingsView>('/leave/balances')).body;
    const find = { type: 'annual', words: 'ina ok' };
    const send = (body: object) => kay.call<{ letters: number }>('POST', '/leave/letters', body);
    expect((await send({ ...find, id: randomUUID(), people: 2, note: '' })).status).toBe(409);
    const id = randomUUID();
    const note = 'Please plan them before the summer.';
    expect((await send({ ...find, id, people: 1, note })).body).toEqual({ letters: 1 });
    expect((await send({ ...find, id, people: 1, note })).body).toEqual({ letters: 1 });
    const sent = await small.db
      .select()
      .from(t.effects)
      .where(like(t.effects.key, `left:${id}:%`));
    expect(sent).toHaveLength(1);
    const own = rows.find(row => row.person === 'ina')!;
    expect(sent[0]!.payload).toMatchObject({ to: 'ina', subject: `Your annual leave: ${own.free} days left` });
    const { body } = sent[0]!.payload as { body: string };
    expect(body).toContain('in your leave year, which ends on Thu 31 December 2026');
    expect(body).toContain('5 days lapse unless you take them: the first on Tue 31 March.');
    expect(body).toContain(note);
    expect((await ina.call('POST', '/leave/letters', { ...find, id, people: 1, note })).status).toBe(403);
    expect((await send({ ...find, id: 'x', people: 1, note })).status).toBe(400);
  });
});

describe('sickness without an end', () => {
  test('is seen as far as it is known, and a week ahead by those who plan', async () => {
    const [row] = await small.db.select().from(t.leaveTypes).where(eq(t.leaveTypes.id, 'sick'));
    await small.db
      .update(t.leaveTypes)
      .set({ rules: { ...row!.rules, counting: 'calendar', openEnd: true, daysBack: 14 } })
      .where(eq(t.leaveTypes.id, 'sick'));
    await raiseDirectoryVersion(small.db);
    const span = { ...halves('2026-02-02', '2026-02-02'), open: true };
    await small.db.insert(t.leaveEntries).values({
      ...{
        request: 'S-1',
        person: 'per',
        type: 'sick',
        state: 'booked',
        firstDay: '2026-02-02',
        lastDay: '9999-12-31',
      },
      ...{ span: span as never, planner: true },
    });
    const rows = (await kay.get<PlannerRows>('/planner/rows?house=yes&words=per&from=2026-02-02&to=2026-02-22')).body
      .rows;
    // Today is Monday 2 February: eight days are counted, and it says that its end is not known.
    expect(rows[0]?.bars).toMatchObject([{ first: 0, last: 15, label: expect.stringContaining('not known yet') }]);
    const later = (await kay.get<PlannerRows>('/planner/rows?house=yes&words=per&from=2026-02-16&to=2026-02-22')).body;
    expect(later.rows[0]?.bars).toEqual([]);
  });
});

describe('days bought and sold by a workflow', () => {
  test('stand on the statement with their request, and in what was changed; two at once cannot sell the same days', async () => {
    const { definition } = daysBoughtOrSold;
    await small.db
      .insert(t.workflows)
      .values({ id: 'days', position: 9, liveVersion: 1, draft: null, draftRevision: 0 });
    await small.db.insert(t.workflowVersions).values({
      ...{
        workflow: 'days',
        version: 1,
        definition,
        publishedAt: '2026-01-01T00:00:00Z',
        publishedBy: 'kay',
        comment: '',
      },
    });
    const tom = await signedIn(small.base, 'tom');
    const dora = await signedIn(small.base, 'dora');
    const asks = async (what: string, number: number) => {
      const answers = { kind: 'annual', what, number, reason: null };
      const { body } = await ina.call<{ request: string }>('POST', '/requests', {
        ...{ id: randomUUID(), workflow: 'days', subject: null, answers },
      });
      return body.request;
    };
    const decides = async (who: Browser, request: string) => {
      const view = (await who.get<RequestView>(`/requests/${request}`)).body;
      return who.command(request, {
        ...{ kind: 'answer', seen: view.version, task: view.may.answer ?? '', outcome: 'approve', note: null },
      });
    };
    const agreesThePay = async (request: string) => {
      const view = (await dora.get<RequestView>(`/requests/${request}`)).body;
      return dora.command(request, {
        ...{ kind: 'complete', seen: view.version, task: view.tasks[0]!.id, ticked: ['item-1'], answers: {} },
      });
    };
    const bought = await asks('Buy', 2);
    await decides(tom, bought);
    await agreesThePay(bought);
    const lines = async () => (await ina.get<BalanceView>('/balances/me')).body.types[0]!.statement.lines;
    const line = (await lines()).find(one => one.reason.includes(bought));
    expect(line).toMatchObject({ kind: 'adjustment', amount: 2, reason: `Days bought or sold (request ${bought})` });
    const [change] = await small.db.select().from(t.factChanges).where(eq(t.factChanges.request, bought));
    expect(change?.change).toMatchObject({ what: 'adjustment', person: 'ina', amount: 2 });

    // Five were taken of what there is this year; 20 and 20 are too many, whoever is first.
    const [first, second] = [await asks('Sell', 20), await asks('Sell', 20)];
    for (const request of [first, second]) await decides(tom, request);
    await Promise.all([agreesThePay(first), agreesThePay(second)]);
    const sold = (await lines()).filter(one => one.kind === 'adjustment' && one.amount === -20);
    expect(sold).toHaveLength(1);
    const views = await Promise.all(
      [first, second].map(async request => (await ina.get<RequestView>(`/requests/${request}`)).body),
    );
    expect(views.map(view => view.status).sort()).toEqual(['closed', 'stuck']);
    expect(views.find(view => view.status === 'stuck')?.stuck).toContain('cannot be taken off the balance');
  });
});
