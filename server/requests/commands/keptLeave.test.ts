import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type {
  BalanceView,
  ChangePreview,
  MeasuresView,
  PlannerRows,
  RequestView,
  StuckRow,
} from '@north-pebble/contract';
import { tables as t } from '../../database/index.ts';
import { type Browser, eventually, type Small, signedIn, startSmall } from '../../testing/serving.ts';

let small: Small;
let kay: Browser;
let ina: Browser;
beforeAll(async () => {
  small = await startSmall();
  kay = await signedIn(small.base, 'kay');
  ina = await signedIn(small.base, 'ina');
});
afterAll(() => small.stop());

const halves = (from: string, to: string) =>
  ({ from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } }) as never;
const book = (who: Browser, from: string, to: string, reason = 'Asked for by telephone') =>
  who.call<{ request: string }>('POST', '/leave', {
    id: randomUUID(),
    person: 'ina',
    type: 'annual',
    span: halves(from, to),
    reason,
  });
const statementOf = async (which: 'statement' | 'ahead' = 'statement') => {
  const [annual] = (await ina.get<BalanceView>('/balances/ina')).body.types;
  return annual[which];
};

describe('leave that HR keeps', () => {
  test('is booked for days that have passed, changed and voided; trail, statement and mails say why', async () => {
    const before = (await statementOf()).balance;
    expect((await ina.ask('2026-01-12', '2026-01-14')).problem.detail).toContain('Turn to HR operations');
    const { body } = await book(kay, '2026-01-12', '2026-01-14');
    const booked = await statementOf();
    expect(booked.balance).toBe(before - 3);
    expect(booked.lines.at(-1)).toMatchObject({ date: '2026-01-12', until: '2026-01-14', request: body.request });
    expect(booked.lines.at(-1)?.reason).toContain('Asked for by telephone');

    const view = async () => (await kay.get<RequestView>(`/requests/${body.request}`)).body;
    const seen = await view();
    expect(seen).toMatchObject({ status: 'closed', subject: 'ina', may: { keepLeave: true } });
    const changed = await kay.command(body.request, {
      kind: 'change leave',
      seen: seen.version,
      span: halves('2026-01-12', '2026-01-13'),
      reason: 'Came back a day earlier',
    });
    expect(changed.status).toBe(200);
    expect((await statementOf()).balance).toBe(before - 2);
    const voided = await kay.command(body.request, {
      kind: 'void leave',
      seen: changed.body.version,
      reason: 'Was at the harbour after all',
    });
    expect(voided.status).toBe(200);
    expect((await statementOf()).balance).toBe(before);
    const trail = (await view()).trail;
    expect(trail.map(line => line.note)).toEqual(
      expect.arrayContaining(['Asked for by telephone', 'Came back a day earlier', 'Was at the harbour after all']),
    );
    const letters = await small.db.select().from(t.effects);
    const told = letters.map(l => l.payload).filter(letter => letter.to === 'ina');
    expect(told.map(letter => letter.subject.split(':')[0])).toEqual(['Booked', 'Changed', 'Voided']);
    expect((await kay.command(body.request, { kind: 'void leave', seen: 99, reason: 'Again' })).status).toBe(409);
  });

  test('does not lie over other leave, and not outside of employment', async () => {
    await ina.ask('2026-06-01', '2026-06-02');
    const clash = await book(kay, '2026-06-02', '2026-06-03');
    expect(clash).toMatchObject({ status: 400, problem: { faults: [{ field: 'dates' }] } });
    expect((await book(kay, '2019-06-03', '2019-06-04')).status).toBe(400);
    expect((await book(kay, '2026-06-09', '2026-06-09', '  ')).status).toBe(400);
    expect((await book(ina, '2026-06-09', '2026-06-09')).status).toBe(403);
  });

  test('somebody is called back in the middle of it: those days come back, the rest is leave of its own, told in one letter', async () => {
    const before = (await statementOf()).balance;
    const { body } = await book(kay, '2026-02-09', '2026-02-13', 'By telephone');
    const view = async (id: string) => (await kay.get<RequestView>(`/requests/${id}`)).body;
    const back = (seen: number, from: string, to: string, id = randomUUID(), who = kay) =>
      who.command(body.request, { kind: 'call back', seen, days: halves(from, to), reason: 'The lamp is out' }, id);
    const seen = (await view(body.request)).version;
    // Not days that are none of it, not all of it, and not by whoever may not.
    const outside = await back(seen, '2026-02-16', '2026-02-17');
    expect([outside.status, outside.problem.faults?.[0]]).toMatchObject([400, { field: 'days' }]);
    const all = await back(seen, '2026-02-09', '2026-02-13');
    expect(all.problem.faults?.[0].message).toBe('That is all of the leave. Void it instead.');
    expect((await back(seen, '2026-02-11', '2026-02-12', randomUUID(), ina)).status).toBe(403);

    const lettersBefore = await small.db.$count(t.effects);
    const id = randomUUID();
    expect((await back(seen, '2026-02-11', '2026-02-12', id)).status).toBe(200);
    // The same sent again, and another who was slower.
    expect((await back(seen, '2026-02-11', '2026-02-12', id)).status).toBe(200);
    expect((await back(seen, '2026-02-10', '2026-02-10')).status).toBe(409);

    const { lines } = await statementOf('ahead');
    // Friday 13 is half a holiday in Ovay.
    const of = lines.filter(line => line.kind === 'taken' && line.date >= '2026-02-09' && line.date <= '2026-02-13');
    expect(of.map(({ date, until, amount }) => [date, until ?? date, amount])).toEqual([
      ['2026-02-09', '2026-02-10', -2],
      ['2026-02-13', '2026-02-13', -0.5],
    ]);
    expect((await statementOf()).balance).toBe(before);
    const rest = await view(of[1]?.request ?? '');
    expect(rest).toMatchObject({ status: 'closed', subject: 'ina', may: { keepLeave: true } });
    const trailOf = async (request: string) =>
      (await view(request)).trail.map(line => `${line.text} ${line.note ?? ''}`);
    expect(await trailOf(body.request)).toEqual(
      expect.arrayContaining([
        'called them back to work for Wed 11 to Thu 12 February; Fri 13 February stays leave, under a request of its own The lamp is out',
      ]),
    );
    expect((await trailOf(rest.id)).join()).toContain(
      `booked the rest of ${body.request}: annual leave, Fri 13 February`,
    );
    const letters = (await small.db.select().from(t.effects)).slice(lettersBefore).map(row => row.payload);
    expect(letters).toHaveLength(1);
    expect(letters[0]).toMatchObject({ to: 'ina' });
    expect(letters[0].body).toContain(
      'has called you back to work for Wed 11 to Thu 12 February. That is no leave any more. Mon 9 to Tue 10 February and Fri 13 February stay leave: The lamp is out',
    );
    // Called back from the rest of its first part, from an afternoon on.
    const now = (await view(body.request)).version;
    const half = { from: { date: '2026-02-10', half: 'pm' }, to: { date: '2026-02-10', half: 'pm' } } as never;
    expect(
      (await kay.command(body.request, { kind: 'call back', seen: now, days: half, reason: 'Once more' })).status,
    ).toBe(200);
    const [first] = (await statementOf('ahead')).lines.filter(line => line.request === body.request);
    expect(first).toMatchObject({ date: '2026-02-09', until: '2026-02-10', amount: -1.5 });
  });

  test('free days alone are no leave that stays: the rest begins with the first day on which something is taken', async () => {
    // Saturday to Friday, called back for Monday and Tuesday.
    const { body } = await book(kay, '2026-03-21', '2026-03-27', 'By telephone');
    const back = (seen: number, from: string, to: string) =>
      kay.command(body.request, { kind: 'call back', seen, days: halves(from, to), reason: 'The lamp is out' });
    const { version } = (await kay.get<RequestView>(`/requests/${body.request}`)).body;
    const all = await back(version, '2026-03-23', '2026-03-27');
    expect(all.problem.faults?.[0].message).toBe('That is all of the leave. Void it instead.');
    const before = await small.db.$count(t.effects);
    expect((await back(version, '2026-03-23', '2026-03-24')).status).toBe(200);
    const own = (await small.db.select().from(t.leaveEntries)).filter(entry => entry.firstDay.startsWith('2026-03'));
    expect(own).toMatchObject([{ request: body.request, span: halves('2026-03-25', '2026-03-27') }]);
    const letters = (await small.db.select().from(t.effects)).slice(before).map(row => row.payload);
    expect(letters).toHaveLength(1);
    // Named as they know it.
    expect(letters[0].subject).toBe('Called back: Annual leave, Sat 21 to Fri 27 March');
    expect(letters[0].body).toContain('That is no leave any more. Wed 25 to Fri 27 March stays leave: The lamp is out');
  });

  test('leave by times is not called back from, it is changed', async () => {
    const span = { from: { date: '2026-02-17', time: '09:00' }, to: { date: '2026-02-17', time: '12:30' } } as never;
    const { body } = await kay.call<{ request: string; version: number }>('POST', '/leave', {
      ...{ id: randomUUID(), person: 'ina', type: 'annual', span, reason: 'Dentist' },
    });
    const days = halves('2026-02-17', '2026-02-17');
    const { status, problem } = await kay.command(body.request, {
      ...{ kind: 'call back', seen: body.version, days, reason: 'x' },
    });
    expect(status).toBeGreaterThanOrEqual(400);
    expect(problem.detail).toContain('Only leave by whole and half days');
  });
});

