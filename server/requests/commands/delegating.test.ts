/** Passing requests on, asking back, standing in, changing after approval: over HTTP, on a real database. */

import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { BalanceView, CoversView, DeskView, RequestView } from '@north-pebble/contract';
import { type Command, fold } from '@north-pebble/core/workflow';
import { and, desc, eq, gt } from 'drizzle-orm';
import { anchorAll, audit, beginSeals } from '../../audit/index.ts';
import { tables as t } from '../../database/index.ts';
import { type Browser, eventually, type Small, signedIn, startSmall } from '../../testing/serving.ts';

let small: Small;
const people = {} as Record<'ina' | 'tom' | 'dora' | 'kay' | 'per' | 'sub', Browser>;

beforeAll(async () => {
  small = await startSmall({ NP_ANCHOR_EVERY: '3600000' });
  for (const name of ['ina', 'tom', 'dora', 'kay', 'per', 'sub'] as const) {
    people[name] = await signedIn(small.base, name);
  }
});
afterAll(() => small.stop());

/** Asked by Ina; sick leave takes from no balance, so there is enough of it for every test. */
async function asked(from: string, to: string, kind = 'sick'): Promise<string> {
  const dates = { from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } };
  const body = { id: randomUUID(), workflow: 'annual', answers: { kind, dates } };
  return (await people.ina.call<{ request: string }>('POST', '/requests', body)).body.request;
}
const seen = async (who: Browser, request: string) => (await who.get<RequestView>(`/requests/${request}`)).body;
const desk = async (who: Browser) => (await who.get<DeskView>('/desk')).body.items;
const itemOf = async (who: Browser, request: string) => (await desk(who)).find(i => i.request === request);
/** A command on the version that its sender has in front of them. */
async function give(who: Browser, request: string, command: object) {
  const view = await seen(who, request);
  const [task] = view.tasks ?? [];
  return who.command(request, { seen: view.version, task: task?.id, ...command } as Command);
}
const decide = (who: Browser, request: string, outcome = 'approve') =>
  give(who, request, { kind: 'answer', outcome, note: 'so' });

describe('a question and its reply', () => {
  test('wait on the asker’s desk, then on the holder’s again', async () => {
    const request = await asked('2026-03-02', '2026-03-06');
    await give(people.tom, request, { kind: 'ask', question: 'Who feeds the gulls?' });
    expect(await itemOf(people.ina, request)).toMatchObject({
      kind: 'reply',
      facts: ['Tom Lund asks: “Who feeds the gulls?”'],
    });
    expect(await itemOf(people.tom, request)).toMatchObject({ kind: 'decide', question: 'Who feeds the gulls?' });
    expect((await seen(people.ina, request)).may).toMatchObject({ reply: `${request}.1`, pass: null });
    expect((await give(people.kay, request, { kind: 'reply', reply: 'Me.' })).status).toBe(403);
    expect((await give(people.ina, request, { kind: 'reply', reply: 'Per does.' })).status).toBe(200);
    expect(await itemOf(people.ina, request)).toBeUndefined();
    expect(await itemOf(people.tom, request)).toMatchObject({ question: null });
    const { trail } = await seen(people.tom, request);
    expect(trail.map(line => line.note)).toEqual(expect.arrayContaining(['Who feeds the gulls?', 'Per does.']));
    await decide(people.tom, request);
  });
});

describe('passing on', () => {
  test('handed over, it leaves one desk for the other, and both go on seeing it', async () => {
    const request = await asked('2026-03-09', '2026-03-13');
    const { status } = await give(people.tom, request, { kind: 'hand over', to: { person: 'per' }, note: 'You know.' });
    expect(status).toBe(200);
    expect(await itemOf(people.tom, request)).toBeUndefined();
    expect(await itemOf(people.per, request)).toMatchObject({ kind: 'decide' });
    expect((await seen(people.tom, request)).standing).toBe('waits for Per Lauder');
    expect((await decide(people.per, request)).status).toBe(200);
  });

  test('what is wrong is said at its field, and nothing is changed', async () => {
    const request = await asked('2026-03-16', '2026-03-20');
    const bad = await give(people.tom, request, { kind: 'hand over', to: { person: 'ina' }, note: 'Yours.' });
    expect(bad).toMatchObject({ status: 400, problem: { faults: [{ field: 'to' }] } });
    const past = await give(people.tom, request, { kind: 'set aside', until: '2026-02-01' });
    expect(past).toMatchObject({ status: 400, problem: { faults: [{ field: 'until' }] } });
    expect((await seen(people.tom, request)).tasks[0].holder).toBe('tom');
    await decide(people.tom, request);
  });

  test('set aside, it stands in its own group until its day', async () => {
    const request = await asked('2026-03-23', '2026-03-27');
    await give(people.tom, request, { kind: 'set aside', until: '2026-02-05', note: 'tide table' });
    expect(await itemOf(people.tom, request)).toMatchObject({ aside: { until: '2026-02-05', note: 'tide table' } });
    await give(people.tom, request, { kind: 'bring back' });
    expect(await itemOf(people.tom, request)).toMatchObject({ aside: null });
    await decide(people.tom, request);
  });
});

