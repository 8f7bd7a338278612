/** Guests over HTTP: their page, their papers, two devices, a link that was passed on, and what is kept from everybody else. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { GuestPaper, GuestSaved, GuestStandingView, GuestView, RequestView } from '@north-pebble/contract';
import type { GivenFile, SignedPaper } from '@north-pebble/core/form';
import type { Command, Definition } from '@north-pebble/core/workflow';
import { and, desc, eq, like } from 'drizzle-orm';
import { joinersFields, joinersSections } from '../../core/starters/joiner.ts';
import { flow, task, who } from '../../core/testing/run.ts';
import { tables as t } from '../database/index.ts';
import { pdfWords } from '../testing/pdfWords.ts';
import { Browser, putLive, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { linkAddress } from './index.ts';

const text = (id: string, label: string) => ({ kind: 'text', id, label, required: true });
const joining = {
  ...flow(
    task({
      id: 'papers',
      who: who({ kind: 'role', role: 'HR partner' }),
      guest: { name: 'name', mail: 'mail', sections: joinersSections.map(one => one.id), days: 20 },
    }),
  ),
  name: 'Joining',
  form: {
    sections: joinersSections,
    fields: [
      text('name', 'Name'),
      text('mail', 'Private mail'),
      text('post', 'Post'),
      { kind: 'date', id: 'start', label: 'Start date', required: true },
      { kind: 'files', id: 'own', label: 'Letter', required: false },
      ...joinersFields,
      {
        kind: 'paper',
        id: 'letter',
        label: 'Letter of ours',
        required: false,
        section: 'bank',
        text: '',
        from: 'own',
        signed: 'here',
      },
    ],
  },
  figures: [],
  messages: [],
  closings: [{ id: 'approved', name: 'Done', tone: 'good', message: null }],
} as unknown as Definition;

let small: Small;
let ina: Browser;
let dora: Browser;
beforeAll(async () => {
  small = await startSmall();
  await putLive(small.db, 'joining', joining);
  ina = await signedIn(small.base, 'ina');
  dora = await signedIn(small.base, 'dora');
});
afterAll(() => small.stop());

const until = '2026-02-22T10:00:00Z' as never;
async function begun(more: object = {}) {
  const answers = { name: 'Mika Ødegård', mail: 'mika@example.test', post: 'Keeper', start: '2026-03-02', ...more };
  const sent = await ina.call<{ request: string }>('POST', '/requests', {
    id: randomUUID(),
    workflow: 'joining',
    answers,
  });
  expect(sent.status).toBe(201);
  const { request } = sent.body;
  const address = await linkAddress(small.serving.house, small.db, request, { step: 'papers', n: 1, until });
  return { request, path: `/guest/${address.split('#')[1]}`, guest: new Browser(small.base) };
}
async function upload(
  guest: Browser,
  path: string,
  name: string,
  bytes: Uint8Array | string,
): Promise<{ status: number; body: GivenFile }> {
  const response = await fetch(`${small.base}/api${path}/files?name=${encodeURIComponent(name)}`, {
    method: 'POST',
    headers: { 'X-North-Pebble': '1', 'Content-Type': 'application/octet-stream', Cookie: guest.cookie },
    body: bytes as never,
  });
  return { status: response.status, body: (await response.json()) as GivenFile };
}
const bytesOf = async (guest: Browser, path: string, id: string) =>
  fetch(`${small.base}/api${path}/files/${id}`, { headers: { Cookie: guest.cookie } });
const you = { born: '1990-05-04', home: 'Pier 4', phone: '1', citizen: 'Of this country', call: 'Ada, 2' };
const seen = async (request: string) => (await dora.get<RequestView>(`/requests/${request}`)).body.version;

describe('the page of a guest', () => {
  test('shows what is asked of them and nothing else of the request', async () => {
    const { guest, path, request } = await begun();
    const { status, body } = await guest.get<GuestView>(path);
    expect(status).toBe(200);
    expect(body).toMatchObject({ state: 'open', name: 'Mika Ødegård', contact: 'Dora Quill', about: 'Joining' });
    expect(body.sections.map(one => one.id)).toEqual(joinersSections.map(one => one.id));
    const said = JSON.stringify(body);
    for (const hidden of ['shownWhen', 'readers', 'mika@example.test', request, 'Ina Okell'])
      expect(said).not.toContain(hidden);
    // Who is signed in as nobody sees nothing else by it.
    expect((await guest.get(`/requests/${request}`)).status).toBe(401);
  });

  test('keeps what is typed, asks for more when an answer asks for it, and is told of another device', async () => {
    const { guest, path } = await begun();
    await guest.get(path);
    const save = (value: object, base: number) =>
      guest.call<GuestSaved>('PUT', `${path}/sections/identity`, { value, base });
    expect((await save({}, 0)).body.fields.map(one => one.field.id)).toEqual(['id-card']);
    await guest.call('POST', `${path}/sections/you`, { answers: { ...you, citizen: 'Of another country' } });
    expect((await save({}, 1)).body.fields.map(one => one.field.id)).toEqual(['id-card', 'permit']);
    expect(await save({ permit: null }, 1)).toMatchObject({ status: 409, problem: { code: 'stale' } });
    expect((await save({}, 2)).body.base).toBe(3);
    const again = (await guest.get<GuestView>(path)).body.sections.find(one => one.id === 'identity');
    expect(again?.typed).toMatchObject({ base: 3 });
    expect((await guest.call('PUT', `${path}/sections/nothing`, { value: {}, base: 0 })).status).toBe(404);
  });

  test('is answered, given back and finished by whoever has the step; the answers are theirs to read', async () => {
    const { guest, path, request } = await begun();
    await guest.get(path);
    const handed = await guest.call<GuestView>('POST', `${path}/sections/you`, { answers: you });
    expect(handed.body.sections[0].state).toBe('in');
    // Twice by an impatient hand: once on the trail.
    await guest.call('POST', `${path}/sections/you`, { answers: you });
    await guest.call('POST', `${path}/questions`, { text: 'Which name?' });
    await guest.call('POST', `${path}/questions`, { text: 'Which name?' });
    const give = { kind: 'give back section', step: 'papers', section: 'you', note: 'The street, please.' };
    expect((await ina.command(request, { ...give, seen: await seen(request) } as Command)).status).toBe(403);
    expect((await dora.command(request, { ...give, seen: await seen(request) } as Command)).status).toBe(200);
    const back = (await guest.get<GuestView>(path)).body;
    expect(back.sections[0]).toMatchObject({ state: 'back', note: 'The street, please.' });
    expect(back.words).toMatchObject([{ mine: true, text: 'Which name?' }]);
    const view = (await dora.get<RequestView>(`/requests/${request}`)).body;
    expect(view.trail.map(line => line.text).filter(line => line.startsWith('handed in'))).toEqual([
      'handed in “About you”',
    ]);
    expect(view.trail.filter(line => line.text === 'asked a question')).toHaveLength(1);
    expect(view.answers.home).toBe('Pier 4');
    const [standing] = (await dora.get<GuestStandingView[]>(`/requests/${request}/guests`)).body;
    expect(standing).toMatchObject({
      name: 'Mika Ødegård',
      devices: 1,
      mayAct: true,
      link: { ended: false, over: false },
    });
    // The asker sees that it waits, not what was typed.
    expect((await ina.get<GuestStandingView[]>(`/requests/${request}/guests`)).body).toEqual([]);
    expect(JSON.stringify((await ina.get(`/requests/${request}`)).body)).not.toContain('Pier 4');
    const preview = (await dora.get<GuestView>(`/requests/${request}/guests/papers`)).body;
    expect(preview.sections[0].answers).toMatchObject({ home: 'Pier 4' });
    expect(JSON.stringify(preview)).not.toContain('1990-05-04');
    expect((await ina.get(`/requests/${request}/guests/papers`)).status).toBe(404);
  });

  test('takes papers: read, signed with name, time and digest in the PDF, and never as they say themselves', async () => {
    const { guest, path, request } = await begun();
    await guest.get(path);
    const paper = (await guest.get<GuestPaper>(`${path}/papers/agreement`)).body;
    expect(paper.text).toContain('Mika Ødegård, who begins as Keeper');
    const sign = (field: string, body: object) => guest.call<GuestView>('POST', `${path}/papers/${field}`, body);
    const typed = { name: 'Mika Ødegård', strokes: null };
    expect(await sign('agreement', { ...typed, digest: 'a'.repeat(64) })).toMatchObject({ status: 409 });
    expect(await sign('agreement', { name: null, strokes: null, digest: paper.digest })).toMatchObject({
      problem: { faults: [{ field: 'name' }] },
    });
    expect((await sign('agreement', { ...typed, digest: paper.digest })).status).toBe(200);
    const rules = (await guest.get<GuestPaper>(`${path}/papers/house-rules`)).body;
    const agreed = { picture: { version: '2', at: '1999-01-01T00:00:00Z' } };
    const forged = { how: 'read', name: null, at: '2026-02-02T10:00:00Z', digest: rules.digest, file: null };
    const refused = await guest.call('POST', `${path}/sections/sign`, {
      answers: { ...agreed, 'house-rules': forged },
    });
    expect(refused.problem.faults).toEqual([{ field: 'house-rules', message: 'House rules is needed.' }]);
    await sign('house-rules', { name: null, strokes: null, digest: rules.digest });
    const handed = await guest.call<GuestView>('POST', `${path}/sections/sign`, { answers: agreed });
    expect(handed.status).toBe(200);
    const signed = handed.body.sections.find(one => one.id === 'sign')?.answers.agreement as SignedPaper;
    expect(signed).toMatchObject({ how: 'typed', name: 'Mika Ødegård', digest: paper.digest });
    const pages = pdfWords(new Uint8Array(await (await bytesOf(guest, path, signed.file!.id)).arrayBuffer()));
    expect(pages.at(-1)).toContain('Signed by Mika Ødegård');
    expect(pages.at(-1)?.replace(/\s/g, '')).toContain(paper.digest);
    // It belongs to the request now: whoever has the step reads it, and the look is on the trail; others do not.
    const read = (browser: Browser) =>
      fetch(`${small.base}/api/files/${signed.file!.id}`, { headers: { Cookie: browser.cookie } });
    expect((await read(ina)).status).toBe(404);
    expect((await read(dora)).status).toBe(200);
    expect((await dora.get<RequestView>(`/requests/${request}`)).body.trail.at(-1)?.text).toBe(
      'looked at “Agreement of work”',
    );
  });

  test('says of a paper that cannot be opened that it cannot, and of a file what is wrong with it', async () => {
    const { guest, path } = await begun();
    await guest.get(path);
    expect((await upload(guest, path, 'tool.pdf', 'MZ\u0090 a program')).status).toBe(400);
    expect((await upload(guest, path, 'empty.pdf', '')).status).toBe(400);
    const broken = await upload(ina, '', 'letter.pdf', '%PDF-1.7\n1 0 obj <<>> endobj\ntrailer <<>>\n%%EOF\n');
    const other = await begun({ own: [broken.body] });
    await other.guest.get(other.path);
    expect(await other.guest.get(`${other.path}/papers/letter`)).toMatchObject({
      status: 422,
      problem: { code: 'refused' },
    });
    const card = (await upload(guest, path, 'card.pdf', '%PDF-1.7\n1 0 obj <<>> endobj\n%%EOF\n')).body;
    const answers = { 'id-card': { file: card, expires: '2027-01-01', number: 'C01X00T47' } };
    // Nobody else's file, nor one that is said to be another.
    const theirs = await other.guest.call('POST', `${other.path}/sections/identity`, { answers });
    expect(theirs).toMatchObject({ status: 400, problem: { faults: [{ field: 'id-card' }] } });
    expect((await guest.call('POST', `${path}/sections/identity`, { answers })).status).toBe(200);
    expect((await bytesOf(other.guest, other.path, card.id)).status).toBe(404);
    expect((await bytesOf(guest, path, card.id)).status).toBe(200);
  });
});

describe('a personal link', () => {
  test('that was passed on opens nothing on a second device without the code of the first one’s mailbox', async () => {
    const { guest, path, request } = await begun();
    await guest.get(path);
    const stranger = new Browser(small.base);
    expect((await stranger.get<GuestView>(path)).body).toMatchObject({
      state: 'code',
      name: '',
      sections: [],
      about: '',
    });
    for (const [method, to, body] of [
      ['POST', '/sections/you', { answers: you }],
      ['PUT', '/sections/you', { value: {}, base: 0 }],
      ['POST', '/questions', { text: 'x' }],
      ['GET', '/papers/agreement', undefined],
      ['POST', '/consents/picture/back', undefined],
    ] as const)
      expect((await stranger.call(method, `${path}${to}`, body)).status).toBe(403);
    expect((await stranger.call('POST', `${path}/code`)).status).toBe(204);
    expect((await stranger.call('POST', `${path}/code`)).status).toBe(429);
    const [letter] = await small.db
      .select()
      .from(t.effects)
      .where(and(eq(t.effects.request, request), like(t.effects.key, '%:code:%')))
      .orderBy(desc(t.effects.id));
    expect(letter.payload.address).toBe('mika@example.test');
    const code = /\d{6}/.exec(letter.payload.subject)?.[0];
    const wrong = code === '000000' ? '000001' : '000000';
    expect(await stranger.call('POST', `${path}/device`, { code: wrong })).toMatchObject({
      status: 400,
      problem: { faults: [{ field: 'code' }] },
    });
    expect((await stranger.call<GuestView>('POST', `${path}/device`, { code })).body.state).toBe('open');
    const [standing] = (await dora.get<GuestStandingView[]>(`/requests/${request}/guests`)).body;
    expect(standing.devices).toBe(2);
  });

  test('is not shut by however many open it without a cookie, and a few codes at a time are written', async () => {
    const { guest, path, request } = await begun();
    await guest.get(path);
    for (let n = 0; n < 30; n++) await new Browser(small.base).get(path);
    expect((await guest.get<GuestView>(path)).body.state).toBe('open');
    const statuses: number[] = [];
    for (let n = 0; n < 8; n++) {
      const one = new Browser(small.base);
      await one.get(path);
      statuses.push((await one.call('POST', `${path}/code`)).status);
    }
    expect(statuses.filter(status => status === 204)).toHaveLength(5);
    expect((await small.db.select().from(t.guestDevices).where(eq(t.guestDevices.request, request))).length).toBe(6);
    // Once those are over, the guest gets one on another device.
    await small.db.update(t.guestDevices).set({ codeUntil: 0 });
    const other = new Browser(small.base);
    expect((await other.call('POST', `${path}/code`)).status).toBe(204);
  });

  test('takes five tries at a code and no more', async () => {
    const { guest, path, request } = await begun();
    await guest.get(path);
    const stranger = new Browser(small.base);
    await stranger.get(path);
    await stranger.call('POST', `${path}/code`);
    const [letter] = await small.db
      .select()
      .from(t.effects)
      .where(and(eq(t.effects.request, request), like(t.effects.key, '%:code:%')));
    const code = /\d{6}/.exec(letter.payload.subject)![0];
    const wrong = code === '000000' ? '000001' : '000000';
    for (let n = 0; n < 5; n++) await stranger.call('POST', `${path}/device`, { code: wrong });
    expect((await stranger.call('POST', `${path}/device`, { code })).status).toBe(400);
  });

  test('that was ended, replaced, guessed or misspelt opens nothing and tells nothing; one that is over may be renewed', async () => {
    const { guest, path, request } = await begun();
    await guest.get(path);
    const words = 'This address does not work. Take the one of the newest mail that we sent you.';
    expect((await guest.get(`/guest/${'x'.repeat(43)}`)).problem.detail).toBe(words);
    expect((await guest.get('/guest/short')).status).toBe(400);
    expect((await guest.call('POST', `${path}/link`)).status).toBe(422);
    await small.db.update(t.house).set({ now: '2026-02-23T10:00:00Z' });
    expect((await guest.get<GuestView>(path)).body.state).toBe('expired');
    expect((await guest.call('POST', `${path}/sections/you`, { answers: you })).status).toBe(409);
    expect((await guest.call('POST', `${path}/link`)).status).toBe(204);
    expect((await guest.get(path)).problem.detail).toBe(words);
    const next = await linkAddress(small.serving.house, small.db, request, { step: 'papers', n: 2, until });
    const renewed = `/guest/${next.split('#')[1]}`;
    expect((await guest.get<GuestView>(renewed)).body.state).toBe('open');
    const end = { kind: 'end link', step: 'papers', seen: await seen(request), note: 'Wrong address.' };
    expect((await dora.command(request, end as Command)).status).toBe(200);
    expect((await guest.get(renewed)).problem.detail).toBe(words);
    expect((await guest.call('POST', `${renewed}/link`)).status).toBe(404);
    await small.db.update(t.house).set({ now: '2026-02-02T10:00:00Z' });
  });

  test('says once the step is done that nothing is asked any more, and shows nothing', async () => {
    const { guest, path, request } = await begun();
    await guest.get(path);
    await ina.command(request, { kind: 'withdraw', seen: await seen(request), note: null });
    expect((await guest.get<GuestView>(path)).body).toMatchObject({ state: 'over', sections: [], name: '' });
    expect((await guest.call('POST', `${path}/sections/you`, { answers: you })).status).toBe(409);
  });

  test.each([
    ['answers that are a list', { answers: [] }],
    ['no answers', {}],
    ['a million answers', { answers: Object.fromEntries(Array.from({ length: 2000 }, (_, n) => [`f${n}`, n])) }],
    ['answers of other sections', { answers: { ...you, iban: 'NO 1', name: 'Else' } }],
  ])('carries no %s', async (_, body) => {
    const { guest, path } = await begun();
    await guest.get(path);
    expect((await guest.call('POST', `${path}/sections/you`, body)).status).toBe(400);
  });
});
