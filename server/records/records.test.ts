/** Records of people: found, looked at by those who may, changed with what follows, taken back, and two at once. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { ChangePreview, LinesView, PeopleView, PersonPageView, RecordChoices } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { eq } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
const at = {} as Record<'ina' | 'tom' | 'dora' | 'kay' | 'per', Browser>;
beforeAll(async () => {
  small = await startSmall();
  for (const one of ['ina', 'tom', 'dora', 'kay', 'per'] as const) at[one] = await signedIn(small.base, one);
  await small.db.insert(t.patterns).values({
    id: 'three',
    name: 'Three days',
    anchor: '2024-01-01',
    cycle: [...[1, 2, 3].map(() => ({ am: ['09:00', '12:30'], pm: ['13:00', '17:00'] })), {}, {}, {}, {}] as never,
  });
  await small.db.insert(t.posts).values({ id: 'deputy', title: 'Deputy', department: 'observatory', place: 'ovay' });
  await small.db.update(t.house).set({ colleaguesRead: ['manager', 'mail', 'joined', 'left'] });
  await raiseDirectoryVersion(small.db);
});
afterAll(() => small.stop());

const page = async (person: string, browser = at.kay) => (await browser.get<PersonPageView>(`/records/${person}`)).body;
const preview = (change: unknown, browser = at.kay) =>
  browser.call<ChangePreview>('POST', '/records/preview', { change });
const save = (change: unknown, digest: string, reason = 'Agreed.', browser = at.kay) =>
  browser.call<{ id: number }>('POST', '/records/changes', { change, reason, digest });
async function made(change: HouseChange): Promise<number> {
  const { body } = await preview(change);
  const { status, body: saved } = await save(change, body.digest);
  expect(status).toBe(200);
  return saved.id;
}
const hours = (from: string, pattern = 'three') =>
  ({ what: 'record', person: 'ina', from, set: { pattern } }) as unknown as HouseChange;

describe('people found', () => {
  const found = async (query: string) => (await at.ina.get<PeopleView>(`/records?${query}`)).body;
  test('by any part of name, post, place or department, those who work here first', async () => {
    expect((await found('words=observ+ina')).rows.map(row => row.name)).toEqual(['Ina Okell']);
    expect((await found('words=okell')).rows).toMatchObject([
      { post: 'Tide observer', place: 'Ovay Station', manager: 'Tom Lund', standing: 'here' },
    ]);
    expect((await found('standing=left')).rows.map(row => row.name)).toEqual(['Olda Leaver']);
    expect((await found('place=moon')).rows).toEqual([]);
    expect((await found('')).mayAdd).toBe(false);
  });
});

describe('a person on file', () => {
  test('says who their manager is and why, who reports to them, and the record only to those who may see it', async () => {
    const tom = await page('tom', at.ina);
    expect(tom).toMatchObject({
      manager: { name: 'Dora Quill' },
      lines: null,
      changes: null,
      now: null,
      mayChange: false,
    });
    expect(tom.reports.map(one => one.name)).toEqual(['Ina Okell', 'Per Lauder']);
    const ina = await page('ina', at.tom);
    expect(ina.managerWhy).toContain('Tom Lund is Observatory lead');
    expect(ina.lines?.find(line => line.of === 'Hours')?.stretches).toEqual([
      { from: '2020-01-01', to: null, words: 'full time' },
    ]);
    expect(ina.lines?.find(line => line.of === 'Line manager')?.stretches).toEqual([
      { from: '2020-01-01', to: null, words: 'Tom Lund' },
    ]);
    expect(ina.mayChange).toBe(false);
    expect((await page('ina')).mayChange).toBe(true);
    // Two roles of the same days stand beneath one another, and so does who stands in.
    await small.db.insert(t.roles).values([
      { role: 'Boat keeper', person: 'ina', place: 'ovay' },
      { role: 'First aider', person: 'ina', from: '2026-01-01', to: '2026-06-30' },
    ]);
    await small.db.insert(t.covers).values({ person: 'ina', by: 'per', from: '2026-03-09', to: '2026-03-20' });
    await raiseDirectoryVersion(small.db);
    const through = (await page('ina')).lines?.map(line => [line.of, line.stretches.map(one => one.words)]);
    expect(through?.slice(-3)).toEqual([
      ['Role', ['Boat keeper for Ovay Station']],
      ['Role (2)', ['First aider']],
      ['Stood in for by', ['Per Lauder']],
    ]);
    const { body: choices } = await at.kay.get<RecordChoices>('/records/choices');
    expect(choices.patterns.map(one => one.name)).toEqual(['Office', 'Three days']);
    expect((await at.kay.get('/records/nobody')).status).toBe(404);
  });
});

describe('people unlike one another', () => {
  test.each<[string, string, Partial<PersonPageView>, string]>([
    ['who has left', 'old', { standing: 'left', left: '2025-12-31' as never }, ''],
    ['who holds no post', 'con', { manager: null, posts: [] }, 'holds no post, so no line manager is on file.'],
    ['whose line goes in a circle', 'rin', { manager: null }, 'The reporting line goes in a circle'],
    ['whose manager has left', 'sub', { manager: { id: 'dora' as never, name: 'Dora Quill' } }, 'Olda Leaver left on'],
    ['at the top', 'dora', { manager: null }, 'Nobody is above Director.'],
  ])('%s has a page that says so', async (_, who, expected, why) => {
    const found = await page(who);
    expect(found).toMatchObject(expected);
    expect(found.managerWhy.join(' ')).toContain(why);
  });

  test('who has left cannot be changed for a day after; before it they can', async () => {
    const late = { what: 'record', person: 'old', from: '2026-01-15', set: { fte: 0.5 } };
    expect((await preview(late)).problem.faults?.[0].message).toContain('Their last day is Wed 31 December 2025');
    expect((await preview({ ...late, from: '2025-06-01' })).status).toBe(200);
  });
});

describe('a hostile caller', () => {
  const record = { what: 'record', person: 'ina', from: '2026-03-01', set: { fte: 0.5 } };
  test.each<[string, unknown]>([
    ['a day at the end of time', { what: 'last day', person: 'ina', left: '9999-12-31' }],
    ['a day before all time', { ...record, from: '0001-01-01' }],
    ['no day at all', { ...record, from: '2026-02-30' }],
    ['less than nothing', { ...record, set: { fte: -1 } }],
    ['what is no number', { ...record, set: { fte: 'NaN' } }],
    ['a field that is none', { ...record, set: { rights: ['administrator'] } }],
    ['an id as long as a book', { ...record, person: 'x'.repeat(5000) }],
    ['a name as long as a book', { what: 'own', person: 'ina', set: { name: 'x'.repeat(5000) } }],
    ['no change', null],
    ['a list', [record]],
  ])('%s is refused as bad input, and nothing is stored', async (_, change) => {
    const before = await small.db.$count(t.factChanges);
    expect((await preview(change)).status).toBe(400);
    expect((await save(change, 'd'.repeat(64))).status).toBe(400);
    expect(await small.db.$count(t.factChanges)).toBe(before);
  });
  test('a digest that was made up makes nothing, and a change that never was is not taken back', async () => {
    expect((await save(record, 'd'.repeat(64))).status).toBe(409);
    expect((await save(record, 'd')).status).toBe(400);
    expect((await at.kay.call('POST', '/records/changes/999/back', { reason: 'x' })).status).toBe(404);
    expect((await at.kay.call('POST', '/records/changes/1e9/back', { reason: 'x' })).status).toBe(404);
    expect((await at.kay.call('POST', '/records/changes/-1/back', { reason: 'x' })).status).toBe(400);
    expect((await at.ina.get('/lines?day=9999-12-31')).status).toBe(400);
    expect((await at.ina.get(`/records?words=${'x'.repeat(101)}`)).status).toBe(400);
  });
  test('what is typed to find somebody is letters, whatever they mean elsewhere', async () => {
    for (const words of ['%', '(', '.*', "' or 1=1", '\\', '<b>'])
      expect((await at.ina.get<PeopleView>(`/records?words=${encodeURIComponent(words)}`)).body.rows).toEqual([]);
  });
});

describe('reporting lines', () => {
  test('on a day, with who holds what, what is vacant, and what hangs on nothing', async () => {
    const { body } = await at.ina.get<LinesView>('/lines');
    expect(body).toMatchObject({
      day: '2026-02-02',
      top: ['deputy', 'director'],
      loose: ['ring-a', 'ring-b'],
      mayMove: false,
    });
    const posts = new Map(body.posts.map(post => [post.id, post]));
    expect(posts.get('lead')).toMatchObject({ holder: { name: 'Tom Lund' }, all: 2, mine: false });
    expect(posts.get('empty')).toMatchObject({ holder: null });
    expect(posts.get('observer-1')).toMatchObject({ mine: true });
    expect((await at.kay.get<LinesView>('/lines?day=2027-01-01')).body).toMatchObject({
      day: '2027-01-01',
      mayMove: true,
    });
  });
});

describe('a change', () => {
  test('is shown with what follows, made as it was shown, and told with who, when and why', async () => {
    await at.ina.ask('2026-05-11', '2026-05-15');
    const change = hours('2026-05-01');
    const { body } = await preview(change);
    expect(body.says).toEqual(['Work pattern from Fri 1 May 2026: Office → Three days.']);
    expect(body.leave).toMatchObject([{ name: 'Ina Okell', before: '5 days', after: '3 days' }]);
    expect(body.managers).toEqual([]);
    const { status, body: saved } = await save(change, body.digest, 'She asked for it.');
    expect(status).toBe(200);
    const after = await page('ina');
    expect(after.lines?.find(line => line.of === 'Work pattern')?.stretches).toEqual([
      { from: '2020-01-01', to: '2026-04-30', words: 'Office' },
      { from: '2026-05-01', to: null, words: 'Three days' },
    ]);
    expect(after.changes).toMatchObject([
      { id: saved.id, who: 'Kay Voss', reason: 'She asked for it.', from: '2026-05-01', takenBack: false },
    ]);
    // It is so already.
    expect((await preview(change)).status).toBe(400);

    const back = await at.kay.call('POST', `/records/changes/${saved.id}/back`, { reason: 'She thought again.' });
    expect(back.status).toBe(200);
    const now = await page('ina');
    expect(now.lines?.find(line => line.of === 'Work pattern')?.stretches).toHaveLength(1);
    expect(now.changes?.map(one => [one.takesBack, one.takenBack])).toEqual([
      [saved.id, false],
      [null, true],
    ]);
    expect((await at.kay.call('POST', `/records/changes/${saved.id}/back`, { reason: 'again' })).status).toBe(409);
  });

  test('of two who change one record the second is told, and nothing is overwritten', async () => {
    const [mine, theirs] = [hours('2026-07-01'), { ...hours('2026-07-01'), set: { fte: 0.6 } }];
    const [{ body: a }, { body: b }] = [await preview(mine), await preview(theirs, at.dora)];
    expect((await save(theirs, b.digest, 'Agreed.', at.dora)).status).toBe(200);
    const { status, problem } = await save(mine, a.digest);
    expect(status).toBe(409);
    expect(problem.detail).toContain('changed it meanwhile');
    expect((await page('ina')).lines?.find(line => line.of === 'Work pattern')?.stretches).toHaveLength(1);
  });

  test('what a later change stands on is not taken back from under it', async () => {
    const first = await made(hours('2026-09-01'));
    await made({ what: 'record', person: 'ina', from: '2026-09-01', set: { fte: 0.5 } } as unknown as HouseChange);
    const { status, problem } = await at.kay.call('POST', `/records/changes/${first}/back`, { reason: 'No.' });
    expect(status).toBe(422);
    expect(problem.detail).toContain('later change stands on it');
  });

  test('of a line says who gets another manager, and which open request stays with the one of before', async () => {
    const { request } = (await at.ina.ask('2026-06-01', '2026-06-05')).body;
    const change = { what: 'line', post: 'observer-1', from: '2026-02-02', reportsTo: 'director' };
    const { body } = await preview(change);
    expect(body.managers).toEqual([{ name: 'Ina Okell', before: 'Tom Lund', after: 'Dora Quill' }]);
    expect(body.open).toContainEqual(expect.objectContaining({ request, holder: 'Tom Lund' }));
    await made(change as unknown as HouseChange);
    expect((await page('ina')).manager?.name).toBe('Dora Quill');
    // The next one goes to the new manager; the open one stays.
    const next = (await at.ina.ask('2026-06-08', '2026-06-12')).body.request;
    const holders = await small.db.select().from(t.tasks);
    expect(holders.filter(one => one.open && one.request === next).map(one => one.holder)).toEqual(['dora']);
    expect(holders.filter(one => one.open && one.request === request).map(one => one.holder)).toEqual(['tom']);
  });

  test.each<[string, unknown, string, string]>([
    [
      'a circle',
      { what: 'line', post: 'director', from: '2026-03-01', reportsTo: 'lead' },
      'change.reportsTo',
      'circle',
    ],
    [
      'a held post',
      { what: 'post', person: 'ina', from: '2026-03-01', post: 'lead' },
      'change.post',
      'Tom Lund holds it',
    ],
    [
      'an end before the beginning',
      { what: 'last day', person: 'ina', left: '2019-01-01' },
      'change.left',
      'first day',
    ],
    [
      'a place of nowhere',
      { what: 'record', person: 'ina', from: '2026-03-01', set: { place: 'moon' } },
      'change.place',
      'not on file',
    ],
    ['what is no change', { what: 'promote', person: 'ina' }, 'change.what', ''],
    [
      'more than the whole',
      { what: 'record', person: 'ina', from: '2026-03-01', set: { fte: 3 } },
      'change.set.fte',
      'whole',
    ],
  ])('%s is refused at its place, and nothing is stored', async (_, change, field, words) => {
    const before = await small.db.select().from(t.factChanges);
    const { status, problem } = await preview(change);
    expect(status).toBe(400);
    expect(problem.faults?.[0].field).toBe(field);
    expect(problem.faults?.[0].message).toContain(words);
    expect(await small.db.select().from(t.factChanges)).toHaveLength(before.length);
  });

  test('nobody keeps their own record, and nobody keeps records who may not', async () => {
    const own = { what: 'record', person: 'kay', from: '2026-03-01', set: { fte: 0.5 } };
    expect((await preview(own)).status).toBe(403);
    const line = { what: 'line', post: 'keeper', from: '2026-03-01', reportsTo: 'director' };
    expect((await preview(line)).status).toBe(403);
    expect((await preview(line, at.dora)).status).toBe(200);
    expect((await preview(own, at.dora)).status).toBe(200);
    for (const who of [at.ina, at.tom, at.per])
      expect((await preview(hours('2026-10-01', 'office'), who)).status).toBe(403);
  });

  test('somebody who comes is on file from then on, with their post, and is taken off again', async () => {
    const change = {
      what: 'comes',
      person: {
        id: 'new',
        name: 'Mika Ødegård',
        mail: 'mika@selkie.example',
        joined: '2026-03-13',
        place: 'ovay',
        department: 'observatory',
        pattern: 'office',
        fte: 1,
        plan: 'standard',
      },
      post: 'deputy',
    };
    const id = await made(change as unknown as HouseChange);
    expect((await at.ina.get<PeopleView>('/records?words=odegard&standing=comes')).body.rows).toMatchObject([
      { name: 'Mika Ødegård', joined: '2026-03-13' },
    ]);
    expect(
      (await preview({ ...change, person: { ...change.person, id: 'mika-2' } })).problem.faults?.[0].message,
    ).toContain('Mika Ødegård has it already');
    const back = () => at.kay.call('POST', `/records/changes/${id}/back`, { reason: 'Never came.' });
    // Whoever has something here stays on file.
    const account = { person: 'mika-odegard', passwordHash: 'x', rights: [], card: null, cardWords: '' };
    await small.db.insert(t.accounts).values(account);
    expect((await back()).problem.detail).toContain('Give them a last day instead');
    await small.db.delete(t.accounts).where(eq(t.accounts.person, 'mika-odegard'));
    expect((await back()).status).toBe(200);
    expect((await at.kay.get('/records/mika-odegard')).status).toBe(404);
  });

  test('whoever is waked finds the change committed, and may ask for connections', async () => {
    const { house } = small.serving;
    const counted: Promise<number>[] = [];
    const { wake } = house;
    const count = async () => await small.db.$count(t.factChanges);
    Object.assign(house, { wake: () => counted.push(count()) });
    try {
      const before = await count();
      const id = await made({
        what: 'record',
        person: 'per',
        from: '2026-10-01',
        set: { fte: 0.5 },
      } as unknown as HouseChange);
      await at.kay.call('POST', `/records/changes/${id}/back`, { reason: 'Called off.' });
      expect(await Promise.all(counted)).toEqual([before + 1, before + 2]);
    } finally {
      Object.assign(house, { wake });
    }
  });
});