describe('standing in', () => {
  const cover = { by: 'kay', from: '2026-02-02', to: '2026-02-20' };

  test('who stands in sees and answers what came before and what comes after; the trail says for whom', async () => {
    const before = await asked('2026-04-06', '2026-04-10');
    const { body } = await people.tom.call<CoversView>('PUT', '/covers', cover);
    expect(body.mine).toMatchObject([{ by: 'kay', workflows: null, setByName: null }]);
    const after = await asked('2026-04-13', '2026-04-17');
    expect(await itemOf(people.kay, before)).toMatchObject({ coverFor: 'Tom Lund' });
    expect(await itemOf(people.kay, after)).toMatchObject({ coverFor: 'Tom Lund' });
    // The one who is covered sees both as well, and may still answer.
    expect(await itemOf(people.tom, after)).toMatchObject({ coveredBy: 'Kay Voss' });
    expect((await decide(people.kay, before)).status).toBe(200);
    expect((await decide(people.tom, after)).status).toBe(200);
    const words = (await seen(people.ina, before)).trail.map(line => `${line.who} ${line.text}`);
    expect(words).toContain('Kay Voss answered “Approve” at step 3 for Tom Lund');
    await people.tom.call('DELETE', `/covers/tom/${cover.from}`);
    expect((await people.tom.get<CoversView>('/covers')).body.mine).toEqual([]);
  });

  test('for other workflows only, it changes nothing here', async () => {
    const set = await people.tom.call('PUT', '/covers', { ...cover, workflows: ['annual', 'none'] });
    expect(set).toMatchObject({ status: 400, problem: { faults: [{ field: 'workflows' }] } });
  });

  test.each([
    ['oneself', { by: 'tom' }, 'by'],
    ['somebody who has left', { by: 'old' }, 'by'],
    ['a time that is past', { from: '2025-01-01', to: '2025-02-01' }, 'to'],
    ['a time that ends before it begins', { to: '2026-02-01' }, 'to'],
  ])('never by %s', async (_, change, field) => {
    const { status, problem } = await people.tom.call('PUT', '/covers', { ...cover, ...change });
    expect(status).toBe(400);
    expect(problem.faults?.map(f => f.field)).toEqual([field]);
  });

  test('is suggested for approved leave, and set by HR operations for somebody who is ill', async () => {
    const own = await asked('2026-05-18', '2026-05-22');
    await decide(people.tom, own);
    expect((await people.ina.get<CoversView>('/covers')).body.suggested).toContainEqual({
      from: '2026-05-18',
      to: '2026-05-22',
    });
    const set = { person: 'ina', by: 'per', from: '2026-05-18', to: '2026-05-22' };
    expect((await people.per.call('PUT', '/covers', set)).status).toBe(403);
    const { body } = await people.kay.call<CoversView>('PUT', '/covers', set);
    expect(body).toMatchObject({
      mine: [{ byName: 'Per Lauder', setByName: 'Kay Voss' }],
      suggested: expect.any(Array),
    });
    expect(body.suggested).not.toContainEqual({ from: '2026-05-18', to: '2026-05-22' });
    const again = await people.kay.call('PUT', '/covers', { ...set, by: 'tom', from: '2026-05-20' });
    expect(again).toMatchObject({ status: 400, problem: { faults: [{ field: 'from' }] } });
  });
});

