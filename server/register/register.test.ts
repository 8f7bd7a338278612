/** The register: kept by a request, asked for anew by itself, reminded in steps, replaced, and thrown away with every piece. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { DeskView, PapersView, RequestView } from '@north-pebble/contract';
import type { GivenFile } from '@north-pebble/core/form';
import { renewal } from '@north-pebble/core/starters';
import type { Command, Definition } from '@north-pebble/core/workflow';
import { eq, like } from 'drizzle-orm';
import { flow } from '../../core/testing/run.ts';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Browser, putLive, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { workRegister } from './index.ts';

const card = {
  kind: 'document',
  id: 'card',
  label: 'Card',
  required: true,
  expires: true,
  numbered: true,
};
const giving = {
  ...flow({
    verb: 'Record',
    id: 'keep',
    when: null,
    effect: { kind: 'keep paper', field: 'card', as: 'Identity card' },
  }),
  name: 'Giving',
  form: { fields: [card] },
  figures: [],
  messages: [],
  closings: [{ id: 'approved', name: 'Done', tone: 'good', message: null }],
} as unknown as Definition;

let small: Small;
let ina: Browser;
let dora: Browser;
let per: Browser;
beforeAll(async () => {
  small = await startSmall();
  await putLive(small.db, 'giving', giving);
  await putLive(small.db, 'renewal', renewal.definition as Definition);
  ina = await signedIn(small.base, 'ina');
  dora = await signedIn(small.base, 'dora');
  per = await signedIn(small.base, 'per');
});
afterAll(() => small.stop());

async function upload(browser: Browser, name = 'card.pdf'): Promise<GivenFile> {
  const response = await fetch(`${small.base}/api/files?name=${name}`, {
    method: 'POST',
    headers: { 'X-North-Pebble': '1', Cookie: browser.cookie, 'Content-Type': 'application/octet-stream' },
    body: '%PDF-1.7\n1 0 obj <<>> endobj\ntrailer <<>>\n%%EOF\n',
  });
  return (await response.json()) as GivenFile;
}
async function give(number: string, expires: string) {
  const file = await upload(ina);
  const answers = { card: { file, expires, number } };
  const sent = await ina.call<{ request: string }>('POST', '/requests', {
    id: randomUUID(),
    workflow: 'giving',
    answers,
  });
  return { file, request: sent.body.request, status: sent.status };
}
const setNow = (now: string) => small.db.update(t.house).set({ now });
const register = async (browser = dora, query = '') => (await browser.get<PapersView>(`/papers?${query}`)).body;

describe('the register of papers', () => {
  test('keeps a paper once, its number nowhere but apart, and shows it to its holder and to HR', async () => {
    expect((await give('C01 X00 T47', '2025-12-31')).status).toBe(400);
    const { request, file } = await give('C01 X00 T47', '2026-03-31');
    const [row] = (await register()).rows;
    expect(row).toMatchObject({
      holder: 'Ina Okell',
      kind: 'Identity card',
      number: '•••• 0T47',
      expires: '2026-03-31',
      state: 'runs out',
    });
    expect((await register(per)).rows).toEqual([]);
    expect((await register(ina)).rows).toMatchObject([{ isMine: true }]);
    // Neither the request nor what happened to it holds the number.
    const everything = [await small.db.select().from(t.requests), await small.db.select().from(t.events)];
    expect(JSON.stringify(everything)).not.toContain('X00 T47');
    expect(JSON.stringify((await ina.get<RequestView>(`/requests/${request}`)).body)).not.toContain('X00 T47');
    // A look is kept before it is answered; one’s own is none.
    expect((await dora.call('POST', `/papers/${row.id}/number`)).body).toEqual({ number: 'C01 X00 T47' });
    expect((await ina.call('POST', `/papers/${row.id}/number`)).body).toEqual({ number: 'C01 X00 T47' });
    expect((await per.call('POST', `/papers/${row.id}/number`)).status).toBe(404);
    const read = await fetch(`${small.base}/api/papers/${row.id}/file`, { headers: { Cookie: dora.cookie } });
    expect(read.status).toBe(200);
    expect((await dora.get(`/papers/${row.id}/looks`)).body).toMatchObject([
      { who: 'Dora Quill', what: 'file' },
      { who: 'Dora Quill', what: 'number' },
    ]);
    expect(file.id).toBeTruthy();
  });

  test('asks for the new one by itself once, reminds in steps, and is done when that is accepted', async () => {
    const [old] = (await register()).rows;
    const rules = { kind: 'Identity card', askBefore: 60, workflow: 'renewal', remindBefore: [14, 30], keepAfter: 90 };
    const told = await dora.call<PapersView>('PUT', '/papers/rules', rules);
    expect(told.body.rules).toEqual([{ ...rules, remindBefore: [30, 14] }]);
    expect(await workRegister(small.serving.house)).toEqual({ asked: 1, reminded: 0, forgotten: 0 });
    expect(await workRegister(small.serving.house)).toEqual({ asked: 0, reminded: 0, forgotten: 0 });
    const [{ renewal: asked }] = (await register()).rows;
    const view = (await ina.get<RequestView>(`/requests/${asked}`)).body;
    expect(view.answers).toMatchObject({ paper: 'Identity card', 'runs-out': '2026-03-31' });
    const [item] = (await ina.get<DeskView>('/desk')).body.items;
    expect(item).toMatchObject({ request: asked, kind: 'hand in' });
    await setNow('2026-03-20T10:00:00Z');
    // Two steps have passed since anybody looked: the newer one is said.
    expect(await workRegister(small.serving.house)).toEqual({ asked: 0, reminded: 1, forgotten: 0 });
    const letters = await small.db.select().from(t.effects).where(like(t.effects.key, 'paper:%'));
    expect(letters.map(one => one.key)).toEqual([`paper:${old.id}:2026-03-31:14`]);
    expect(letters[0].payload.body).toContain(String(asked));
    // Ina gives the new one; HR accepts it.
    const file = await upload(ina, 'new.pdf');
    const answers = { 'new-paper': { file, expires: '2031-03-31', number: 'D02Y11U58' } };
    const handed = await ina.command(asked!, {
      kind: 'hand in',
      seen: view.version,
      step: view.may.handIn[0]!,
      answers,
    } as Command);
    expect(handed.status).toBe(200);
    const now = (await dora.get<RequestView>(`/requests/${asked}`)).body;
    const finish = { kind: 'complete', seen: now.version, task: now.may.work!.task, ticked: ['checked'], answers: {} };
    if (now.may.work!.free) {
      await dora.command(asked!, { kind: 'take', seen: now.version, task: now.may.work!.task });
      finish.seen = (await dora.get<RequestView>(`/requests/${asked}`)).body.version;
    }
    const definition = now.definition.steps.find(step => step.verb === 'Do') as { checklist?: { id: string }[] };
    finish.ticked = (definition.checklist ?? []).map(one => one.id);
    expect((await dora.command(asked!, finish as Command)).status).toBe(200);
    const after = (await register(dora, 'which=all')).rows;
    expect(after.map(one => [one.expires, one.state])).toEqual([
      ['2026-03-31', 'replaced'],
      ['2031-03-31', 'good'],
    ]);
    expect((await register()).months.reduce((sum, one) => sum + one.papers, 0)).toBe(0);
  });

  test('throws a paper away on its day, with its number, its file and every piece, and keeps that it was there', async () => {
    const [old] = (await register(dora, 'which=all')).rows;
    const [{ file }] = await small.db.select({ file: t.papers.file }).from(t.papers).where(eq(t.papers.id, old.id));
    expect(old.forgetOn).toBe('2026-06-18');
    await setNow('2026-06-17T10:00:00Z');
    expect((await workRegister(small.serving.house)).forgotten).toBe(0);
    expect(await small.db.$count(t.filePieces, eq(t.filePieces.file, file))).toBe(1);
    await setNow('2026-06-18T10:00:00Z');
    expect((await workRegister(small.serving.house)).forgotten).toBe(1);
    for (const [table, column] of [
      [t.filePieces, t.filePieces.file],
      [t.files, t.files.id],
      [t.paperNumbers, t.paperNumbers.file],
    ] as const)
      expect(await small.db.$count(table, eq(column, file))).toBe(0);
    const [row] = (await register(dora, 'which=all')).rows;
    expect(row).toMatchObject({ state: 'thrown away', number: null, forgottenOn: '2026-06-18' });
    expect((await dora.call('POST', `/papers/${row.id}/number`)).body).toEqual({ number: null });
    expect((await dora.get(`/papers/${row.id}/file`)).status).toBe(404);
    expect((await workRegister(small.serving.house)).forgotten).toBe(0);
    await setNow('2026-02-02T10:00:00Z');
  });

  test.each([
    ['no kind', { kind: '' }],
    ['a thousand days before', { askBefore: 1000 }],
    ['ten reminders', { remindBefore: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10] }],
    ['half a day', { keepAfter: 0.5 }],
  ])('takes no rules with %s', async (_, change) => {
    const rules = { kind: 'Pass', askBefore: 60, workflow: null, remindBefore: [14], keepAfter: 90, ...change };
    expect((await dora.call('PUT', '/papers/rules', rules)).status).toBe(400);
  });

  test('papers of somebody who was not on file become theirs by a word, all of one request, and by nobody who may not', async () => {
    const paper = (holder: string, file: string, person: string | null = null) => ({
      holder,
      person,
      kind: 'Permit to work',
      file,
      expires: '2027-01-31',
      keptOn: '2026-02-02',
      request: 'R-900',
      field: 'permit',
      key: `R-900:${file}`,
    });
    await small.db
      .insert(t.papers)
      .values([paper('Mika Ødegård', 'm1'), paper('Mika Ødegård', 'm2'), paper('Ola Other', 'm3')]);
    const permits = async () => (await register(dora, 'kind=Permit+to+work')).rows;
    const [first] = await permits();
    const say = (who: Browser, person: string) => who.call('PUT', `/papers/${first.id}/holder`, { person });
    expect((await say(per, 'ina')).status).toBe(404);
    expect((await say(dora, 'nobody')).status).toBe(400);
    expect((await say(dora, 'ina')).status).toBe(200);
    expect((await say(dora, 'per')).status).toBe(409);
    expect((await permits()).map(row => [row.holder, row.person])).toEqual([
      ['Ina Okell', 'ina'],
      ['Ina Okell', 'ina'],
      ['Ola Other', null],
    ]);
    expect((await dora.get(`/papers/${first.id}/looks`)).body).toMatchObject([{ who: 'Dora Quill', what: 'holder' }]);
    expect((await register(ina, 'kind=Permit+to+work')).rows).toHaveLength(2);
  });
});

describe('a paper of somebody who is not on file yet', () => {
  test('is seen by HR of the place at which they will work, and of no other', async () => {
    const hiring = {
      ...giving,
      name: 'Hiring',
      form: {
        fields: [card, { kind: 'pick', id: 'post', label: 'Post', list: 'posts', required: false }],
      },
    } as unknown as Definition;
    await putLive(small.db, 'hiring', hiring);
    await small.db.insert(t.places).values({ id: 'skarn', name: 'Skarn Light', zone: 'UTC', calendar: 'ovay' });
    await small.db
      .insert(t.posts)
      .values({ id: 'keeper-2', title: 'Keeper', department: 'observatory', place: 'skarn' });
    await small.db.insert(t.roles).values([
      { role: 'HR partner', person: 'con', place: 'ovay' },
      { role: 'HR partner', person: 'sub', place: 'skarn' },
    ]);
    await raiseDirectoryVersion(small.db);
    const [con, sub] = [await signedIn(small.base, 'con'), await signedIn(small.base, 'sub')];
    const file = await upload(ina);
    const answers = { card: { file, expires: '2027-03-31', number: 'N 1' }, post: 'keeper-2' };
    const sent = await ina.call<{ request: string }>('POST', '/requests', {
      id: randomUUID(),
      workflow: 'hiring',
      answers,
    });
    expect(sent.status).toBe(201);
    await small.db
      .update(t.papers)
      .set({ person: null, holder: 'Mika Odegard' })
      .where(eq(t.papers.request, sent.body.request));
    const seen = async (who: Browser) => (await register(who)).rows.some(row => row.holder === 'Mika Odegard');
    expect([await seen(con), await seen(sub), await seen(dora)]).toEqual([false, true, true]);
    const [{ id }] = await small.db.select().from(t.papers).where(eq(t.papers.request, sent.body.request));
    const open = async (who: Browser) => (await who.call('POST', `/papers/${id}/number`)).status;
    expect([await open(con), await open(sub)]).toEqual([404, 200]);
    // Where nobody knows of a post, only HR of everybody does.
    await small.db.update(t.papers).set({ request: 'R-1' }).where(eq(t.papers.id, id));
    expect([await seen(con), await seen(sub), await seen(dora)]).toEqual([false, false, true]);
  });
});
