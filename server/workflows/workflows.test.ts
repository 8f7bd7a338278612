import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { RequestView, SheetView, ShelfRow } from '@north-pebble/contract';
import { setAt } from '@north-pebble/core/workflow';
import { annualLeave } from '../../core/testing/house.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
let designer: Browser;
let ina: Browser;
beforeAll(async () => {
  small = await startSmall();
  designer = await signedIn(small.base, 'kay');
  ina = await signedIn(small.base, 'ina');
});
afterAll(() => small.stop());

const sheet = async () => (await designer.get<SheetView>('/workflows/annual')).body;
const save = (revision: number, definition: unknown, who = designer) =>
  who.call<{ revision: number }>('PUT', '/workflows/annual/draft', { revision, definition });
const lowered = setAt(annualLeave, ['steps', 1, 'rows', 0, 'condition'], 'Days <= 1 and Others away = 0');

describe('drafts and versions', () => {
  test('a threshold is lowered and published; a request begun before ends on its own version', async () => {
    const before = await ina.ask('2026-03-09', '2026-03-13');
    const { revision } = await sheet();
    const saved = await save(revision, lowered);
    expect(saved.status).toBe(200);
    expect((await sheet()).draft?.definition).toEqual(lowered);
    const body = { revision: saved.body.revision, comment: 'Two days go to the manager.' };
    expect((await designer.call('POST', '/workflows/annual/publish', body)).body).toEqual({ version: 2 });
    const now = await sheet();
    expect(now).toMatchObject({ draft: null, live: { version: 2 } });
    expect(now.versions.map(v => [v.version, v.open])).toEqual([
      [2, 0],
      [1, 1],
    ]);
    const after = await ina.ask('2026-04-13', '2026-04-14');
    const view = async (id: string) => (await ina.get<RequestView>(`/requests/${id}`)).body;
    expect(await view(after.body.request)).toMatchObject({ workflowVersion: 2, status: 'open', at: ['manager'] });
    expect(await view(before.body.request)).toMatchObject({ workflowVersion: 1, status: 'open' });
    const shelf = (await designer.get<ShelfRow[]>('/workflows')).body;
    expect(shelf).toMatchObject([{ id: 'annual', liveVersion: 2, open: 2, hasDraft: false }]);
  });

  test('two designers on one draft: the second is told, and nothing is overwritten', async () => {
    const { revision } = await sheet();
    const first = await save(revision, lowered);
    const second = await save(revision, annualLeave);
    expect(second).toMatchObject({
      status: 409,
      problem: { code: 'stale', detail: expect.stringContaining('Kay Voss') },
    });
    expect((await sheet()).draft?.definition).toEqual(lowered);
    const publish = await designer.call('POST', '/workflows/annual/publish', { revision, comment: 'Mine.' });
    expect(publish.status).toBe(409);
    expect((await designer.call('DELETE', '/workflows/annual/draft')).status).toBe(204);
    expect(first.status).toBe(200);
  });

  test('a workflow that would strand someone cannot be published', async () => {
    const { revision } = await sheet();
    const wrong = setAt(annualLeave, ['steps', 1, 'rows', 0, 'condition'], 'Dys <= 2');
    const saved = await save(revision, wrong);
    const body = { revision: saved.body.revision, comment: 'Oops.' };
    const refused = await designer.call('POST', '/workflows/annual/publish', body);
    expect(refused).toMatchObject({
      status: 422,
      problem: { code: 'findings', detail: expect.stringContaining('“Dys”') },
    });
    expect((await sheet()).live?.version).toBe(2);
  });

  test.each([
    ['an unknown verb', setAt(annualLeave, ['steps', 2, 'verb'], 'Ponder'), 'steps › 3 › verb: “Ponder” is not a verb'],
    ['a newer format', { ...annualLeave, formatVersion: 4 }, 'formatVersion: is format 4, which is newer'],
    ['no format', { ...annualLeave, formatVersion: 'x' }, 'formatVersion: says no format'],
    ['no workflow at all', { hello: 'world' }, ''],
    ['nothing', null, ''],
  ])('%s is refused with its place, and the draft stays as it was', async (_, definition, words) => {
    const { revision, draft } = await sheet();
    const refused = await save(revision, definition);
    expect(refused.status).toBe(400);
    expect(refused.problem.detail).toContain(words);
    expect((await sheet()).draft).toEqual(draft);
  });

  test('only designers change workflows; auditors look', async () => {
    const auditor = await signedIn(small.base, 'per');
    expect((await auditor.get('/workflows/annual')).status).toBe(200);
    expect((await save(0, annualLeave, auditor)).status).toBe(403);
    expect((await auditor.get('/directory')).status).toBe(403);
    expect((await ina.get('/workflows')).status).toBe(403);
    expect((await ina.get('/workflows/annual')).status).toBe(403);
    expect((await ina.call('POST', '/workflows/annual/publish', { revision: 0, comment: 'x' })).status).toBe(403);
    expect((await designer.get('/workflows/nothing')).status).toBe(404);
  });
});