describe('after approval', () => {
  const balance = async () => (await people.ina.get<BalanceView>('/balances/ina')).body;
  const taken = async () => JSON.stringify(await balance());
  const spans = async (request: string) =>
    small.db.select().from(t.leaveEntries).where(eq(t.leaveEntries.request, request));

  test('a change is decided, and only the difference is booked', async () => {
    const request = await asked('2026-06-01', '2026-06-05', 'annual');
    await decide(people.tom, request);
    expect((await seen(people.ina, request)).may).toMatchObject({ change: true, cancel: true });
    expect((await seen(people.tom, request)).may).toMatchObject({ change: false, cancel: false });
    const dates = { from: { date: '2026-06-01', half: 'am' }, to: { date: '2026-06-03', half: 'pm' } };
    const change = { kind: 'change after approval', answers: { kind: 'annual', dates } };
    expect((await give(people.ina, request, change)).status).toBe(200);
    expect(await spans(request)).toMatchObject([{ state: 'booked', lastDay: '2026-06-05' }]);
    expect(await itemOf(people.tom, request)).toMatchObject({ again: true });
    expect((await seen(people.tom, request)).changes).toMatchObject([{ field: 'dates' }]);
    await decide(people.tom, request);
    expect(await spans(request)).toMatchObject([{ state: 'booked', lastDay: '2026-06-03' }]);
  });

  test('cancelled, the booking is gone and the statement as before', async () => {
    const before = await taken();
    const request = await asked('2026-06-15', '2026-06-19', 'annual');
    await decide(people.tom, request);
    expect(await taken()).not.toBe(before);
    await give(people.ina, request, { kind: 'cancel after approval', note: 'No ferry' });
    expect(await spans(request)).toEqual([]);
    expect(await taken()).toBe(before);
    expect((await seen(people.ina, request)).standing).toBe('Cancelled after approval');
  });

  test('an administrator corrects it, with a reason', async () => {
    const request = await asked('2026-06-29', '2026-07-03');
    await decide(people.tom, request);
    const dates = { from: { date: '2026-06-29', half: 'am' }, to: { date: '2026-06-30', half: 'pm' } };
    const correct = { kind: 'correct', answers: { dates }, reason: 'Came back early' };
    expect((await give(people.kay, request, correct)).status).toBe(403);
    expect((await give(people.dora, request, correct)).status).toBe(200);
    expect(await spans(request)).toMatchObject([{ state: 'booked', lastDay: '2026-06-30' }]);
    expect((await seen(people.ina, request)).trail.at(-2)).toMatchObject({
      text: 'corrected it',
      note: 'Came back early',
    });
  });
});

describe('a comment', () => {
  test('is said by anybody who sees the request, and mailed to whoever it names', async () => {
    const request = await asked('2026-08-03', '2026-08-07');
    const command = { kind: 'comment' as const, text: 'Take the ferry', mentions: ['per'] as never[] };
    expect((await people.sub.command(request, command)).status).toBe(404);
    const stranger = await people.dora.command(request, { ...command, mentions: ['sub'] as never[] });
    expect(stranger).toMatchObject({ status: 400, problem: { detail: 'Sub Under may not see this request.' } });
    expect((await people.dora.command(request, command)).status).toBe(200);
    expect((await seen(people.ina, request)).trail.at(-1)).toMatchObject({
      who: 'Dora Quill',
      text: 'wrote a comment for Per Lauder',
      note: 'Take the ferry',
    });
    const mails = await small.db.select().from(t.effects);
    expect(mails.filter(m => m.payload.to === 'per' && m.payload.subject.startsWith('A comment'))).toHaveLength(1);
    await decide(people.tom, request);
  });
});

describe('what waits, told live', () => {
  test('a page that is open hears within two seconds that something came and went', async () => {
    const stop = new AbortController();
    const counts: { waiting: number; at: number }[] = [];
    const response = await fetch(`${small.base}/api/live`, {
      headers: { Cookie: people.tom.cookie },
      signal: stop.signal,
    });
    expect(response.headers.get('Content-Type')).toBe('text/event-stream');
    const reading = (async () => {
      const decoder = new TextDecoder();
      for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
        for (const [, data] of decoder.decode(chunk).matchAll(/data: (.*)/g)) {
          counts.push({ ...(JSON.parse(data) as { waiting: number }), at: Date.now() });
        }
      }
    })().catch(() => {});
    await eventually(async () => counts.length > 0);
    const [{ waiting }] = counts;
    const sent = Date.now();
    const request = await asked('2026-09-07', '2026-09-11');
    await eventually(async () => counts.at(-1)?.waiting === waiting + 1, 5);
    expect((counts.at(-1)?.at ?? 0) - sent).toBeLessThan(2500);
    await give(people.ina, request, { kind: 'withdraw' });
    await eventually(async () => counts.at(-1)?.waiting === waiting, 5);
    stop.abort();
    await reading;
  });
});

