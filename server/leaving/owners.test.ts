/** Requests of people who go: who owns them then, sees them, and is told. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { FoundRequests, HandedOver, HandOverView, RequestView } from '@north-pebble/contract';
import { eq, like } from 'drizzle-orm';
import { person } from '../../core/testing/house.ts';
import { audit } from '../audit/index.ts';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { mindOwners } from './index.ts';

let small: Small;
const at = {} as Record<'ina' | 'per' | 'kay' | 'dora' | 'con', Browser>;
beforeAll(async () => {
  small = await startSmall();
  for (const one of ['ina', 'per', 'kay', 'dora', 'con'] as const) at[one] = await signedIn(small.base, one);
});
afterAll(() => small.stop());

const asks = async (browser: Browser, from: string, to = from) => (await browser.ask(from, to)).body.request;
const leaves = async (person: string, leftOn: string | null) => {
  await small.db.update(t.people).set({ leftOn }).where(eq(t.people.id, person));
  await raiseDirectoryVersion(small.db);
};
const look = async (browser: Browser, request: string) => browser.get<RequestView>(`/requests/${request}`);
const lettersOf = async (request: string) =>
  (
    await small.db
      .select()
      .from(t.effects)
      .where(like(t.effects.key, `${request}:%`))
  ).map(({ payload }) => `${payload.to}: ${payload.subject}`);

test('an owner hands it over: the new one sees it as the asker does, finds it, and answers for it', async () => {
  const request = await asks(at.ina, '2026-03-09', '2026-03-13');
  expect((await look(at.con, request)).status).toBe(404);
  const { version } = (await look(at.ina, request)).body;
  const change = { kind: 'change owner', seen: version, to: person('con'), note: 'Please.' } as const;
  // An auditor reads it, and changes nothing.
  expect((await at.per.command(request, change)).status).toBe(403);
  expect((await at.ina.command(request, { ...change, to: person('old') })).problem.faults?.[0]).toMatchObject({
    field: 'to',
    message: 'Olda Leaver does not work here now.',
  });
  expect((await at.ina.command(request, change)).status).toBe(200);
  const seen = (await look(at.con, request)).body;
  expect(seen).toMatchObject({ owner: 'con', ownerName: 'Con Tractor', may: { withdraw: true, changeOwner: true } });
  expect(seen.answers).toEqual((await look(at.ina, request)).body.answers);
  const mine = (await at.con.get<FoundRequests>('/requests/find?whose=mine')).body;
  expect(mine.rows.map(one => one.id)).toContain(request);
  expect(await lettersOf(request)).toContainEqual(expect.stringMatching(/^con: You are now the owner: /));
  // What stands beside the events is what they come to; changed behind their back, it is named.
  expect((await audit(small.db)).faults).toEqual([]);
  await small.db.update(t.requests).set({ owner: 'per' }).where(eq(t.requests.id, request));
  expect(JSON.stringify((await audit(small.db)).faults)).toContain('somebody else owns it');
  await small.db.update(t.requests).set({ owner: 'con' }).where(eq(t.requests.id, request));
});

test('HR operations withdraws with a reason, which is on the trail and in a mail to whoever asked', async () => {
  const request = await asks(at.per, '2026-03-16', '2026-03-20');
  const { version } = (await look(at.kay, request)).body;
  const withdraw = { kind: 'withdraw', seen: version } as const;
  expect((await at.con.command(request, { ...withdraw, note: 'No.' })).status).toBe(404);
  expect((await at.kay.command(request, withdraw)).problem.faults?.[0]).toMatchObject({ field: 'note' });
  expect((await at.kay.command(request, { ...withdraw, note: 'The boat is sold.' })).status).toBe(200);
  const { status, trail } = (await look(at.per, request)).body;
  expect(status).toBe('withdrawn');
  expect(JSON.stringify(trail)).toContain('The boat is sold.');
  expect(await lettersOf(request)).toContainEqual(expect.stringMatching(/^per: Withdrawn: /));
});

test('what somebody owns is among what they hand over, and goes to HR operations once they have left', async () => {
  const [handed, left] = [
    await asks(at.per, '2026-04-13', '2026-04-17'),
    await asks(at.per, '2026-04-20', '2026-04-24'),
  ];
  const held = async () => (await at.kay.get<HandOverView>('/records/per/hand-over')).body.items;
  const owned = (await held()).filter(one => one.what === 'request').map(one => one.id);
  expect(owned).toEqual([handed, left]);
  const items = [{ what: 'request', id: handed }];
  const give = await at.kay.call<HandedOver>('POST', '/records/per/hand-over', {
    to: 'ina',
    items,
    reason: 'Per goes.',
  });
  expect(give.body).toEqual({ done: 1, stayed: [] });
  expect((await look(at.ina, handed)).body.owner).toBe('ina');

  await mindOwners(small.serving.house);
  expect((await look(at.kay, left)).body.owner).toBe('per');
  await leaves('per', '2026-01-30');
  expect(await mindOwners(small.serving.house)).toBe(1);
  const { owner, trail } = (await look(at.kay, left)).body;
  // Dora helps requests on, and looks after Per as HR partner.
  expect(owner).toBe('dora');
  expect(JSON.stringify(trail)).toContain('made Dora Quill the owner');
  const letters = await lettersOf(left);
  expect(letters).toContainEqual(expect.stringMatching(/^dora: You are now the owner: /));
  expect(letters.filter(one => /^per: (New owner|You are now)/.test(one))).toEqual([]);
  // It is done once.
  expect(await mindOwners(small.serving.house)).toBe(0);
  await leaves('per', null);
});

test('whoever is away for long keeps their own request, and gives up those of others', async () => {
  const own = await asks(at.con, '2026-05-04', '2026-05-08');
  const [handed] = (await small.db.select().from(t.requests).where(eq(t.requests.owner, 'con'))).map(one => one.id);
  await small.db.insert(t.leaveEntries).values({
    ...{ request: 'L-7', person: 'con', type: 'sick', state: 'booked' as const, planner: true },
    ...{ firstDay: '2026-01-05', lastDay: '2026-06-30' },
    span: { from: { date: '2026-01-05', half: 'am' }, to: { date: '2026-06-30', half: 'pm' } } as never,
  });
  await mindOwners(small.serving.house);
  expect((await look(at.kay, own)).body.owner).toBe('con');
  expect((await look(at.kay, handed ?? '')).body.owner).toBe('dora');
});
