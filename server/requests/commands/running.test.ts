import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { DeskView, PreviewView, RequestView } from '@north-pebble/contract';
import { count } from 'drizzle-orm';
import { tables as t } from '../../database/index.ts';
import { Browser, type Small, signedIn, startSmall } from '../../testing/serving.ts';

let small: Small;
const people: Record<string, Browser> = {};
beforeAll(async () => {
  small = await startSmall();
  for (const who of ['ina', 'tom', 'dora', 'per', 'kay', 'con', 'sub']) people[who] = await signedIn(small.base, who);
});
afterAll(() => small.stop());

const rows = async () => {
  const counts = [t.requests, t.events, t.leaveEntries, t.tasks, t.effects, t.commands, t.timers].map(async table => {
    const [row] = await small.db.select({ n: count() }).from(table);
    return row.n;
  });
  return Promise.all(counts);
};
const view = async (who: string, id: string) => (await people[who].get<RequestView>(`/requests/${id}`)).body;
const taskOf = async (who: string, id: string) => {
  const { tasks, version } = await view(who, id);
  return { task: tasks[0].id, seen: version };
};

describe('a request from asking to booking', () => {
  test('is sent back, changed, approved; each reader sees the same trail and nobody else sees it', async () => {
    const sent = await people.ina.ask('2026-03-09', '2026-03-13');
    expect(sent.status).toBe(201);
    const id = sent.body.request;
    const desk = (await people.tom.get<DeskView>('/desk')).body;
    expect(desk.items).toMatchObject([{ request: id, what: '5 days of annual leave', kind: 'decide', again: false }]);

    const first = await taskOf('tom', id);
    const back = await people.tom.command(id, { kind: 'answer', ...first, outcome: 'back', note: 'Back by Thursday?' });
    expect(back.status).toBe(200);
    expect((await people.ina.get<DeskView>('/desk')).body.items).toMatchObject([{ request: id, kind: 'rework' }]);
    const dates = { from: { date: '2026-03-09', half: 'am' }, to: { date: '2026-03-11', half: 'pm' } };
    const again = await people.ina.command(id, {
      kind: 'resubmit',
      seen: back.body.version,
      answers: { kind: 'annual', dates },
    });
    expect(again.status).toBe(200);
    const seen = await view('tom', id);
    expect(seen.changes).toMatchObject([{ field: 'dates', after: dates }]);
    expect(seen.leave?.balance).toMatchObject({ now: 31, after: 28 });
    expect(seen.team?.people.map(p => p.name)).toEqual(['Ina Okell']);

    const second = await taskOf('tom', id);
    expect((await people.tom.command(id, { kind: 'answer', ...second, outcome: 'approve' })).status).toBe(200);
    const ended = await view('ina', id);
    expect(ended).toMatchObject({ status: 'closed', standing: 'Approved' });
    expect(ended.trail.map(l => l.text)).toEqual(
      expect.arrayContaining(['changed it and sent it again', 'closed: Approved']),
    );
    expect((await people.sub.get(`/requests/${id}`)).status).toBe(404);
    expect((await people.sub.get('/requests/R-999999')).body).toEqual((await people.sub.get(`/requests/${id}`)).body);
  });

  test('drafts are kept per person and taken away when the request is sent', async () => {
    const answers = { kind: 'annual', remark: 'half typed' };
    expect((await people.per.call('PUT', '/askable/annual/draft', { answers })).status).toBe(200);
    expect((await people.per.get<{ draft: unknown }>('/askable/annual')).body.draft).toMatchObject({ answers });
    expect((await people.ina.get<{ draft: unknown }>('/askable/annual')).body.draft).toBeNull();
    expect((await people.per.ask('2026-09-07', '2026-09-08')).status).toBe(201);
    expect((await people.per.get<{ draft: unknown }>('/askable/annual')).body.draft).toBeNull();
  });

  test('while typing, the figures and their reasons come before anything is sent', async () => {
    const dates = { from: { date: '2026-02-09', half: 'am' }, to: { date: '2026-02-13', half: 'pm' } };
    const before = await rows();
    const { body } = await people.ina.call<PreviewView>('POST', '/preview', {
      workflow: 'annual',
      answers: { kind: 'annual', dates },
    });
    expect(body.figures).toMatchObject({ days: 4.5 });
    expect(body.leave?.days.at(-1)?.reason).toContain('Ovay Friday');
    expect(await rows()).toEqual(before);
  });
});

