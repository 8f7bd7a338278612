import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { RequestView } from '@north-pebble/contract';
import { tables as t } from '../../database/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../../testing/serving.ts';
import { dropOldUnsent } from './unsent.ts';

let small: Small;
let ina: Browser;
let tom: Browser;
let request: string;
beforeAll(async () => {
  small = await startSmall();
  ina = await signedIn(small.base, 'ina');
  tom = await signedIn(small.base, 'tom');
  request = (await ina.ask('2026-03-09', '2026-03-13')).body.request;
});
afterAll(() => small.stop());

const keep = (who: Browser, value: unknown, what = 'note') =>
  who.call('PUT', `/requests/${request}/unsent/${what}`, { value });
const kept = async (who: Browser) => (await who.get<RequestView>(`/requests/${request}`)).body.unsent;

test('what somebody types is theirs alone, the latest of it, and gone when it is nothing', async () => {
  await keep(tom, 'Back by');
  await keep(tom, 'Back by Thursday?');
  await keep(tom, { ticked: ['a'], note: '' }, 'ticks of R-1.1');
  expect(await kept(tom)).toEqual({ note: 'Back by Thursday?', 'ticks of R-1.1': { ticked: ['a'], note: '' } });
  expect(await kept(ina)).toEqual({});
  // Another machine of the same person.
  expect(await kept(await signedIn(small.base, 'tom'))).toMatchObject({ note: 'Back by Thursday?' });
  await keep(tom, null);
  expect(await kept(tom)).toEqual({ 'ticks of R-1.1': { ticked: ['a'], note: '' } });
});

test('it changes nothing of the request, so that nobody comes too late by it', async () => {
  const before = (await ina.get<RequestView>(`/requests/${request}`)).body;
  await keep(tom, 'Hm');
  const after = (await ina.get<RequestView>(`/requests/${request}`)).body;
  expect([after.version, after.trail.length]).toEqual([before.version, before.trail.length]);
});

test('too much of it is refused with a reason, and what stood there stays', async () => {
  await keep(tom, 'Short');
  const refused = await keep(tom, 'x'.repeat(70_000));
  expect(refused).toMatchObject({ status: 400, problem: { faults: [{ message: 'That is too much to be kept.' }] } });
  expect(await kept(tom)).toMatchObject({ note: 'Short' });
});

test('what nobody has come back to for a season goes, the rest stays', async () => {
  await small.db
    .insert(t.unsent)
    .values({ person: 'ina', request, what: 'comment', value: 'Old', at: Date.now() - 100 * 86_400_000 });
  await keep(ina, 'New', 'reply');
  await dropOldUnsent(small.db);
  expect(await kept(ina)).toEqual({ reply: 'New' });
});
