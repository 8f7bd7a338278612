/** Before somebody is back from long absence: who hears of it, of what, and how often. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { eq, like } from 'drizzle-orm';
import { tables as t, waiting } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Small, startSmall } from '../testing/serving.ts';
import { tellOfComingBack } from './comingBack.ts';

let small: Small;
/** Away from January on; the house is at 2 February. */
const away = (to: string) => ({ from: { date: '2026-01-05', half: 'am' }, to: { date: to, half: 'pm' } }) as never;
beforeAll(async () => {
  small = await startSmall();
  const [row] = await small.db.select().from(t.leaveTypes).where(eq(t.leaveTypes.id, 'sick'));
  const rules = { ...(row?.rules as object), tellsReturn: 14, kindReadBy: 'HR' } as never;
  await small.db.update(t.leaveTypes).set({ rules }).where(eq(t.leaveTypes.id, 'sick'));
  await raiseDirectoryVersion(small.db);
});
afterAll(() => small.stop());

const letters = async () =>
  (await small.db.select().from(t.effects).where(like(t.effects.key, 'return:%')).orderBy(t.effects.key)).map(
    ({ payload }) => payload as { to: string; subject: string; body: string },
  );
const tells = () => tellOfComingBack(small.serving.house);
async function ends(to: string): Promise<void> {
  await small.db
    .update(t.leaveEntries)
    .set({ lastDay: to, span: away(to) })
    .where(eq(t.leaveEntries.request, 'R-901'));
}

test('HR and the manager hear of it once, in the days that the type says; the manager is not told of what kind it was', async () => {
  await small.db.insert(t.leaveEntries).values({
    ...{ request: 'R-901', person: 'ina', type: 'sick', state: 'booked' as const, planner: true },
    ...{ firstDay: '2026-01-05', lastDay: '2026-03-06', span: away('2026-03-06') },
  });
  // More than two weeks before it is too early.
  await tells();
  expect(await letters()).toEqual([]);
  await ends('2026-02-06');
  await tells();
  await tells();
  const [hr, manager, ...more] = await letters();
  expect(more).toEqual([]);
  expect([hr?.to, manager?.to]).toEqual(['dora', 'tom']);
  expect(hr?.subject).toBe('Ina Okell returns on Mon 9 February');
  expect(hr?.body).toContain('Ina Okell returns to work on Mon 9 February after sick leave:');
  expect(manager?.body).toContain('Ina Okell returns to work on Mon 9 February after absence:');
  expect(manager?.body).not.toContain('sick');
  expect(hr?.body).toMatch(/Post: .+, as before\./);
  expect(hr?.body).toContain('Access given on request: none.');
});

test('another end is told anew, with the groups that they are in', async () => {
  await small.db.insert(t.connections).values({ name: 'Directory', kind: 'http', settings: {} as never });
  await small.db.insert(t.effects).values({
    ...{ key: 'R-1:1:0:Directory', ...waiting, connection: 'Directory', action: 'add to group', state: 'delivered' },
    ...{
      payload: { values: { group: 'Ferry console', person: 'ina' } },
      result: { id: 'g-1' },
      writtenAt: '2026-01-01',
    },
  } as never);
  await ends('2026-02-10');
  await tells();
  const all = await letters();
  expect(all.map(({ to, subject }) => `${to}: ${subject}`)).toEqual([
    'dora: Ina Okell returns on Mon 9 February',
    'tom: Ina Okell returns on Mon 9 February',
    'dora: Ina Okell returns on Wed 11 February',
    'tom: Ina Okell returns on Wed 11 February',
  ]);
  expect(all.at(-1)?.body).toContain('Access given on request: Ferry console.');
});

test('nobody hears of somebody who leaves before they would be back', async () => {
  await ends('2026-02-12');
  await small.db.update(t.people).set({ leftOn: '2026-02-12' }).where(eq(t.people.id, 'ina'));
  await raiseDirectoryVersion(small.db);
  await tells();
  expect(await letters()).toHaveLength(4);
});