describe('bad input is answered at its place, and nothing is stored by half', () => {
  test.each([
    ['a span that ends before it starts', '2026-04-10', '2026-04-09', 'The last day is before the first.'],
    ['more than the balance', '2026-04-01', '2026-06-30', 'only the first 26 of them are free'],
    ['an overlap with own leave', '2026-03-10', '2026-03-10', 'overlap your annual leave'],
  ])('%s', async (_, from, to, message) => {
    const before = await rows();
    const { status, problem } = await people.ina.ask(from, to);
    expect(status).toBe(400);
    expect(problem.faults).toMatchObject([{ field: 'dates' }]);
    expect(problem.detail).toContain(message);
    expect(await rows()).toEqual(before);
  });

  test('malformed JSON, a wrong shape, an unknown workflow and an unknown command', async () => {
    const before = await rows();
    const broken = await people.ina.call('POST', '/requests', '{"id": ');
    expect(broken).toMatchObject({
      status: 400,
      problem: { code: 'bad input', detail: expect.stringContaining('not JSON') },
    });
    const shape = await people.ina.call('POST', '/requests', { id: 'x', workflow: 'annual', answers: {} });
    expect(shape.problem.faults).toMatchObject([{ field: 'id' }]);
    const unknown = await people.ina.call('POST', '/requests', { id: randomUUID(), workflow: 'moon', answers: {} });
    expect(unknown.status).toBe(404);
    const odd = await people.ina.call('POST', '/requests/R-1/commands', {
      id: randomUUID(),
      command: { kind: 'explode' },
    });
    expect(odd.status).toBe(400);
    expect(await rows()).toEqual(before);
  });

  test('a call from elsewhere, without the header of our own pages, is refused', async () => {
    const { status } = await people.ina.call('POST', '/preview', {}, { 'X-North-Pebble': '' });
    expect(status).toBe(403);
  });

  test('no manager to be found: the request is kept, stuck with its reason, and HR operations see it', async () => {
    const { body } = await people.con.ask('2026-03-09', '2026-03-13');
    expect(await view('con', body.request)).toMatchObject({
      status: 'stuck',
      stuck: expect.stringContaining('holds no post'),
    });
    const { items } = (await people.kay.get<DeskView>('/desk')).body;
    expect(items).toMatchObject([{ request: body.request, kind: 'stuck' }]);
    const { version } = await view('kay', body.request);
    expect((await people.con.command(body.request, { kind: 'try again', seen: version })).status).toBe(403);
    const tried = await people.kay.command(body.request, { kind: 'try again', seen: version });
    expect(tried.status).toBe(200);
    expect((await view('kay', body.request)).status).toBe('stuck');
  });
});

