/** Open tasks after a change of the lines: they stay, or go to whoever has the step then, as their workflow says. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { ChangePreview, MeasuresView, RequestView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { eq } from 'drizzle-orm';
import { annualLeave } from '../../core/testing/house.ts';
import { tables as t } from '../database/index.ts';
import { type Browser, putLive, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { runDueTimers } from '../timers/index.ts';

let small: Small;
const at = {} as Record<'ina' | 'kay' | 'dora' | 'tom', Browser>;
beforeAll(async () => {
  small = await startSmall();
  for (const one of ['ina', 'kay', 'dora', 'tom'] as const) at[one] = await signedIn(small.base, one);
  await putLive(small.db, 'moving', { ...annualLeave, name: 'Leave that moves', tasksMove: true });
});
afterAll(() => small.stop());

const line = (reportsTo: string, from: string): HouseChange =>
  ({ what: 'line', post: 'observer-1', from, reportsTo }) as unknown as HouseChange;
async function made(change: HouseChange): Promise<void> {
  const { body } = await at.kay.call<ChangePreview>('POST', '/records/preview', { change });
  const saved = await at.kay.call('POST', '/records/changes', { change, reason: 'Moved.', digest: body.digest });
  expect(saved.status).toBe(200);
  await runDueTimers(small.serving.house);
}
const holders = async (request: string) => {
  const { body } = await at.ina.get<RequestView>(`/requests/${request}`);
  return body.tasks.map(task => task.holderName);
};
const ask = async (workflow: string, from: string, to: string) =>
  (await at.ina.ask(from, to, undefined, workflow)).body.request;

test('what is open stays or moves as its workflow says; the next request goes to the new manager', async () => {
  const stays = await ask('annual', '2026-03-09', '2026-03-13');
  const moves = await ask('moving', '2026-03-16', '2026-03-20');
  expect([await holders(stays), await holders(moves)]).toEqual([['Tom Lund'], ['Tom Lund']]);
  await made(line('director', '2026-02-02'));
  expect([await holders(stays), await holders(moves)]).toEqual([['Tom Lund'], ['Dora Quill']]);
  expect(await holders(await ask('annual', '2026-03-23', '2026-03-27'))).toEqual(['Dora Quill']);
  const { trail } = (await at.ina.get<RequestView>(`/requests/${moves}`)).body;
  expect(JSON.stringify(trail)).toContain('somebody else’s');
  const letters = await small.db.select().from(t.effects).where(eq(t.effects.request, moves));
  expect(letters.filter(one => one.payload.to === 'tom').map(one => one.payload.subject)).toContainEqual(
    expect.stringContaining('No longer needed'),
  );
});

test('a change for a coming day moves it on that day, and what somebody was named for stays', async () => {
  const moves = await ask('moving', '2026-04-13', '2026-04-17');
  const named = await ask('moving', '2026-04-20', '2026-04-24');
  const { body } = await at.kay.get<RequestView>(`/requests/${named}`);
  const [task] = body.tasks;
  const appoint = {
    kind: 'appoint',
    seen: body.version,
    step: task.step,
    task: task.id,
    to: 'per',
    note: 'Dora is busy.',
  };
  expect((await at.kay.command(named, appoint as never)).status).toBe(200);
  await made(line('lead', '2026-02-03'));
  expect([await holders(moves), await holders(named)]).toEqual([['Dora Quill'], ['Per Lauder']]);
  await small.db.update(t.house).set({ now: '2026-02-03T09:00:00Z' });
  await runDueTimers(small.serving.house);
  expect([await holders(moves), await holders(named)]).toEqual([['Tom Lund'], ['Per Lauder']]);
});

test('what is open is due later once a day off comes between, and says why', async () => {
  await small.db.update(t.house).set({ now: '2026-02-04T09:00:00Z' });
  const request = await ask('annual', '2026-05-11', '2026-05-15');
  const dueOf = async () => (await at.ina.get<RequestView>(`/requests/${request}`)).body.tasks[0]?.due;
  const before = await dueOf();
  expect(before).toBeTruthy();
  const { calendars } = (await at.kay.get<MeasuresView>('/measures')).body;
  const calendar = calendars.find(one => one.id === 'ovay');
  if (!calendar) throw new Error('the house of tests has no calendar');
  const { places: _, ...own } = calendar;
  const holidays = [...own.holidays, { date: (before ?? '').slice(0, 10), part: 'day', name: 'Launch' }];
  await made({ what: 'calendar', calendar: { ...own, holidays } } as unknown as HouseChange);
  expect(((await dueOf()) ?? '') > (before ?? '')).toBe(true);
  const { trail } = (await at.ina.get<RequestView>(`/requests/${request}`)).body;
  expect(JSON.stringify(trail)).toContain('counted a limit anew');
});