describe('the trail', () => {
  test('verifies as it was written, and names a row that was changed, taken out or added by hand', async () => {
    expect((await audit(small.db)).faults).toEqual([]);
    const request = await asked('2026-10-05', '2026-10-09');
    const where = (seq: number) => and(eq(t.events.request, request), eq(t.events.seq, seq));
    const [first] = await small.db.select().from(t.events).where(where(1));
    const faults = async () => (await audit(small.db)).faults.map(f => `${f.request} ${f.seq}: ${f.words}`);

    await small.db
      .update(t.events)
      .set({ body: { ...first.body, by: 'per' as never } })
      .where(where(1));
    expect(await faults()).toEqual([`${request} 1: the event is not the one that was sealed`]);
    await small.db.update(t.events).set({ body: first.body, actor: 'per' }).where(where(1));
    expect(await faults()).toEqual([`${request} 1: its columns say something else than the event`]);
    await small.db.update(t.events).set({ actor: first.actor }).where(where(1));
    expect(await faults()).toEqual([]);

    const rows = await small.db.select().from(t.events).where(eq(t.events.request, request));
    const last = rows.sort((a, b) => a.seq - b.seq).at(-1);
    if (!last) throw new Error('there is a last event');
    await small.db.delete(t.events).where(where(last.seq));
    expect(await faults()).toContain(`${request} null: events are missing at the end, or were added by hand`);
    await small.db.insert(t.events).values(last);
    expect(await faults()).toEqual([]);
  });

  test('names what is gone or washed clean: an emptied head, a request taken out whole, an end that was cut off', async () => {
    const { db } = small;
    const request = await asked('2026-11-02', '2026-11-06');
    await anchorAll(db);
    const words = async () => (await audit(db)).faults.map(f => `${f.request}: ${f.words}`);
    expect(await words()).toEqual([]);
    const [row] = await db.select().from(t.requests).where(eq(t.requests.id, request));
    const events = await db.select().from(t.events).where(eq(t.events.request, request)).orderBy(t.events.seq);
    const put = () => db.update(t.requests).set(row).where(eq(t.requests.number, row.number));

    await db.update(t.requests).set({ head: null }).where(eq(t.requests.id, request));
    // Starting again seals nothing anew.
    await beginSeals(db, async () => {});
    expect(await words()).toContain(`${request}: its seal was emptied`);
    await put();

    // The last events cut off, and the head and the state put back to what they were before them.
    const kept = events.slice(0, 2);
    await db.delete(t.events).where(and(eq(t.events.request, request), gt(t.events.seq, 2)));
    const state = fold(
      request,
      kept.map(event => event.body),
    );
    await db.update(t.requests).set({ head: kept[1].seal, state }).where(eq(t.requests.id, request));
    expect(await words()).toContain(`${request}: events that were there are missing or changed`);

    await db.delete(t.events).where(eq(t.events.request, request));
    await db.delete(t.requests).where(eq(t.requests.id, request));
    expect(await words()).toContain(`${request}: the request was removed`);
    await db.insert(t.requests).values(row);
    await db.insert(t.events).values(events);
    expect(await words()).toEqual([]);

    const [link] = await db.select().from(t.anchors).orderBy(desc(t.anchors.n)).limit(1);
    await db.delete(t.anchors).where(eq(t.anchors.n, link.n));
    expect((await words())[0]).toContain('the house’s chain was cut');
    await db.insert(t.anchors).values(link);
    await db
      .update(t.anchors)
      .set({ version: link.version + 1 })
      .where(eq(t.anchors.n, link.n));
    expect((await words())[0]).toContain('of the house’s chain was changed');
    await db.update(t.anchors).set(link).where(eq(t.anchors.n, link.n));
    expect(await words()).toEqual([]);
  });

  test('what was stored before there were seals is sealed once', async () => {
    await small.db.update(t.events).set({ seal: null });
    await small.db.update(t.requests).set({ head: null, rowSeal: null });
    await small.db.delete(t.ledger);
    await small.db.delete(t.ledgerHead);
    const begin = () => beginSeals(small.db, async () => {});
    expect(await begin()).toBeGreaterThan(5);
    expect(await begin()).toBe(0);
    expect((await audit(small.db)).faults).toEqual([]);
  });
});