describe('two people, two browsers, two tries', () => {
  test('a stale decision is refused and says who was faster', async () => {
    const { body } = await people.ina.ask('2026-07-06', '2026-07-10');
    const { task, seen } = await taskOf('tom', body.request);
    const other = await signedIn(small.base, 'tom');
    const note = 'Not in July.';
    const decided = await other.command(body.request, { kind: 'answer', task, seen, outcome: 'back', note });
    expect(decided.status).toBe(200);
    const late = await people.tom.command(body.request, { kind: 'answer', task, seen, outcome: 'approve' });
    expect(late.status).toBe(409);
    expect(late.problem.detail).toContain('Tom Lund');
    const withdrawn = await people.ina.command(body.request, { kind: 'withdraw', seen: decided.body.version });
    expect(withdrawn.status).toBe(200);
    const closed = await people.tom.command(body.request, {
      kind: 'answer',
      task,
      seen: withdrawn.body.version,
      outcome: 'approve',
    });
    expect(closed.problem.detail).toContain('Ina Okell withdrew this');
  });

  test('decided and withdrawn at the same moment: one of them counts, the other hears which', async () => {
    const other = await signedIn(small.base, 'tom');
    for (const [n, day] of ['02', '09', '16', '23'].entries()) {
      const { body } = await people.ina.ask(`2026-11-${day}`, `2026-11-${String(Number(day) + 2).padStart(2, '0')}`);
      const { task, seen } = await taskOf('tom', body.request);
      const decide = () => other.command(body.request, { kind: 'answer', task, seen, outcome: 'approve' });
      const withdraw = () => people.ina.command(body.request, { kind: 'withdraw', seen });
      const both = await Promise.all(n % 2 ? [decide(), withdraw()] : [withdraw(), decide()]);
      expect(both.map(answer => answer.status).sort()).toEqual([200, 409]);
      const decided = both[n % 2 ? 0 : 1].status === 200;
      const refused = both.find(answer => answer.status === 409);
      expect(refused?.problem.detail).toContain(decided ? 'Tom Lund' : 'Ina Okell');
      const { status, trail } = (await people.ina.get<RequestView>(`/requests/${body.request}`)).body;
      expect(status).toBe(decided ? 'closed' : 'withdrawn');
      expect(trail.some(line => line.text.startsWith('booked'))).toBe(decided);
    }
  });

  test('the same command twice, even at once, does its work once and gives the same answer', async () => {
    const id = randomUUID();
    const before = await rows();
    const answers = await Promise.all([1, 2, 3].map(() => people.ina.ask('2026-10-12', '2026-10-16', id)));
    expect(new Set(answers.map(a => a.body.request)).size).toBe(1);
    const after = await rows();
    expect(after[0] - before[0]).toBe(1);
    const later = await people.ina.ask('2026-10-12', '2026-10-16', id);
    expect(later.body).toEqual(answers[0].body);
    expect(await rows()).toEqual(after);
  });

  test('a decision by someone who may not, or on a request that is not theirs to know', async () => {
    const { body } = await people.ina.ask('2026-08-10', '2026-08-14');
    const { task, seen } = await taskOf('tom', body.request);
    const before = await rows();
    const answer = { kind: 'answer' as const, task, seen, outcome: 'approve' };
    expect((await people.ina.command(body.request, answer)).status).toBe(403);
    expect((await people.dora.command(body.request, answer)).status).toBe(403);
    expect((await people.sub.command(body.request, answer)).status).toBe(404);
    expect((await people.tom.command(body.request, { ...answer, outcome: 'decline' })).problem.faults).toMatchObject([
      { field: 'note' },
    ]);
    expect(await rows()).toEqual(before);
  });

  test('many askers for the last of one balance at once: exactly as much is held as there is', async () => {
    const weeks = [
      '2026-05-04',
      '2026-05-11',
      '2026-05-18',
      '2026-06-01',
      '2026-06-08',
      '2026-06-15',
      '2026-07-13',
      '2026-07-20',
    ];
    const friday = (monday: string) => new Date(Date.parse(monday) + 4 * 86_400_000).toISOString().slice(0, 10);
    const answers = await Promise.all(weeks.map(monday => people.sub.ask(monday, friday(monday))));
    // 26 days are left after the carry-over has lapsed: five weeks fit, and no more.
    expect(answers.filter(a => a.status === 201)).toHaveLength(5);
    expect(answers.filter(a => a.status === 400)).toHaveLength(3);
  });
});

describe('signed out', () => {
  test.each([
    ['GET', '/desk'],
    ['GET', '/requests'],
    ['GET', '/requests/R-1'],
    ['POST', '/requests'],
    ['POST', '/requests/R-1/commands'],
    ['POST', '/preview'],
    ['GET', '/askable'],
    ['GET', '/askable/annual'],
    ['PUT', '/askable/annual/draft'],
    ['DELETE', '/askable/annual/draft'],
    ['GET', '/workflows'],
    ['GET', '/workflows/annual'],
    ['PUT', '/workflows/annual/draft'],
    ['DELETE', '/workflows/annual/draft'],
    ['POST', '/workflows/annual/publish'],
    ['GET', '/directory'],
    ['GET', '/balances/me'],
    ['GET', '/planner?from=2026-02-02&to=2026-02-15'],
    ['POST', '/clock'],
    ['GET', '/mailroom'],
  ])('%s %s is refused', async (method, path) => {
    const { status, problem } = await new Browser(small.base).call(method, path, method === 'GET' ? undefined : {});
    expect(status).toBe(401);
    expect(problem.code).toBe('signed out');
  });
});
