/** Finding requests, taking them out as files, named sets of filters, and what cannot go on. */
import { randomUUID } from 'node:crypto';
import { PassThrough } from 'node:stream';
import { buffer, text } from 'node:stream/consumers';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { ComingView, FoundRequests, RequestView, SavedSet, StuckRow } from '@north-pebble/contract';
import { addDays } from '@north-pebble/core/time';
import type { Command } from '@north-pebble/core/workflow';
import { count, eq, lt } from 'drizzle-orm';
import { strFromU8, unzipSync } from 'fflate';
import Papa from 'papaparse';
import { date } from '../../../core/testing/house.ts';
import { tables as t } from '../../database/index.ts';
import { raiseDirectoryVersion } from '../../house/index.ts';
import { defused, writeCsv, writeXlsx } from '../../http/index.ts';
import { type Browser, houseNow, type Small, signedIn, startSmall } from '../../testing/serving.ts';

let small: Small;
const people = {} as Record<'ina' | 'tom' | 'dora' | 'kay' | 'per' | 'sub', Browser>;
const made: string[] = [];

async function ask(who: Browser, from: string, to: string): Promise<string> {
  const dates = { from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } };
  const body = { id: randomUUID(), workflow: 'annual', answers: { kind: 'sick', dates } };
  const request = (await who.call<{ request: string }>('POST', '/requests', body)).body.request;
  made.push(request);
  return request;
}

beforeAll(async () => {
  small = await startSmall();
  for (const name of ['ina', 'tom', 'dora', 'kay', 'per', 'sub'] as const) {
    people[name] = await signedIn(small.base, name);
  }
  for (const day of ['02', '09', '16', '23'])
    await ask(people.ina, `2026-03-${day}`, `2026-03-${Number(day) + 4}`.replace(/-(\d)$/, '-0$1'));
  await ask(people.per, '2026-05-04', '2026-05-08');
  const { version } = (await people.ina.get<RequestView>(`/requests/${made[0]}`)).body;
  await people.ina.command(made[0], { kind: 'withdraw', seen: version });
});
afterAll(() => small.stop());

const find = async (who: Browser, query: string) => (await who.get<FoundRequests>(`/requests/find?${query}`)).body;
const ids = async (who: Browser, query: string) => (await find(who, query)).rows.map(row => row.id);

describe('finding requests', () => {
  test.each<[string, 'ina' | 'tom' | 'dora' | 'kay' | 'per', string, (n: string[]) => string[]]>([
    ['one’s own, the newest first', 'ina', '', n => [n[3], n[2], n[1], n[0]]],
    ['those that one has or had', 'tom', 'whose=held', n => [n[4], n[3], n[2], n[1], n[0]]],
    ['those of the people below', 'dora', 'whose=team', n => [n[4], n[3], n[2], n[1], n[0]]],
    ['nobody’s below', 'ina', 'whose=team', () => []],
    ['everybody’s', 'kay', 'whose=all', n => [n[4], n[3], n[2], n[1], n[0]]],
    ['by how they stand', 'ina', 'status=withdrawn', n => [n[0]]],
    ['by several of these', 'ina', 'status=withdrawn,closed', n => [n[0]]],
    ['by a name', 'kay', 'whose=all&words=lauder', n => [n[4]]],
    ['by a number', 'kay', 'whose=all&words=r-2', n => [n[1]]],
    ['by words of what it is', 'kay', 'whose=all&words=may', n => [n[4]]],
    ['never by a wildcard', 'kay', 'whose=all&words=%25', () => []],
    ['by workflow', 'kay', 'whose=all&workflow=other', () => []],
    ['by the day it was asked', 'kay', 'whose=all&from=2026-02-03', () => []],
  ])('%s', async (_, who, query, expected) => {
    expect(await ids(people[who], query)).toEqual(expected(made));
  });

  test('a day begins where its reader is', async () => {
    // Half past midnight in Lisbon’s summer.
    await small.db.update(t.requests).set({ askedAt: '2026-06-01T23:30:00Z' }).where(eq(t.requests.id, made[1]));
    expect(await ids(people.kay, 'whose=all&from=2026-06-02&to=2026-06-02')).toEqual([made[1]]);
    expect(await ids(people.kay, 'whose=all&from=2026-06-01&to=2026-06-01')).toEqual([]);
    await small.db.update(t.requests).set({ askedAt: houseNow }).where(eq(t.requests.id, made[1]));
  });

  test('those of the people that somebody in HR looks after, by the place of whom they are for', async () => {
    expect(await ids(people.sub, 'whose=care')).toEqual([]);
    await small.db.insert(t.roles).values({ role: 'HR partner', person: 'sub', place: 'ovay' });
    await raiseDirectoryVersion(small.db);
    expect(await ids(people.sub, 'whose=care')).toEqual([...made].reverse());
    await small.db.update(t.roles).set({ place: 'skarn' }).where(eq(t.roles.person, 'sub'));
    await raiseDirectoryVersion(small.db);
    expect(await ids(people.sub, 'whose=care')).toEqual([]);
  });

  test('says how many there are, and goes on where a page ended', async () => {
    const all = await find(people.kay, 'whose=all');
    expect(all).toMatchObject({ total: 5, next: null });
    const number = Number(made[2].slice(2));
    expect(await find(people.kay, `whose=all&before=${number}`)).toMatchObject({
      total: null,
      rows: [{ id: made[1] }, { id: made[0], standing: 'Withdrawn', workflowName: 'Annual leave' }],
    });
  });

  test.each(['whose=others', 'status=lost', 'before=x', 'columns=secret', 'from=soon'])('refuses %s', async query => {
    expect((await people.kay.get(`/requests/find?${query}`)).status).toBe(400);
  });
});

