/** Everybody’s balances are made ready in the background, when there is something new to make ready. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { StandingsView } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
import { halves } from '../../core/testing/house.ts';
import { tables as t } from '../database/index.ts';
import { insertMany, openHouse, raiseDirectoryVersion } from '../house/index.ts';
import { Reckoning } from '../reckoning/index.ts';
import { putMorePeople, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { makeReady } from './ready.ts';

// More than are worked out where they are asked for.
let small: Small;
beforeAll(async () => {
  small = await startSmall();
  await putMorePeople(small.db, 70);
});
afterAll(() => small.stop());

test('made ready once, and anew when people have changed or a day has begun', async () => {
  // A house of its own over the same tables: the one that serves makes itself ready whenever it comes to it.
  const house = openHouse({ ...small.serving.house, reckoning: new Reckoning(small.db.url) });
  expect(await makeReady(house)).toBe(true);
  expect(await makeReady(house)).toBe(false);
  await raiseDirectoryVersion(small.db);
  expect(await makeReady(house)).toBe(true);
  expect(await makeReady(house)).toBe(false);
  await small.db.update(t.house).set({ now: '2026-02-03T10:00:00Z' }).where(eq(t.house.id, 1));
  expect(await makeReady(house)).toBe(true);
  await house.reckoning.stop();
});

test('what is booked after that is in what is shown', async () => {
  const kay = await signedIn(small.base, 'kay');
  const rowOf = async (id: string) =>
    (await kay.get<StandingsView>('/leave/balances')).body.rows.find(row => row.person === id);
  const before = await rowOf('more-3');
  await insertMany(small.db, t.leaveEntries, [
    {
      ...{ request: 'HR-1', person: 'more-3', type: 'annual', state: 'booked' as const, planner: true },
      ...{ firstDay: '2026-05-04', lastDay: '2026-05-05', span: halves('2026-05-04', '2026-05-05') as never },
    },
  ]);
  const after = await rowOf('more-3');
  expect(after?.planned).toBe((before?.planned ?? 0) + 2);
  expect(after?.free).toBe((before?.free ?? 0) - 2);
});
