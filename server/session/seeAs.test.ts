/** North Pebble as somebody else sees it: reading only, for administrators, each time kept, over at once and by itself. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { SessionView } from '@north-pebble/contract';
import { tables as t } from '../database/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
let dora: Browser;
beforeAll(async () => {
  small = await startSmall();
  dora = await signedIn(small.base, 'dora');
});
afterAll(() => small.stop());

const self = async (browser: Browser) => (await browser.get<SessionView>('/session')).body.self;
const see = (person: string, reason = 'Ina cannot find her request.') =>
  dora.call('POST', '/session/as', { person, reason });

test('an administrator sees what somebody sees, no more, and changes nothing', async () => {
  expect((await see('ina')).status).toBe(204);
  expect(await self(dora)).toMatchObject({ id: 'ina', rights: [], seenBy: 'Dora Quill' });
  expect((await dora.get('/balances/me')).status).toBe(200);
  expect((await dora.get('/balances/dora')).status).toBe(404);
  expect((await dora.get('/accounts')).status).toBe(403);
  const asked = await dora.ask('2026-03-09', '2026-03-13');
  expect(asked.status).toBe(403);
  expect(asked.problem.detail).toContain('reading only');
  expect((await dora.call('PUT', '/mail-choice', { own: 'daily', shared: true })).status).toBe(403);
  // Whoever is looked at has their own session, and it goes on.
  const ina = await signedIn(small.base, 'ina');
  expect((await ina.ask('2026-03-09', '2026-03-13')).status).toBe(201);
  expect((await dora.call('DELETE', '/session/as')).status).toBe(204);
  expect(await self(dora)).toMatchObject({ id: 'dora', seenBy: null });
});

test('every time is kept with its reason; nobody is seen as without one, nor as nobody', async () => {
  expect((await see('ina', '')).status).toBe(400);
  expect((await see('nobody')).status).toBe(400);
  expect((await see('dora')).status).toBe(400);
  const kept = await small.db.select().from(t.seenAs);
  expect(kept.map(({ by, as, reason }) => [by, as, reason])).toEqual([['dora', 'ina', 'Ina cannot find her request.']]);
});

test('it is over by itself, and for whoever is no administrator any more', async () => {
  await see('tom');
  expect(await self(dora)).toMatchObject({ id: 'tom' });
  await small.db.update(t.sessions).set({ seesUntil: Date.now() - 1 });
  expect(await self(dora)).toMatchObject({ id: 'dora' });
  await small.db.update(t.sessions).set({ seesUntil: Date.now() + 60_000 });
  expect(await self(dora)).toMatchObject({ id: 'tom' });
  await small.db.update(t.accounts).set({ rights: [] });
  expect(await self(dora)).toMatchObject({ id: 'dora', rights: [] });
});