describe('taken out as a file', () => {
  const file = async (who: Browser, path: string) => {
    const response = await fetch(`${small.base}/api/requests/${path}`, { headers: { Cookie: who.cookie } });
    return { status: response.status, type: response.headers.get('Content-Type'), bytes: await response.arrayBuffer() };
  };

  test('CSV has a heading and the chosen columns', async () => {
    const { status, type, bytes } = await file(people.kay, 'export.csv?whose=all&columns=request,asker,standing');
    expect([status, type]).toEqual([200, 'text/csv; charset=utf-8']);
    const { data } = Papa.parse<string[]>(new TextDecoder().decode(bytes), { skipEmptyLines: true });
    expect(data[0]).toEqual(['Request', 'Asked by', 'Where it stands']);
    expect(data[5]).toEqual([made[0], 'Ina Okell', 'Withdrawn']);
  });

  test('XLSX can be opened and says the same', async () => {
    const { bytes } = await file(people.kay, 'export.xlsx?whose=all&columns=request,asker');
    const opened = unzipSync(new Uint8Array(bytes));
    expect(Object.keys(opened)).toContain('xl/workbook.xml');
    const sheet = strFromU8(opened['xl/worksheets/sheet1.xml']);
    const rows = [...sheet.matchAll(/<row [^>]*>(.*?)<\/row>/g)].map(([, row]) =>
      [...row.matchAll(/<t [^>]*>([^<]*)<\/t>/g)].map(([, cell]) => cell),
    );
    expect(rows).toEqual([
      ['Request', 'Asked by'],
      [made[4], 'Per Lauder'],
      ...[3, 2, 1, 0].map(n => [made[n], 'Ina Okell']),
    ]);
  });

  test('numbers and days are such in both, also those below nothing', async () => {
    async function* rows() {
      yield [['=1', -3, { day: '2026-02-09' }, { instant: '2026-02-09T12:00:00Z' }]];
    }
    const csv = new PassThrough();
    await writeCsv(csv, ['A'], rows());
    expect((await text(csv)).split('\r\n')[1]).toBe('"\'=1",-3,"2026-02-09","2026-02-09T12:00:00Z"');
    expect(['-3', '-2.5', '+1', '-1-1', '-a1'].map(defused)).toEqual(['-3', '-2.5', '+1', "'-1-1", "'-a1"]);
    const xlsx = new PassThrough();
    const written = buffer(xlsx);
    await writeXlsx(xlsx, ['A'], rows());
    const sheet = strFromU8(unzipSync(new Uint8Array(await written))['xl/worksheets/sheet1.xml']);
    expect(sheet).toContain(
      '<c r="B2"><v>-3</v></c><c r="C2" s="2"><v>46062</v></c><c r="D2" s="3"><v>46062.5</v></c>',
    );
    expect(sheet).toContain('<t xml:space="preserve">=1</t>');
  });

  test('a cell that begins a formula is text', async () => {
    await small.db.update(t.requests).set({ title: '=1+1' }).where(eq(t.requests.id, made[3]));
    const { bytes } = await file(people.dora, 'export.csv?whose=all&columns=what');
    expect(new TextDecoder().decode(bytes)).toContain('"\'=1+1"');
    expect(['=x', '+a', '-a', '@a', '\tx', 'plain', '1-1'].map(defused)).toEqual([
      "'=x",
      "'+a",
      "'-a",
      "'@a",
      "'\tx",
      'plain',
      '1-1',
    ]);
  });

  test('only of what one may look through', async () => {
    expect((await file(people.ina, 'export.csv?whose=all')).status).toBe(403);
    expect((await file(people.dora, 'export.exe')).status).toBe(400);
  });
});

