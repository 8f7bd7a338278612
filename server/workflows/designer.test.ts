/** Beginning, taking back, archiving, keeping to some people, moving requests, and what a rehearsal asks for. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type {
  AskView,
  Begun,
  Movable,
  MovedView,
  RehearsalView,
  RequestView,
  SheetView,
  ShelfRow,
  SurroundingsView,
} from '@north-pebble/contract';
import { keep, replay } from '@north-pebble/core/proof';
import { blank, starters } from '@north-pebble/core/starters';
import { type Definition, setAt } from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import { annualLeave, halves, index } from '../../core/testing/house.ts';
import { tables as t } from '../database/index.ts';
import { type Browser, eventually, houseNow, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
let kay: Browser;
let ina: Browser;
let tom: Browser;
beforeAll(async () => {
  small = await startSmall();
  kay = await signedIn(small.base, 'kay');
  ina = await signedIn(small.base, 'ina');
  tom = await signedIn(small.base, 'tom');
});
afterAll(() => small.stop());

const sheet = async (id: string) => (await kay.get<SheetView>(`/workflows/${id}`)).body;
const begin = async (definition: Definition) => (await kay.call<Begun>('POST', '/workflows', { definition })).body.id;
const save = async (id: string, definition: Definition) =>
  kay.call<{ revision: number }>('PUT', `/workflows/${id}/draft`, { revision: (await sheet(id)).revision, definition });
const publish = async (id: string, comment = 'So.') =>
  kay.call<{ version: number }>('POST', `/workflows/${id}/publish`, { revision: (await sheet(id)).revision, comment });

describe('a workflow', () => {
  test('begins as a draft with an id of its own, and is on the shelf with its sentence and findings', async () => {
    const first = await begin(blank('Diving day'));
    const second = await begin(blank('Diving day'));
    expect([first, second]).toEqual(['diving-day', 'diving-day-2']);
    const rowOf = async () => (await kay.get<ShelfRow[]>('/workflows')).body.find(r => r.id === first);
    // Worked out beside, and kept: whoever reads the shelf does not wait for it.
    await eventually(async () => (await rowOf())?.checking === false);
    const row = await rowOf();
    expect(row).toMatchObject({ liveVersion: null, hasDraft: true, findings: { stops: 0, warns: 3 }, archived: false });
    expect(row?.sentence).toContain('The asker fills in 0 fields');
    expect((await kay.call('POST', '/workflows', { definition: { hello: 1 } })).status).toBe(400);
    expect((await kay.call('DELETE', `/workflows/${first}/draft`)).status).toBe(422);
  });

  test('an older version is taken back as a draft, and versions can be read one by one', async () => {
    await save('annual', setAt(annualLeave, ['purpose'], 'Second.'));
    expect((await publish('annual')).body.version).toBe(2);
    const { revision } = await sheet('annual');
    const older = (await kay.get<Definition>('/workflows/annual/versions/1')).body;
    const again = (seen: number) => kay.call('PUT', '/workflows/annual/draft', { revision: seen, definition: older });
    expect((await again(revision - 1)).status).toBe(409);
    expect((await again(revision)).status).toBe(200);
    expect((await sheet('annual')).draft?.definition.purpose).toBe(annualLeave.purpose);
    expect((await kay.get<Definition>('/workflows/annual/versions/2')).body.purpose).toBe('Second.');
    expect((await kay.get('/workflows/annual/versions/9')).status).toBe(404);
    await kay.call('DELETE', '/workflows/annual/draft');
  });

  test('archived, nobody can ask through it, and it comes back as it was', async () => {
    const askable = async () => (await ina.get<{ id: string }[]>('/askable')).body.map(r => r.id);
    expect(await askable()).toContain('annual');
    expect((await kay.call('PUT', '/workflows/annual/archive', { archived: true })).status).toBe(204);
    expect(await askable()).not.toContain('annual');
    expect((await ina.ask('2026-06-01', '2026-06-02')).status).toBe(404);
    await kay.call('PUT', '/workflows/annual/archive', { archived: false });
    expect(await askable()).toContain('annual');
  });

  test('kept to some people, others neither change nor publish it, and nobody locks themselves out', async () => {
    const id = await begin(blank('Private'));
    const put = (permissions: unknown) => kay.call('PUT', `/workflows/${id}/permissions`, { permissions });
    expect((await put({ edit: [], publish: ['dora'], see: [] })).status).toBe(422);
    expect((await put({ edit: ['nobody'], publish: [], see: [] })).problem.detail).toContain('There is no “nobody”');
    expect((await put({ edit: ['dora'], publish: ['kay'], see: [] })).status).toBe(204);
    expect((await save(id, blank('Changed'))).status).toBe(403);
    expect((await sheet(id)).may).toEqual({ edit: false, publish: true });
    const auditor = await signedIn(small.base, 'per');
    expect((await auditor.get(`/workflows/${id}`)).status).toBe(200);
    await put({ edit: ['kay'], publish: ['kay'], see: ['kay'] });
    expect((await auditor.get(`/workflows/${id}`)).status).toBe(404);
    expect((await auditor.get<ShelfRow[]>('/workflows')).body.some(r => r.id === id)).toBe(false);
    expect((await put(null)).status).toBe(204);
    expect((await auditor.get(`/workflows/${id}`)).status).toBe(200);
  });
});

describe('open requests on an older version', () => {
  test('are listed with what hinders them, and those that fit are moved with a reason on their trail', async () => {
    const { body } = await ina.ask('2026-03-16', '2026-03-20');
    const live = (await sheet('annual')).live?.version ?? 0;
    await save('annual', setAt(annualLeave, ['steps', 2, 'outcomes', 0, 'label'], 'Agree'));
    await publish('annual');
    const [row] = (await kay.get<Movable[]>('/workflows/annual/moving')).body.filter(r => r.request === body.request);
    expect(row).toMatchObject({ version: live, obstacles: [], askerName: 'Ina Okell' });
    const moved = await kay.call<MovedView>('POST', '/workflows/annual/moving', {
      requests: [body.request, 'R-0'],
      reason: 'Plainer word.',
    });
    expect(moved.body).toMatchObject({ moved: [body.request], refused: [{ request: 'R-0' }] });
    const view = (await ina.get<RequestView>(`/requests/${body.request}`)).body;
    expect(view.workflowVersion).toBe(live + 1);
    expect(view.trail.at(-1)).toMatchObject({
      text: `moved it from version ${live} to version ${live + 1}`,
      why: ['Plainer word.'],
    });
    const task = view.tasks[0].id;
    const command = { kind: 'answer', seen: view.version, task, outcome: 'approve', note: null };
    expect((await tom.call('POST', `/requests/${body.request}/commands`, { id: randomUUID(), command })).status).toBe(
      200,
    );
  });

  test('stay where they are when their step is gone', async () => {
    const { body } = await ina.ask('2026-04-20', '2026-04-24');
    const without = { ...annualLeave, steps: annualLeave.steps.filter(s => s.id !== 'manager') };
    await save('annual', without);
    expect((await publish('annual')).status).toBe(200);
    const [row] = (await kay.get<Movable[]>('/workflows/annual/moving')).body.filter(r => r.request === body.request);
    expect(row.obstacles.join()).toContain('not there any more');
    const moved = await kay.call<MovedView>('POST', '/workflows/annual/moving', {
      requests: [body.request],
      reason: 'x',
    });
    expect(moved.body).toMatchObject({ moved: [], refused: [{ why: expect.stringContaining('not there any more') }] });
  });
});

describe('proof', () => {
  test('a kept check with another result stops publishing, on the server too', async () => {
    const view = (await kay.get<RehearsalView>('/rehearsal/ina')).body;
    expect(view.types.map(type => type.id)).toEqual(['annual', 'sick']);
    const { types, plans, entries, adjustments, away } = view;
    const facts = { index, away, lists: [], book: { index, types, plans, entries, adjustments } };
    const answers = { kind: 'sick', dates: halves('2026-09-07', '2026-09-11') };
    const check = {
      id: 'week',
      name: 'A week',
      asker: 'ina',
      at: '2026-02-02T10:00:00Z' as never,
      answers,
      acts: [],
      expect: [] as string[],
    };
    const { rehearsal } = replay(annualLeave, check, facts);
    const kept = { ...annualLeave, checks: [keep(rehearsal!, 'A week')] };
    await save('annual', kept);
    expect((await publish('annual')).status).toBe(200);
    await save('annual', setAt(kept, ['steps', 2, 'limit', 'within'], { workingDays: 9 }));
    const refused = await publish('annual');
    expect(refused).toMatchObject({
      status: 422,
      problem: { detail: expect.stringContaining('The check “A week” has another result') },
    });
    await kay.call('DELETE', '/workflows/annual/draft');
    expect((await kay.get<SurroundingsView>('/surroundings')).body.workflows.map(w => w.id)).toContain('annual');
    expect((await kay.get('/rehearsal/nobody')).status).toBe(404);
  });
});

describe('a workflow with lanes, lists and tasks', () => {
  test('is published from a starter and run to its end by those who have its tasks', async () => {
    await small.db.insert(t.lists).values({
      id: 'equipment',
      position: 0,
      name: 'Equipment',
      columns: [{ id: 'price', label: 'Price', kind: 'money' }],
    });
    await small.db
      .insert(t.listRows)
      .values({ list: 'equipment', id: 'radio', title: 'Hand radio', cells: { price: 240 } });
    await small.db.insert(t.roles).values({ role: 'Stores desk', person: 'per' });
    await small.db.update(t.house).set({ directoryVersion: 77 });
    const starter = starters.find(s => s.id === 'equipment')!.definition;
    const id = await begin(setAt(starter, ['steps', 4, 'checklist'], [{ id: 'signed', label: 'Signed for' }]));
    expect((await publish(id)).body).toEqual({ version: 1 });
    const asked = await ina.call<{ request: string }>('POST', '/requests', {
      id: randomUUID(),
      workflow: id,
      answers: { thing: 'radio', many: 1, by: '2026-03-02' },
    });
    const { request } = asked.body;
    const view = async (who: Browser) => (await who.get<RequestView>(`/requests/${request}`)).body;
    const send = async (who: Browser, command: object) =>
      who.call('POST', `/requests/${request}/commands`, {
        id: randomUUID(),
        command: { seen: (await view(who)).version, ...command },
      });
    expect((await view(tom)).figures).toEqual({ cost: { amount: 240, currency: 'EUR' } });
    expect(
      (await send(tom, { kind: 'answer', task: (await view(tom)).may.answer, outcome: 'approve', note: null })).status,
    ).toBe(200);
    const per = await signedIn(small.base, 'per');
    const work = (await view(per)).may.work;
    expect(work).toMatchObject({ free: true });
    expect((await send(per, { kind: 'take', task: work?.task })).status).toBe(200);
    expect(
      (await send(per, { kind: 'complete', task: work?.task, ticked: [], answers: {} })).problem.faults?.[0].field,
    ).toBe('checklist');
    expect(
      (await send(per, { kind: 'complete', task: work?.task, ticked: ['signed'], answers: { shelf: 'B3' } })).status,
    ).toBe(200);
    expect(await view(ina)).toMatchObject({ status: 'closed', standing: 'Handed out', answers: { shelf: 'B3' } });
    const rows = await small.db.select().from(t.effects).where(eq(t.effects.state, 'waiting'));
    expect(rows.some(row => row.payload.html?.includes('Hand radio'))).toBe(true);
  });

  test('nobody looks at somebody else’s balance by asking for them', async () => {
    const preview = await ina.call('POST', '/preview', { workflow: 'annual', subject: 'tom', answers: {} });
    expect(preview.status).toBe(404);
    const sent = await ina.call('POST', '/requests', {
      id: randomUUID(),
      workflow: 'annual',
      subject: 'tom',
      answers: { kind: 'sick', dates: halves('2026-10-05', '2026-10-06') },
    });
    expect(sent.status).toBe(404);
  });
});

test('two spaces of one name are not asked for', async () => {
  const starter = starters.find(s => s.id === 'shared-space');
  if (!starter) throw new Error('there is such a starter');
  const { id } = (await kay.call<Begun>('POST', '/workflows', { definition: starter.definition })).body;
  await small.db.insert(t.workflowVersions).values({
    workflow: id,
    version: 1,
    definition: starter.definition,
    publishedAt: houseNow,
    publishedBy: 'kay',
    comment: 'First.',
  });
  await small.db.update(t.workflows).set({ liveVersion: 1, draft: null }).where(eq(t.workflows.id, id));
  const view = (await ina.get<AskView>(`/askable/${id}`)).body;
  const ask = (name: string) => {
    const answers: Record<string, unknown> = {};
    for (const field of view.definition.form.fields) {
      if (!field.required) continue;
      answers[field.id] = field.kind === 'person' ? 'ina' : field.kind === 'yes/no' ? false : 'x';
      if (field.kind === 'choice' && field.options !== 'leave types') answers[field.id] = field.options[0];
      if (field.kind === 'date') answers[field.id] = '2026-05-04';
      if (field.kind === 'text') answers[field.id] = name;
    }
    return ina.call('POST', '/requests', { id: randomUUID(), workflow: id, answers });
  };
  const first = await ask('OBS-tides');
  expect(first.problem?.faults ?? []).toEqual([]);
  const second = await ask('obs-TIDES');
  expect(second.status).toBe(400);
  expect(second.problem.detail).toContain('is asked for already');
  expect((await ask('OBS-waves')).status).toBe(201);
});
