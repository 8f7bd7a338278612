/** What follows from a rule for many people: how far it is, and stopped by whoever waits for it, and by nobody else. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { ChangePreview } from '@north-pebble/contract';
import { date } from '../../core/testing/house.ts';
import { type Browser, putMorePeople, type Small, signedIn, startSmall } from '../testing/serving.ts';

// So many that working it out takes far longer than asking how far it is.
let small: Small;
let kay: Browser;
beforeAll(async () => {
  small = await startSmall();
  await putMorePeople(small.db, 3000, n => date(`20${10 + (n % 15)}-0${1 + (n % 9)}-${10 + (n % 18)}`));
  kay = await signedIn(small.base, 'kay');
});
afterAll(() => small.stop());

type Rules = { plans: { id: string; name: string; unit: string; rules: object }[] };
async function change() {
  const plan = (await kay.get<Rules>('/leave/rules')).body.plans.find(one => one.id === 'standard');
  const { later: _, ...rules } = (plan?.rules ?? {}) as { later?: unknown };
  const changed = { ...rules, perYear: [{ fromServiceYears: 0, amount: 27 }] };
  return {
    what: 'leave plan',
    plan: { id: plan?.id, name: plan?.name, unit: plan?.unit, rules: changed },
    from: '2026-07-01',
  };
}

test('says how far it is while it goes on, is stopped, and is worked out whole the next time', async () => {
  const body = { change: await change(), id: randomUUID() };
  const far = async (who: Browser) =>
    (await who.get<{ done: number; all: number }>(`/records/preview/${body.id}`)).body;
  const asked = kay.call<ChangePreview>('POST', '/records/preview', body);
  // Asked again and again without a pause: what is waited for is there for a second or two.
  let isOver = false;
  void asked.then(() => {
    isOver = true;
  });
  while (!isOver && (await far(kay)).all === 0);
  const { done, all } = await far(kay);
  expect(done).toBeLessThan(all);
  // Nobody else sees it or stops it.
  const dora = await signedIn(small.base, 'dora');
  expect(await far(dora)).toEqual({ done: 0, all: 0 });
  await dora.call('DELETE', `/records/preview/${body.id}`);
  expect((await far(kay)).all).toBeGreaterThan(0);
  expect((await kay.call('DELETE', `/records/preview/${body.id}`)).status).toBe(204);
  const stopped = await asked;
  expect([stopped.status, stopped.problem.detail]).toEqual([422, 'It was stopped. Nothing was changed.']);
  expect(await far(kay)).toEqual({ done: 0, all: 0 });
  const whole = await kay.call<ChangePreview>('POST', '/records/preview', { ...body, id: randomUUID() });
  expect(whole.status).toBe(200);
  expect(JSON.stringify(whole.body)).toContain('gain');
});