describe('named sets', () => {
  const sets = async (who: Browser) => (await who.get<SavedSet[]>('/sets')).body.map(s => [s.name, s.own]);

  test('are one’s own until they are shared, and go only by their owner', async () => {
    await people.ina.call('POST', '/sets', { name: 'Mine', query: 'status=open', shared: false });
    await people.ina.call('POST', '/sets', { name: 'For all', query: 'status=stuck', shared: true });
    expect(await sets(people.ina)).toEqual([
      ['For all', true],
      ['Mine', true],
    ]);
    expect(await sets(people.tom)).toEqual([['For all', false]]);
    const [{ id }] = (await people.tom.get<SavedSet[]>('/sets')).body;
    expect((await people.tom.call('DELETE', `/sets/${id}`)).status).toBe(404);
    expect((await people.ina.call('DELETE', `/sets/${id}`)).status).toBe(204);
    expect(await sets(people.tom)).toEqual([]);
    expect((await people.ina.call('POST', '/sets', { name: ' ', query: '', shared: false })).status).toBe(400);
  });
});

describe('what comes by itself', () => {
  test('limits and reminders by day, the nearest in words, for HR operations only', async () => {
    const { body } = await people.kay.get<ComingView>('/requests/coming');
    expect(body.days).toHaveLength(14);
    expect(body.days[0].day).toBe('2026-02-02');
    const [{ n: timers }] = await small.db.select({ n: count() }).from(t.timers).where(lt(t.timers.at, '2026-02-16'));
    expect(timers).toBeGreaterThan(2);
    expect(body.days.reduce((sum, d) => sum + d.limits + d.reminders + d.others, 0)).toBe(timers);
    const limit = body.next.find(one => one.what === 'limit');
    expect(limit).toMatchObject({
      holderName: 'Tom Lund',
      at: '2026-02-04T17:00:00Z',
      words: 'it passes to the manager above',
    });
    expect(body.next.map(one => one.at)).toEqual(body.next.map(one => one.at).sort());
    expect((await people.ina.get('/requests/coming')).status).toBe(403);
  });
});

describe('what cannot go on', () => {
  const stuck = async () => (await people.kay.get<StuckRow[]>('/requests/stuck')).body;

  test('what is with somebody who has left is given to somebody else, twelve at once', async () => {
    for (const week of [0, 1, 2, 3, 4, 5, 6, 7]) {
      const monday = addDays(date('2026-07-06'), 7 * week);
      await ask(people.per, monday, addDays(monday, 4));
    }
    await small.db.update(t.people).set({ leftOn: '2026-01-31' }).where(eq(t.people.id, 'tom'));
    await small.db.transaction(tx => raiseDirectoryVersion(tx as never));
    const rows = (await stuck()).filter(row => row.cause === 'holder gone');
    expect(rows).toHaveLength(12);
    expect(rows.map(row => row.request)).toEqual(made.slice(1));
    expect(rows[0].words).toBe('Tom Lund does not work here any more.');
    for (const row of rows) {
      const command = { kind: 'appoint', seen: row.version, step: row.step, task: row.task, to: 'dora' } as Command;
      expect((await people.kay.command(row.request, command)).status).toBe(200);
    }
    expect((await stuck()).filter(row => row.cause === 'holder gone')).toEqual([]);
    const { trail, standing } = (await people.ina.get<RequestView>(`/requests/${made[1]}`)).body;
    expect(standing).toBe('waits for Dora Quill');
    expect(trail.map(line => line.text)).toContain('named Dora Quill for step 3');
  });

  test('a mail that does not go out is sent again, or marked as done by hand', async () => {
    await small.db.update(t.effects).set({ attempts: 7, nextTry: Date.now() + 1_000_000, state: 'waiting' });
    const mails = (await stuck()).filter(row => row.cause === 'mail not delivered');
    expect(mails.length).toBeGreaterThan(2);
    const [first, second] = mails;
    const help = (who: Browser, row: StuckRow, how: string) => who.call('POST', `/effects/${row.outbox}`, { how });
    expect((await help(people.ina, first, 'done')).status).toBe(403);
    expect((await help(people.kay, first, 'later')).status).toBe(400);
    expect((await help(people.kay, first, 'done')).status).toBe(204);
    expect((await help(people.kay, second, 'again')).status).toBe(204);
    const of = async (row: StuckRow) =>
      (
        await small.db
          .select()
          .from(t.effects)
          .where(eq(t.effects.id, row.outbox ?? 0))
      )[0];
    expect((await of(first)).state).toBe('given up');
    expect((await of(second)).nextTry).toBeLessThan(Date.now() + 600_000);
  });

  test('is for HR operations only', async () => {
    expect((await people.ina.get('/requests/stuck')).status).toBe(403);
    expect((await people.per.get('/requests/stuck')).status).toBe(403);
  });
});
