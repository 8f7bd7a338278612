import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { RequestRow, SheetView, ShelfRow } from '@north-pebble/contract';
import { setAt } from '@north-pebble/core/workflow';
import { annualLeave } from '../../core/testing/house.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
let kay: Browser;
beforeAll(async () => {
  small = await startSmall();
  kay = await signedIn(small.base, 'kay');
});
afterAll(() => small.stop());

const shelf = async () => (await kay.get<ShelfRow[]>('/workflows')).body[0];
const sheet = async () => (await kay.get<SheetView>('/workflows/annual')).body;

describe('the shelf', () => {
  test('counts what is open and stuck, and knows the typical time once something has ended', async () => {
    expect(await shelf()).toMatchObject({ open: 0, stuck: 0, typicalDays: null, hasDraft: false, liveVersion: 1 });
    const ina = await signedIn(small.base, 'ina');
    await ina.ask('2026-03-09', '2026-03-13');
    await (await signedIn(small.base, 'con')).ask('2026-03-09', '2026-03-13');
    expect(await shelf()).toMatchObject({ open: 2, stuck: 1, typicalDays: null });
    await ina.ask('2026-04-13', '2026-04-14');
    expect(await shelf()).toMatchObject({ open: 2, typicalDays: 0 });
    const { body } = await ina.get<RequestRow[]>('/requests');
    expect(body.map(r => r.standing)).toEqual(['Approved', 'waits for Tom Lund']);
  });

  test('shows the draft’s own words while it is in work, and the live ones after it is discarded', async () => {
    const { revision } = await sheet();
    await kay.call('PUT', '/workflows/annual/draft', {
      revision,
      definition: setAt(annualLeave, ['name'], 'Time off'),
    });
    expect(await shelf()).toMatchObject({ name: 'Time off', hasDraft: true });
    await kay.call('DELETE', '/workflows/annual/draft');
    expect(await shelf()).toMatchObject({ name: 'Annual leave', hasDraft: false });
    expect((await sheet()).revision).toBeGreaterThan(revision + 1);
  });

  test('publishing wants a word about the change, and a draft', async () => {
    const { revision } = await sheet();
    const none = await kay.call('POST', '/workflows/annual/publish', { revision, comment: 'Nothing.' });
    expect(none).toMatchObject({ status: 422, problem: { detail: 'There is no draft to publish.' } });
    const mute = await kay.call('POST', '/workflows/annual/publish', { revision, comment: '  ' });
    expect(mute).toMatchObject({ status: 400, problem: { faults: [{ field: 'comment' }] } });
  });

  test('a document of many megabytes is refused before it is read', async () => {
    const { revision } = await sheet();
    const large = { revision, definition: { ...annualLeave, purpose: 'x'.repeat(3_000_000) } };
    const refused = await kay.call('PUT', '/workflows/annual/draft', large);
    expect(refused).toMatchObject({ status: 400, problem: { detail: 'This is too large.' } });
  });
});
