/** Public addresses over HTTP: what is taken in there, from whom and how often; who reads it; and what is deleted when it is over. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Forgetting, FormOutside, GuestView, PublicAddressView, RequestView } from '@north-pebble/contract';
import type { Definition } from '@north-pebble/core/workflow';
import { eq, like } from 'drizzle-orm';
import { bad, decide, flow, good, task, who } from '../../core/testing/run.ts';
import { anchorAll, audit } from '../audit/index.ts';
import { tables as t } from '../database/index.ts';
import { linkAddress } from '../guests/index.ts';
import { Browser, putLive, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { forgetOver } from './index.ts';

const hr = who({ kind: 'role', role: 'HR partner' });
const application = {
  ...flow(
    task({
      id: 'fill',
      who: hr,
      guest: { name: 'name', mail: 'mail', sections: ['more'], goesOn: true, days: 10 },
    }),
    decide({ who: hr, outcomes: [good, bad] }),
  ),
  name: 'Application',
  opening: {
    forWhom: ['self'],
    outside: { name: 'name', mail: 'mail', sections: ['you'], keptBy: hr, keptMonths: 1 },
  },
  form: {
    sections: [
      { id: 'you', title: 'About you' },
      { id: 'more', title: 'More' },
      { id: 'house', title: 'For the house' },
    ],
    fields: [
      { kind: 'text', id: 'name', label: 'Name', required: true, section: 'you' },
      { kind: 'text', id: 'mail', label: 'Mail', required: true, section: 'you' },
      { kind: 'choice', id: 'sort', label: 'Sort', required: true, section: 'you', options: ['Deck', 'Engine'] },
      { kind: 'text', id: 'boat', label: 'Boat', required: false, section: 'you', shownWhen: 'Sort = "Deck"' },
      { kind: 'consent', id: 'agree', label: 'Agreed', required: true, section: 'you', version: '3', text: 'Yes.' },
      { kind: 'long text', id: 'why', label: 'Why', required: true, section: 'more' },
      { kind: 'files', id: 'papers', label: 'Papers', required: false, section: 'more' },
      { kind: 'text', id: 'score', label: 'Score', required: false, section: 'house' },
    ],
  },
  access: { ask: { score: 'hidden' }, decide: { why: 'shown', score: 'editable' } },
  figures: [],
  messages: [{ id: 'no', name: 'No', subject: 'Not this time', body: 'Hello {asker}.' }],
  closings: [
    { id: 'approved', name: 'Done', tone: 'good', message: null },
    { id: 'declined', name: 'Declined', tone: 'bad', message: 'no' },
  ],
} as unknown as Definition;

let small: Small;
let wren: Browser;
let dora: Browser;
let token: string;
const anybody = () => new Browser(small.base);
const kept = { firstDay: null, lastDay: null, most: null, shut: false, renew: false };
const keep = (more: object = {}, by = wren) =>
  by.call<PublicAddressView>('PUT', '/workflows/application/public-address', { ...kept, ...more });

beforeAll(async () => {
  small = await startSmall();
  await putLive(small.db, 'application', application);
  wren = await signedIn(small.base, 'kay');
  dora = await signedIn(small.base, 'dora');
  const given = await keep();
  expect(given.status).toBe(200);
  token = given.body.address?.split('#')[1] ?? '';
});
afterAll(() => small.stop());

let n = 0;
const lea = (more: object = {}) => ({
  name: 'Léa O’Neill',
  mail: `lea${++n}@example.test`,
  sort: 'Deck',
  agree: { version: '3', at: '1999-01-01T00:00:00Z' },
  ...more,
});
const send = (answers: unknown, more: object = {}, at = token) =>
  anybody().call<{ mail: string }>('POST', `/public/${at}`, { id: randomUUID(), answers, website: '', ...more });
const requestsOf = (mail: string) => small.db.select().from(t.requests).where(eq(t.requests.outside, mail));

describe('a public address', () => {
  test('shows what is asked there, and nothing of the house', async () => {
    const { status, body } = await anybody().get<FormOutside>(`/public/${token}`);
    expect(status).toBe(200);
    expect(body).toMatchObject({ name: 'Application', shut: null, later: ['More'], keptMonths: 1, changes: true });
    expect(body.sections.map(one => one.fields.map(({ field }) => field.id))).toEqual([
      ['name', 'mail', 'sort', 'agree'],
    ]);
    expect(JSON.stringify(body)).not.toMatch(/score|Score|Dora|HR partner|shownWhen|readers/);
    const asked = await anybody().call<FormOutside>('POST', `/public/${token}/asked`, {
      answers: { sort: 'Deck' },
    });
    expect(asked.body.sections[0].fields.map(({ field }) => field.id)).toContain('boat');
  });

  test('takes in what is sent, once under its id, and stamps what was agreed to with its own time', async () => {
    const answers = lea();
    const id = randomUUID();
    expect(await send(answers, { id })).toMatchObject({ status: 200, body: { mail: answers.mail } });
    expect((await send(answers, { id })).status).toBe(200);
    const rows = await requestsOf(answers.mail);
    expect(rows).toHaveLength(1);
    expect(rows[0].state.answers.agree).toMatchObject({ version: '3' });
    expect((rows[0].state.answers.agree as { at: string }).at).not.toContain('1999');
    const letters = await small.db
      .select()
      .from(t.effects)
      .where(like(t.effects.key, `${rows[0].id}:%`));
    expect(letters.map(row => row.payload.address)).toEqual([answers.mail]);
  });

  test('the same sent again in another browser is there once, and the way to it goes out again', async () => {
    const answers = lea();
    await send(answers);
    await send({ ...answers, mail: answers.mail.toUpperCase() });
    const rows = await requestsOf(answers.mail);
    expect(rows).toHaveLength(1);
    const letters = await small.db
      .select()
      .from(t.effects)
      .where(like(t.effects.key, `${rows[0].id}:%`));
    expect(letters).toHaveLength(2);
    await send({ ...answers, sort: 'Engine' });
    expect(await requestsOf(answers.mail)).toHaveLength(2);
  });

  test('two at one moment under one id are one', async () => {
    const answers = lea();
    const id = randomUUID();
    const found = await Promise.all([1, 2, 3, 4].map(() => send(answers, { id })));
    expect(found.map(one => one.status)).toEqual([200, 200, 200, 200]);
    expect(await requestsOf(answers.mail)).toHaveLength(1);
  });

  test('from one mail address not very much is begun in a day', async () => {
    const { mail } = lea();
    for (let i = 0; i < 5; i++) await send(lea({ mail, name: `Léa ${i}` }));
    const more = await send(lea({ mail, name: 'Léa 6' }));
    expect(more).toMatchObject({ status: 400 });
    expect(more.problem?.faults?.[0]).toMatchObject({ field: 'mail' });
    expect(await requestsOf(mail)).toHaveLength(5);
  });

  test('what fills in the line that nobody sees is told that it was not taken in', async () => {
    const answers = lea();
    const found = await send(answers, { website: 'http://example.test' });
    expect(found.status).toBe(422);
    expect(found.problem?.detail).toContain('was not taken in');
    expect(await requestsOf(answers.mail)).toHaveLength(0);
  });

  const deep = (levels: number): unknown => (levels === 0 ? 'x' : { a: deep(levels - 1) });
  test.each([
    ['nothing', {}],
    ['answers that are none', { answers: 7 }],
    ['a list', { answers: [1] }],
    ['a person of the house', { answers: { asker: 'dora' } }],
    ['what others write', { answers: { score: '5' } }],
    ['what is filled in later', { answers: { why: 'The sea' } }],
    ['a name that is none', { answers: { name: { first: 'L' } } }],
    ['a name of spaces', { answers: { name: '  \u200b ' } }],
    ['a long name', { answers: { name: 'x'.repeat(5000) } }],
    ['an address that is none', { answers: { mail: 'lea' } }],
    ['two addresses', { answers: { mail: 'a@b.test, c@d.test' } }],
    ['a line break in the address', { answers: { mail: 'a@b.test\nBcc: c@d.test' } }],
    ['a choice that is not there', { answers: { sort: 'Bridge' } }],
    ['an old version of what is agreed to', { answers: { agree: { version: '1', at: '2026-01-01T00:00:00Z' } } }],
    ['a field that is not there', { answers: { __proto__x: 1 } }],
    ['many fields', { answers: Object.fromEntries(Array.from({ length: 900 }, (_, i) => [`f${i}`, 1])) }],
    ['much', { answers: { boat: 'x'.repeat(70_000) } }],
    ['deep', { answers: { boat: deep(200) } }],
    ['another key', { more: 1 }],
    ['an id that is none', { id: 'x' }],
    ['no line that nobody sees', { website: undefined }],
  ])('refuses %s at its place, and keeps nothing of it', async (_, wrong: object) => {
    const answers = lea();
    const before = await small.db.$count(t.requests);
    const given = (wrong as { answers?: unknown }).answers;
    const merged =
      typeof given === 'object' && given !== null && !Array.isArray(given)
        ? { ...wrong, answers: { ...answers, ...given } }
        : Object.keys(wrong).length === 0
          ? { answers: {} }
          : { answers, ...wrong };
    const found = await send(answers, merged);
    expect([400, 413, 422]).toContain(found.status);
    expect(found.problem?.detail.length).toBeGreaterThan(8);
    expect(await small.db.$count(t.requests)).toBe(before);
  });

  test('is shut by hand, by its days, by its number; renewed, the one before opens nothing', async () => {
    const refusedWith = async () => [
      (await send(lea())).status,
      (await anybody().get<FormOutside>(`/public/${token}`)).body.shut,
    ];
    await keep({ shut: true });
    expect(await refusedWith()).toEqual([409, 'This is not taken in now.']);
    await keep({ lastDay: '2026-01-15' });
    expect((await refusedWith())[1]).toContain('until Thu 15 January 2026');
    await keep({ firstDay: '2030-01-01' });
    expect((await refusedWith())[1]).toContain('from Tue 1 January 2030 on');
    const { taken } = (await keep({ most: null })).body;
    await keep({ most: taken + 2 });
    const at = await Promise.all([1, 2, 3, 4, 5].map(() => send(lea())));
    expect(at.map(one => one.status).toSorted()).toEqual([200, 200, 409, 409, 409]);
    expect((await keep()).body).toMatchObject({ taken: taken + 2, why: null });
    expect((await keep({ firstDay: '2026-03-01', lastDay: '2026-02-01' })).problem?.faults?.[0]).toMatchObject({
      field: 'lastDay',
    });
    const old = token;
    token = (await keep({ renew: true })).body.address?.split('#')[1] ?? '';
    expect((await send(lea(), {}, old)).status).toBe(404);
    expect((await send(lea())).status).toBe(200);
  });
});

describe('what was asked for from outside', () => {
  const until = '2027-01-01T00:00:00Z' as never;
  async function begun() {
    const answers = lea();
    await send(answers);
    const [{ id }] = await requestsOf(answers.mail);
    const request = id ?? '';
    const link = async (step: string) =>
      `/guest/${(await linkAddress(small.serving.house, small.db, request, { step, n: 1, until })).split('#')[1]}`;
    return { request, answers, own: await link('ask'), fill: await link('fill'), guest: anybody() };
  }

  test('goes on by the link, on one device; another gives a code first, whichever of their links it has', async () => {
    const { guest, own, fill } = await begun();
    expect((await guest.get<GuestView>(fill)).body).toMatchObject({ state: 'open', own: { asks: [] } });
    const other = anybody();
    expect((await other.get<GuestView>(own)).body).toMatchObject({ state: 'code', sections: [], own: null });
    expect((await other.call('POST', `${own}/withdrawal`)).status).toBe(403);
    expect((await guest.get<GuestView>(own)).body.sections.map(one => one.id)).toEqual(['more']);
    await guest.call('POST', `${own}/sections/more`, { answers: { why: 'The sea' } });
    expect((await guest.get<GuestView>(fill)).body).toMatchObject({ state: 'all in', sections: [] });
  });

  test('nothing that is written about them is told to them, and only those who have it read it', async () => {
    const { guest, fill, request } = await begun();
    await guest.get(fill);
    await guest.call('POST', `${fill}/sections/more`, { answers: { why: 'The sea calls' } });
    const seen = (await dora.get<RequestView>(`/requests/${request}`)).body;
    expect(seen).toMatchObject({ askerName: 'Léa O’Neill', subjectName: 'Léa O’Neill' });
    expect(seen.answers.why).toBe('The sea calls');
    await dora.command(request, {
      kind: 'answer',
      seen: seen.version,
      task: seen.may.answer ?? '',
      outcome: 'yes',
      answers: { score: 'Secret 5' },
    });
    const said = JSON.stringify((await guest.get(fill)).body);
    expect(said).not.toMatch(/Secret|score/);
    for (const who of ['ina', 'tom', 'sub']) {
      const other = await signedIn(small.base, who);
      expect((await other.get(`/requests/${request}`)).status).toBe(404);
      for (const whose of ['mine', 'held', 'team', 'care'])
        expect(JSON.stringify((await other.get(`/requests/find?whose=${whose}`)).body)).not.toContain(request);
    }
    expect(JSON.stringify((await dora.get('/requests/find?whose=held')).body)).toContain(request);
    expect(JSON.stringify((await dora.get('/requests/find?whose=mine')).body)).not.toContain(request);
  });

  test('is asked something, replies on their page, and is not on the desk of who keeps it meanwhile', async () => {
    const { guest, own, fill, request } = await begun();
    await guest.get(fill);
    await guest.call('POST', `${fill}/sections/more`, { answers: { why: 'x' } });
    const seen = (await dora.get<RequestView>(`/requests/${request}`)).body;
    const [{ id }] = seen.tasks;
    await dora.command(request, { kind: 'ask', seen: seen.version, task: id, question: 'When?' });
    const page = (await guest.get<GuestView>(own)).body;
    expect(page.own?.asks).toMatchObject([{ task: id, who: 'Dora Quill', text: 'When?' }]);
    expect(JSON.stringify((await dora.get('/desk')).body)).not.toContain('asks: “When?”');
    const replied = await guest.call<GuestView>('POST', `${own}/replies`, { task: id, text: 'In May' });
    expect(replied.body.own?.asks).toEqual([]);
    expect((await guest.call('POST', `${own}/replies`, { task: id, text: 'In June' })).status).toBe(409);
    await guest.call('POST', `${own}/withdrawal`);
    expect((await dora.get<RequestView>(`/requests/${request}`)).body.status).toBe('withdrawn');
    expect((await guest.get<GuestView>(own)).body.state).toBe('over');
  });

  test('is deleted when its time is over, with all that was given; the sealed trail bears it out', async () => {
    const { guest, own, fill, request, answers } = await begun();
    await guest.get(fill);
    const bytes = Buffer.from('%PDF-1.4\n%%EOF\n');
    const response = await fetch(`${small.base}/api${fill}/files?name=life.pdf`, {
      method: 'POST',
      headers: { 'X-North-Pebble': '1', 'Content-Type': 'application/octet-stream', Cookie: guest.cookie },
      body: bytes,
    });
    const file = (await response.json()) as { id: string };
    await guest.call('POST', `${fill}/sections/more`, { answers: { why: 'x', papers: [file] } });
    await guest.call('POST', `${own}/withdrawal`);
    await anchorAll(small.db);
    expect(await forgetOver(small.serving.house)).toBe(0);
    const { soon } = (await wren.get<Forgetting>('/forgetting')).body;
    expect(soon.map(one => one.request)).toContain(request);
    await small.db
      .update(t.requests)
      .set({ closedAt: '2025-12-01T00:00:00Z' as never })
      .where(eq(t.requests.id, request));
    expect(await forgetOver(small.serving.house)).toBe(1);
    expect(await requestsOf(answers.mail)).toEqual([]);
    for (const table of [t.events, t.tasks, t.timers, t.effects, t.guestLinks, t.guestDevices, t.files] as const)
      expect(await small.db.$count(table, eq(table.request, request))).toBe(0);
    expect(await small.db.$count(t.files, eq(t.files.id, file.id))).toBe(0);
    expect((await guest.get(own)).status).toBe(404);
    const found = await audit(small.db);
    expect(found.faults.filter(fault => fault.request === request)).toEqual([]);
    const { gone } = (await wren.get<Forgetting>('/forgetting')).body;
    expect([gone.requests, gone.rows.map(row => row.request)]).toEqual([1, [request]]);
    // What was said to be deleted and had gone on before would show.
    await small.db.update(t.forgotten).set({ version: 1 }).where(eq(t.forgotten.request, request));
    expect((await audit(small.db)).faults.map(fault => fault.words)).toContain(
      'the request was deleted and had gone on since',
    );
  });

  test('is deleted when the clock of the house comes to its day, and the page of what is deleted says so', async () => {
    const { guest, own, request } = await begun();
    await guest.call('POST', `${own}/withdrawal`);
    const day = async () => (await wren.get<Forgetting>('/forgetting')).body;
    const on = (await day()).soon.find(one => one.request === request)?.on;
    expect(on).toBeDefined();
    const kay = await signedIn(small.base, 'kay');
    const days = Math.round((Date.parse(`${on}T00:00:00Z`) - Date.parse('2026-02-02T00:00:00Z')) / 86_400_000);
    expect((await kay.call('POST', '/clock', { days: days - 1, hours: 0 })).status).toBe(200);
    expect(await small.db.$count(t.requests, eq(t.requests.id, request))).toBe(1);
    expect((await kay.call('POST', '/clock', { days: 1, hours: 0 })).status).toBe(200);
    expect(await small.db.$count(t.requests, eq(t.requests.id, request))).toBe(0);
    expect((await day()).gone.rows.map(row => row.request)).toContain(request);
  });
});
