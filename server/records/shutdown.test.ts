/** A shutdown from the form to statement, planner and mail, undone at once, and barred to whoever keeps no records. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { BalanceView, ChangePreview, ChangesView, PlannerRows } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { insertMany, raiseDirectoryVersion } from '../house/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
const at = {} as Record<'ina' | 'tom' | 'kay', Browser>;
beforeAll(async () => {
  small = await startSmall();
  // More than are worked out where it stands: the thread does it.
  const many = Array.from({ length: 45 }, (_, n) => `hand-${n}`);
  const [record] = await small.db.select().from(t.personRecords).where(eq(t.personRecords.person, 'kay'));
  const joined = '2024-01-01';
  await insertMany(
    small.db,
    t.people,
    many.map(id => ({
      ...{ id, name: `Hand ${id}`, mail: `${id}@selkie.example`, joined },
      leftOn: null,
      dottedTo: null,
    })),
  );
  await insertMany(
    small.db,
    t.personRecords,
    many.map(person => ({ ...(record as NonNullable<typeof record>), person })),
  );
  await raiseDirectoryVersion(small.db);
  for (const one of ['ina', 'tom', 'kay'] as const) at[one] = await signedIn(small.base, one);
});
afterAll(() => small.stop());

const change = {
  what: 'shutdown',
  name: 'Dock works',
  place: 'ovay',
  department: null,
  type: 'annual',
  from: { date: '2026-08-03', half: 'am' },
  to: { date: '2026-08-05', half: 'pm' },
  except: ['tom'],
};
const statement = async (who: Browser, id: string) =>
  (await who.get<BalanceView>(`/balances/${id}`)).body.types.find(one => one.id === 'annual')?.ahead;
const bars = async (id: string) =>
  (await at.kay.get<PlannerRows>('/planner/rows?from=2026-08-01&to=2026-08-31&place=ovay')).body.rows?.find(
    row => row.id === id,
  )?.bars.length;
const mailsOf = async (words: string) =>
  (await small.db.select().from(t.effects)).filter(one => JSON.stringify(one.payload).includes(words)).length;

test('is shown, booked for everybody but the exceptions, told, and undone at once', async () => {
  // Whoever has leave then keeps it.
  const own = (await at.ina.ask('2026-08-04', '2026-08-06')).body.request;
  const before = await statement(at.kay, 'kay');
  const shown = (await at.kay.call<ChangePreview>('POST', '/records/preview', { change })).body;
  expect(shown.notes[0]).toBe('One has leave on these days already and keeps it as it is: Ina Okell.');
  expect(shown.says).toHaveLength(1);
  expect(shown.balances.some(one => one.name === 'Kay Voss')).toBe(true);
  expect((await at.ina.call('POST', '/records/preview', { change })).status).toBe(403);
  const body = { change, reason: 'The crane is renewed.', digest: shown.digest };
  const saved = await at.kay.call<{ id: number }>('POST', '/records/changes', body);
  expect(saved.status).toBe(200);
  expect((await statement(at.kay, 'kay'))?.balance).toBe((before?.balance ?? 0) - 3);
  expect((await statement(at.kay, 'kay'))?.lines.find(line => line.reason.includes('Dock works'))).toMatchObject({
    date: '2026-08-03',
    until: '2026-08-05',
    reason: 'taken in a shutdown: Dock works',
  });
  expect(await Promise.all(['kay', 'tom', 'ina'].map(bars))).toEqual([1, 0, 1]);
  const told = await mailsOf('Shutdown: Dock works');
  expect(told).toBeGreaterThan(45);
  const { rows } = (await at.kay.get<ChangesView>('/records/changes')).body;
  expect(rows[0]).toMatchObject({ isShutdown: true, takenBack: false });
  expect(rows[0]?.says).toEqual([
    `Dock works, Ovay Station: Mon 3 August 2026 to Wed 5 August 2026, leave of ${told} people.`,
  ]);
  const long = { ...change, to: { date: '2027-08-05', half: 'pm' } };
  const { problem } = await at.kay.call('POST', '/records/preview', { change: long });
  expect(problem.faults?.[0]).toMatchObject({ field: 'change.to', message: 'At most 100 days at once.' });
  // The same once more finds nobody.
  expect((await at.kay.call('POST', '/records/preview', { change })).status).toBe(400);

  const back = await at.kay.call('POST', `/records/changes/${saved.body.id}/back`, { reason: 'The crane came late.' });
  expect(back.status).toBe(200);
  expect((await statement(at.kay, 'kay'))?.balance).toBe(before?.balance);
  expect(await bars('kay')).toBe(0);
  expect(await mailsOf('Called off: Dock works')).toBe(told);
  const left = await small.db.select().from(t.leaveEntries).where(eq(t.leaveEntries.person, 'ina'));
  expect(left.map(one => one.request)).toContain(own);
  expect((await at.kay.call('POST', `/records/changes/${saved.body.id}/back`, { reason: 'Twice.' })).status).toBe(409);
});
