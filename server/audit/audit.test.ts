import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { audit } from './index.ts';

let small: Small;
let ina: Browser;
beforeAll(async () => {
  small = await startSmall({ NP_ANCHOR_EVERY: '100' });
  ina = await signedIn(small.base, 'ina');
});
afterAll(() => small.stop());

test('a house that is asked and decides meanwhile has no fault', async () => {
  let isOver = false;
  const asking = (async () => {
    for (let n = 0; n < 60; n++) {
      const monday = new Date(Date.UTC(2026, 2, 2 + 7 * (n % 20))).toISOString().slice(0, 10);
      const { status, body } = await ina.ask(monday, monday);
      if (status === 201) await ina.command(body.request, { kind: 'withdraw', seen: body.version, note: null });
    }
    isOver = true;
  })();
  let audits = 0;
  while (!isOver) {
    expect((await audit(small.db)).faults).toEqual([]);
    audits += 1;
  }
  await asking;
  expect(audits).toBeGreaterThan(2);
  expect((await audit(small.db)).requests).toBeGreaterThan(15);
});