test('a request that is refused takes no number', async () => {
  const numberOf = (request: string) => Number(request.slice(2));
  const first = (await book(kay, '2026-10-01', '2026-10-01')).body.request;
  expect((await ina.ask('2026-01-12', '2026-01-14')).status).toBe(400);
  expect((await book(kay, '2026-10-02', '2026-10-01')).status).toBe(400);
  expect((await ina.ask('2026-10-01', '2026-10-02')).status).toBe(400);
  const next = (await ina.ask('2026-10-08', '2026-10-08')).body.request;
  expect(numberOf(next)).toBe(numberOf(first) + 1);
});

describe('a change of booked leave that is being decided', () => {
  test('holds the days that it asks for, for the balance, the planner and the next request', async () => {
    const tom = await signedIn(small.base, 'tom');
    const { request } = (await ina.ask('2026-07-06', '2026-07-08')).body;
    const seen = async (who: Browser) => (await who.get<RequestView>(`/requests/${request}`)).body;
    const answer = async (outcome: 'approve' | 'decline') => {
      const { tasks, version } = await seen(tom);
      const command = { kind: 'answer', seen: version, task: tasks[0].id, outcome, note: 'so' } as const;
      expect((await tom.command(request, command)).status).toBe(200);
    };
    const change = async (from: string, to: string) => {
      const { version } = await seen(ina);
      const answers = { kind: 'annual', dates: halves(from, to) };
      return ina.command(request, { kind: 'change after approval', seen: version, answers, note: null });
    };
    const held = async () => {
      const [annual] = (await ina.get<BalanceView>('/balances/ina')).body.types;
      return annual.ahead.lines.filter(line => line.reason.includes('asked for')).map(line => [line.date, line.amount]);
    };
    const bars = async () => {
      const found = await kay.get<PlannerRows>('/planner/rows?from=2026-07-01&to=2026-07-31&place=ovay');
      return found.body.rows?.find(row => row.id === 'ina')?.bars.map(bar => bar.kind);
    };
    await answer('approve');
    const none = await held();
    const watched = async () =>
      (await small.db.select().from(t.timers)).filter(one => one.request === request && one.what === 'leave').length;
    expect(await watched()).toBe(0);
    expect((await change('2026-07-06', '2026-07-10')).status).toBe(200);
    expect(await watched()).toBe(1);
    expect(await held()).toEqual([...none, ['2026-07-09', -2]]);
    expect(await bars()).toEqual(['booked', 'asked']);
    expect((await ina.ask('2026-07-10', '2026-07-10')).problem.detail).toContain(request);
    // A holiday in both counts the booking anew, once.
    const { calendars } = (await kay.get<MeasuresView>('/measures')).body;
    const calendar = calendars.find(one => one.id === 'ovay');
    const holidays = ['2026-07-07', '2026-07-10'].map(date => ({ date, part: 'day', name: 'Regatta' }));
    const { id, name, buildsOn, rules } = calendar as NonNullable<typeof calendar>;
    const changed = {
      what: 'calendar',
      calendar: { id, name, buildsOn, rules, holidays: [...(calendar?.holidays ?? []), ...holidays] },
    };
    const { digest } = (await kay.call<ChangePreview>('POST', '/records/preview', { change: changed })).body;
    const made = await kay.call<{ id: number }>('POST', '/records/changes', {
      change: changed,
      reason: 'Races',
      digest,
    });
    expect(made.status).toBe(200);
    const restated = await small.db.select().from(t.restatements);
    expect(restated.filter(one => one.request === request)).toMatchObject([{ before: 3, after: 2, state: 'booked' }]);
    const back = await kay.call('POST', `/records/changes/${made.body.id}/back`, { reason: 'No races' });
    expect(back.status).toBe(200);
    await answer('decline');
    expect(await held()).toEqual(none);
    expect(await bars()).toEqual(['booked']);
    expect((await change('2026-07-02', '2026-07-08')).status).toBe(200);
    expect(await bars()).toEqual(['asked', 'booked']);
    await answer('approve');
    expect(await bars()).toEqual(['booked']);
    expect(await held()).toEqual(none);
  });
});

