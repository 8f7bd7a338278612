/** Leave rules in the house: changed from a day on, met while asking, let pass, and what everybody has of it. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type {
  BalanceView,
  ChangePreview,
  LeaveRulesView,
  PassesView,
  RequestView,
  StandingsView,
  TriedView,
  YearEndView,
} from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import type { LeaveTypeRules, Limit } from '@north-pebble/core/leave';
import { tables as t } from '../database/index.ts';
import { pdfWords } from '../testing/pdfWords.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
let ina: Browser;
let kay: Browser;
let tom: Browser;
beforeAll(async () => {
  small = await startSmall();
  ina = await signedIn(small.base, 'ina');
  kay = await signedIn(small.base, 'kay');
  tom = await signedIn(small.base, 'tom');
});
afterAll(() => small.stop());

const rulesSeen = async (who = ina) => (await who.get<LeaveRulesView>('/leave/rules')).body;
const preview = (change: HouseChange) => kay.call<ChangePreview>('POST', '/records/preview', { change });
const save = async (change: HouseChange) => {
  const { body, problem } = await preview(change);
  if (!body.digest) throw new Error(JSON.stringify(problem));
  return kay.call<{ id: number }>('POST', '/records/changes', {
    change,
    reason: 'Agreed with the council',
    digest: body.digest,
  });
};
const annual = async (): Promise<LeaveTypeRules> => {
  const { later: _, ...rules } = (await rulesSeen()).types.find(type => type.id === 'annual')!;
  return rules;
};
const typeChange = (type: LeaveTypeRules, from: string | null = null) =>
  ({ what: 'leave type', type, from }) as HouseChange;
const withLimits = async (...limits: Limit[]) => save(typeChange({ ...(await annual()), limits }));
const balanceOf = async (day: 'statement' | 'ahead' = 'ahead') =>
  (await ina.get<BalanceView>('/balances/me')).body.types[0]![day].balance;

describe('what a leave plan says', () => {
  test('from a day on is shown by who gains, holds for everybody, and is taken away again', async () => {
    const plan = (await rulesSeen()).plans.find(one => one.id === 'standard')!;
    expect((await rulesSeen()).mayKeep).toBe(false);
    expect((await rulesSeen(kay)).mayKeep).toBe(true);
    const before = await balanceOf();
    const rules = { ...plan.rules, perYear: [{ fromServiceYears: 0, amount: 30 }] };
    const change = {
      what: 'leave plan',
      plan: { id: 'standard', name: plan.name, unit: 'days', rules },
      from: '2026-07-01',
    } as unknown as HouseChange;
    const shown = (await preview(change)).body;
    expect(shown.says).toEqual([
      'Standard, until then: It earns 26 days a year.',
      'Standard from Wed 1 July 2026 on: It earns 30 days a year.',
    ]);
    // Eight work here.
    expect(shown.sums).toEqual(['8 gain 16 days in all.']);
    expect(shown.balances.find(one => one.name === 'Ina Okell')).toMatchObject({ before: '26 days', after: '28 days' });
    expect((await save(change)).status).toBe(200);
    expect(await balanceOf()).toBe(before + 2);
    expect((await rulesSeen()).plans.find(one => one.id === 'standard')!.rules.later).toMatchObject([
      { from: '2026-07-01' },
    ]);
    expect(
      (await save({ what: 'not from then', of: 'leave plan', id: 'standard', from: '2026-07-01' } as never)).status,
    ).toBe(200);
    expect(await balanceOf()).toBe(before);
  });

  test('that makes balances negative says how many, before it holds', async () => {
    const span = { from: { date: '2026-08-03', half: 'am' }, to: { date: '2026-08-07', half: 'pm' } };
    await kay.call('POST', '/leave', { id: randomUUID(), person: 'ina', type: 'annual', span, reason: 'By telephone' });
    const plan = (await rulesSeen()).plans.find(one => one.id === 'standard')!;
    const rules = { ...plan.rules, perYear: [{ fromServiceYears: 0, amount: 2 }], carryOver: null };
    const { body } = await preview({
      what: 'leave plan',
      plan: { id: 'standard', name: plan.name, unit: 'days', rules },
      from: null,
    } as never);
    expect(body.sums[0]).toMatch(/^9 lose \d+ days in all\.$/);
    // Five are booked, and two would be earned.
    expect(body.notes).toContain('1 balance goes below zero.');
    expect(body.balances[0]).toMatchObject({ name: expect.any(String) });
  });

  test.each([
    ['another unit', { unit: 'hours' }, 'unit'],
    ['another leave year', { rules: { yearStart: '04-01' } }, 'yearStart'],
    [
      'a tier twice',
      {
        rules: {
          perYear: [
            { fromServiceYears: 1, amount: 1 },
            { fromServiceYears: 1, amount: 2 },
          ],
        },
      },
      'perYear',
    ],
    ['less than nothing', { rules: { perYear: [{ fromServiceYears: 0, amount: -1 }] } }, 'amount'],
  ])('is not changed to %s, and says so at its place', async (_, wrong, field) => {
    const { people: _p, rules, ...plan } = (await rulesSeen()).plans.find(one => one.id === 'standard')!;
    const { rules: more = {}, ...own } = wrong as { rules?: object };
    const { later: _l, ...bare } = rules;
    const change = { what: 'leave plan', plan: { ...plan, rules: { ...bare, ...more }, ...own }, from: '2027-01-01' };
    const { status, problem } = await preview(change as never);
    expect(status).toBeGreaterThanOrEqual(400);
    expect(problem.faults?.[0]?.field).toContain(field);
  });

  test('is kept by HR alone', async () => {
    const change = typeChange(await annual());
    for (const who of [ina, tom]) expect((await who.call('POST', '/records/preview', { change })).status).toBe(403);
  });
});

describe('a rule of a leave type', () => {
  test('stops at the API, HR lets it pass with a reason, and the trail says who and why', async () => {
    expect((await withLimits({ rule: 'notice', over: 0, days: 60, how: 'stops' })).status).toBe(200);
    const stopped = await ina.ask('2026-03-02', '2026-03-04');
    expect(stopped.status).toBe(400);
    expect(stopped.problem.faults?.[0]).toMatchObject({ field: 'dates' });
    expect(stopped.problem.faults?.[0]?.message).toContain('It is asked for 60 days before; this is 28 days before.');
    const pass = { person: 'ina', type: 'annual', from: '2026-03-02', to: '2026-03-04', reason: 'Her sister weds.' };
    expect((await tom.call('POST', '/leave/passes', pass)).status).toBe(403);
    expect((await kay.call('POST', '/leave/passes', { ...pass, person: 'kay' })).status).toBe(403);
    expect((await kay.call('POST', '/leave/passes', { ...pass, reason: ' ' })).status).toBe(400);
    const passes = (await kay.call<PassesView>('POST', '/leave/passes', pass)).body;
    expect(passes).toMatchObject([{ by: 'Kay Voss', reason: 'Her sister weds.' }]);
    const sent = await ina.ask('2026-03-02', '2026-03-04');
    expect(sent.status).toBe(201);
    const seen = (await tom.get<RequestView>(`/requests/${sent.body.request}`)).body;
    expect(seen.against).toMatchObject([{ passed: 'Kay Voss of HR let it pass: Her sister weds.' }]);
    expect(JSON.stringify(seen.trail)).toContain('Kay Voss of HR let it pass');
    // Taken back, it is let pass no more; what was asked for stays.
    expect((await kay.call('DELETE', `/leave/passes/${passes[0]!.id}`)).status).toBe(204);
    await ina.command(sent.body.request, { kind: 'withdraw', seen: seen.version });
    expect((await ina.ask('2026-03-02', '2026-03-04')).status).toBe(400);
    await withLimits();
  });

  test('of least presence counts what others have asked for a moment before', async () => {
    const presence = {
      what: 'presence',
      presence: {
        id: 'new',
        name: 'the watch',
        place: 'ovay',
        department: null,
        people: 7,
        weekdays: [],
        from: null,
        to: null,
      },
      needed: true,
    } as HouseChange;
    const many = await preview({
      ...presence,
      presence: { ...(presence as { presence: object }).presence, people: 50 },
    } as never);
    expect(many.problem.faults?.[0]).toMatchObject({
      field: 'change.presence.people',
      message: '50 would be needed of 8 who are there. Nobody could ever be away.',
    });
    expect((await save(presence)).status).toBe(200);
    await withLimits({ rule: 'presence', how: 'stops' });
    const per = await signedIn(small.base, 'per');
    expect((await per.ask('2026-04-14', '2026-04-14')).status).toBe(201);
    const stopped = await ina.ask('2026-04-13', '2026-04-15');
    expect(stopped.problem.faults?.[0]?.message).toContain(
      'This leaves 6 of the watch, and 7 are needed on Tue 14 April.',
    );
    expect((await ina.ask('2026-04-13', '2026-04-13')).status).toBe(201);
    await withLimits();
  });
});

describe('everybody’s balances', () => {
  test('are what the statements say, for those whom one may see, and as a table', async () => {
    const { body } = await kay.get<StandingsView>('/leave/balances');
    const own = body.rows.find(row => row.person === 'ina')!;
    expect(own.now).toBe(await balanceOf('statement'));
    expect(own.free).toBe(await balanceOf('ahead'));
    expect(body.rows.map(row => row.person)).not.toContain('old');
    const below = (await tom.get<StandingsView>('/leave/balances')).body.rows.map(row => row.person);
    expect(below.sort()).toEqual(['ina', 'per', 'tom']);
    expect((await ina.get('/leave/balances')).status).toBe(404);
    expect((await kay.get('/leave/balances?type=sick')).status).toBe(404);
    expect((await kay.get('/leave/balances?only=rich')).status).toBe(400);
    const table = await fetch(`${small.base}/api/leave/balances/file.csv?words=okell`, {
      headers: { Cookie: kay.cookie, 'X-North-Pebble': '1' },
    });
    const lines = (await table.text()).trim().split('\r\n');
    expect(lines).toHaveLength(2);
    expect(lines[1]).toContain('Ina Okell');
  });
});

describe('a statement on pages', () => {
  const paperOf = (who: Browser, path: string) =>
    fetch(`${small.base}/api/balances/${path}`, { headers: { Cookie: who.cookie, 'X-North-Pebble': '1' } });

  test('has every line of it with its balance, and is tagged; others do not read it', async () => {
    const answer = await paperOf(ina, 'me/statement.pdf?type=annual');
    expect(answer.headers.get('content-type')).toContain('application/pdf');
    const bytes = Buffer.from(await answer.arrayBuffer());
    expect(bytes.toString('latin1')).toContain('/StructTreeRoot');
    const words = pdfWords(bytes).join(' ').replace(/\s+/g, ' ');
    expect(words).toContain('Annual leave of Ina Okell');
    const { statement } = (await ina.get<BalanceView>('/balances/me')).body.types[0]!;
    expect(words).toContain(`${statement.balance} days on Mon 2 February 2026`);
    expect(words.split('Earned').length - 1).toBe(statement.lines.filter(line => line.kind === 'accrued').length);
    const sub = await signedIn(small.base, 'sub');
    expect((await paperOf(sub, 'ina/statement.pdf')).status).toBe(404);
    expect((await paperOf(ina, 'me/statement.pdf?type=sick')).status).toBe(404);
  });
});

describe('leave that is thought of', () => {
  test('is compared span by span, and nothing is asked for', async () => {
    const span = (from: string, to: string) => ({ from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } });
    const before = await balanceOf();
    const spans = [
      span('2026-09-07', '2026-09-11'),
      span('2026-09-07', '2026-12-18'),
      span('2026-09-12', '2026-09-13'),
    ];
    const { body } = await ina.call<TriedView>('POST', '/balances/me/try', { type: 'annual', spans });
    expect(body.map(one => [one.amount, one.fits])).toEqual([
      [5, true],
      [75, false],
      [0, false],
    ]);
    expect(body[1]!.says[0]).toContain('are free');
    expect(body[2]!.says[0]).toContain('Nothing is scheduled');
    expect(await balanceOf()).toBe(before);
    for (const bad of [{ type: 'annual', spans: [] }, { type: 'annual', spans: Array(9).fill(spans[0]) }, { spans }])
      expect((await ina.call('POST', '/balances/me/try', bad)).status).toBe(400);
  });
});

describe('a balance adjusted by hand', () => {
  const change = (more: object = {}) =>
    ({
      what: 'adjustment',
      person: 'ina',
      type: 'annual',
      date: '2026-03-02',
      amount: 2.5,
      reason: 'Bought days',
      ...more,
    }) as HouseChange;

  test('shows what follows, stands on the statement with its words, and is not put there twice', async () => {
    const before = await balanceOf();
    const shown = (await preview(change())).body;
    expect(shown.sums).toEqual(['1 gains 2½ days in all.']);
    expect((await save(change())).status).toBe(200);
    expect(await balanceOf()).toBe(before + 2.5);
    const { ahead } = (await ina.get<BalanceView>('/balances/me')).body.types[0]!;
    expect(ahead.lines.find(line => line.kind === 'adjustment')).toMatchObject({
      date: '2026-03-02',
      reason: 'Bought days',
    });
    expect((await preview(change())).problem.detail).toBeDefined();
    expect((await preview(change())).status).toBe(400);
    const last = (await save(change({ amount: 1, reason: 'By mistake' }))).body;
    expect(await balanceOf()).toBe(before + 3.5);
    expect((await kay.call('POST', `/records/changes/${last.id}/back`, { reason: 'A mistake' })).status).toBe(200);
    await save(change({ amount: -2.5, reason: 'Bought days, given back' }));
    expect(await balanceOf()).toBe(before);
  });

  test.each([
    ['nothing', { amount: 0 }, 'amount'],
    ['far too much', { amount: 1e9 }, 'amount'],
    ['a type without a balance', { type: 'sick' }, 'type'],
    ['before joining', { date: '2010-01-01' }, 'date'],
    ['no words', { reason: ' ' }, 'reason'],
    ['nobody', { person: 'nobody' }, 'person'],
  ])('takes no %s, and says so at its place', async (_, wrong, field) => {
    const { status, problem } = await preview(change(wrong));
    expect(status).toBe(400);
    expect(problem.faults?.[0]?.field).toContain(field);
  });

  test('is nobody’s own to adjust', async () => {
    const { status } = await kay.call('POST', '/records/preview', { change: change({ person: 'kay' }) });
    expect(status).toBe(403);
  });
});

describe('the end of a leave year', () => {
  const lastYear = '2025-12-31';
  const look = async () => (await kay.get<YearEndView>(`/leave/year-end?until=${lastYear}`)).body;

  test('is closed once, by one of two who do it at once, and what is corrected later stands in the open year', async () => {
    const view = await look();
    const own = view.rows.find(row => row.person === 'ina')!;
    expect(own).toMatchObject({ on: lastYear, balance: 26, carried: 5, lapses: 21, closed: null });
    const before = await balanceOf('statement');
    const body = { type: 'annual', until: lastYear, years: view.rows.length };
    expect((await kay.call('POST', '/leave/year-end', { ...body, years: 3 })).status).toBe(409);
    expect((await kay.call('POST', '/leave/year-end', { ...body, until: '2026-02-02' })).status).toBe(400);
    const dora = await signedIn(small.base, 'dora');
    const both = await Promise.all([kay, dora].map(who => who.call('POST', '/leave/year-end', body)));
    expect(both.map(one => one.status).sort()).toEqual([200, 409]);
    expect((await look()).rows.every(row => row.closed !== null)).toBe(true);
    expect(await balanceOf('statement')).toBe(before);

    // Two days of last November are found to have been leave.
    const span = { from: { date: '2025-11-03', half: 'am' }, to: { date: '2025-11-04', half: 'pm' } };
    await kay.call('POST', '/leave', { id: randomUUID(), person: 'ina', type: 'annual', span, reason: 'Found late' });
    const { statement } = (await ina.get<BalanceView>('/balances/me')).body.types[0]!;
    const closed = statement.lines.filter(line => line.date <= lastYear);
    expect(closed.at(-1)?.balance).toBe(26);
    expect(closed.some(line => line.kind === 'taken' && line.date.startsWith('2025-11'))).toBe(false);
    const restated = statement.lines.find(line => line.kind === 'restated')!;
    expect(restated).toMatchObject({ date: '2026-01-01', amount: -2, balance: 24 });
    // Five are carried all the same, so the balance is what it was.
    expect(statement.balance).toBe(before);
  });

  test('pay is told a period, and next time what has changed of it', async () => {
    const told = async (from: string, to: string) => {
      const { body, status } = await kay.call<{ id: number }>('POST', '/leave/pay', { from, to });
      expect(status).toBe(201);
      const table = await fetch(`${small.base}/api/leave/pay/${body.id}/file.csv`, { headers: { Cookie: kay.cookie } });
      return (await table.text())
        .trim()
        .split('\r\n')
        .slice(1)
        .map(line => line.replaceAll('"', '').split(','));
    };
    const changes = [
      { what: 'own', person: 'ina', set: { number: '10412' } },
      { what: 'record', person: 'ina', from: '2025-11-04', set: { costCentre: '3100' } },
    ];
    const change = { what: 'several', changes };
    const { body: shown } = await kay.call<{ digest: string; says: string[] }>('POST', '/records/preview', { change });
    expect(shown.says).toEqual(['Personnel number: none → 10412.', 'Cost centre from Tue 4 November 2025: 3100.']);
    const { digest } = shown;
    expect((await kay.call('POST', '/records/changes', { change, reason: 'For pay.', digest })).status).toBe(200);
    const first = await told('2025-11-01', '2025-11-30');
    expect(first.map(cells => [cells[0], cells[1], cells[2], cells[5], cells[6], cells[7], cells[8]])).toEqual([
      ['10412', 'Ina Okell', '', '2025-11-03', '1', '450', ''],
      ['10412', 'Ina Okell', '3100', '2025-11-04', '1', '450', ''],
    ]);
    const taken = { what: 'own', person: 'per', set: { number: '10412' } };
    expect((await kay.call('POST', '/records/preview', { change: taken })).body).toMatchObject({
      faults: [{ field: 'change.number' }],
    });
    const span = { from: { date: '2025-11-05', half: 'am' }, to: { date: '2025-11-05', half: 'am' } };
    await kay.call('POST', '/leave', { id: randomUUID(), person: 'ina', type: 'annual', span, reason: 'Found later' });
    const second = await told('2025-12-01', '2025-12-31');
    expect(second.map(cells => [cells[5], cells[6], cells[8], cells[9]])).toEqual([
      ['2025-11-05', '0.5', 'changed', '0'],
    ]);
    expect(await told('2025-12-01', '2025-12-31')).toEqual([]);
    expect((await kay.call('POST', '/leave/pay', { from: '2026-02-01', to: '2026-01-01' })).status).toBe(400);
    // However often pay was told since, nothing is told again that it has.
    const nothing = { from: '2026-01-01', to: '2026-01-07', by: 'kay', at: '2026-02-02T10:00:00Z', lines: [] };
    await small.db.insert(t.payExports).values(Array.from({ length: 70 }, () => nothing));
    expect(await told('2025-12-01', '2025-12-31')).toEqual([]);
    // Nor by two at once.
    const late = { from: { date: '2025-11-06', half: 'am' }, to: { date: '2025-11-06', half: 'pm' } };
    await kay.call('POST', '/leave', { id: randomUUID(), person: 'ina', type: 'annual', span: late, reason: 'Later' });
    const period = { from: '2026-01-01', to: '2026-01-31' };
    const both = await Promise.all([1, 2].map(() => kay.call('POST', '/leave/pay', period)));
    const rows = await small.db.select().from(t.payExports);
    expect(rows.filter(one => one.lines.some(line => line.date === '2025-11-06'))).toHaveLength(1);
    for (const { status } of both) expect([201, 409]).toContain(status);
  });
});