test('leave whose days have passed is HR’s to book or to let end, on the list of what is blocked and on its page', async () => {
  const tom = await signedIn(small.base, 'tom');
  const { request } = (await ina.ask('2026-02-24', '2026-02-26')).body;
  const { tasks } = (await tom.get<RequestView>(`/requests/${request}`)).body;
  expect((await kay.call('POST', '/clock', { days: 30, hours: 0 })).status).toBe(200);
  const seen = async (who: Browser) => (await who.get<RequestView>(`/requests/${request}`)).body;
  await eventually(async () => (await seen(kay)).status === 'stuck');
  expect((await seen(kay)).may).toMatchObject({ decidePast: true, tryAgain: false, appoint: null });
  expect((await seen(ina)).may).toMatchObject({ decidePast: false });
  const { version } = await seen(kay);
  const late = { kind: 'answer', seen: version, task: tasks[0]?.id ?? '', outcome: 'approve', note: null } as const;
  expect((await tom.command(request, late)).status).toBe(409);
  expect((await tom.command(request, { kind: 'book past', seen: version, reason: 'So' })).status).toBe(403);
  const rows = (await kay.get<StuckRow[]>('/requests/stuck')).body.filter(row => row.request === request);
  expect(rows).toMatchObject([{ cause: 'days have passed', remedies: ['book past', 'let end'] }]);
  expect((await kay.command(request, { kind: 'book past', seen: version, reason: 'She was away' })).status).toBe(200);
  const after = await seen(ina);
  expect(after).toMatchObject({ status: 'closed', closing: 'approved' });
  expect((await statementOf()).lines.find(line => line.request === request)).toMatchObject({
    date: '2026-02-24',
    until: '2026-02-26',
    request,
  });
});
