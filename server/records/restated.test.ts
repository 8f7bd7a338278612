/** What a change of the past does to leave that is booked: shown beneath it with its cause, told once, and undone with the change. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { BalanceView, ChangePreview, RequestView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { like } from 'drizzle-orm';
import { directory } from '../../core/testing/house.ts';
import { tables as t } from '../database/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
const at = {} as Record<'ina' | 'kay', Browser>;
const span = (from: string, to: string) =>
  ({ from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } }) as never;
beforeAll(async () => {
  small = await startSmall();
  for (const one of ['ina', 'kay'] as const) at[one] = await signedIn(small.base, one);
  const booked = { person: 'ina', type: 'annual', state: 'booked' as const, planner: true };
  await small.db.insert(t.leaveEntries).values([
    {
      ...booked,
      request: 'R-70',
      firstDay: '2026-01-05',
      lastDay: '2026-01-09',
      span: span('2026-01-05', '2026-01-09'),
    },
    {
      ...booked,
      request: 'R-71',
      firstDay: '2026-01-19',
      lastDay: '2026-01-20',
      span: span('2026-01-19', '2026-01-20'),
    },
  ]);
});
afterAll(() => small.stop());

const calendar = directory.calendars.find(one => one.id === 'ovay') as (typeof directory.calendars)[number];
const withDays = (...days: string[]): HouseChange => ({
  what: 'calendar',
  calendar: {
    ...calendar,
    rules: [...(calendar.rules ?? [])],
    holidays: [
      ...calendar.holidays.map(({ name = 'Holiday', ...one }) => ({ ...one, name })),
      ...days.map(day => ({ date: day as never, part: 'day' as const, name: 'Regatta' })),
    ],
  },
});
const preview = async (change: HouseChange) =>
  (await at.kay.call<ChangePreview>('POST', '/records/preview', { change })).body;
async function made(change: HouseChange, reason: string): Promise<number> {
  const { digest } = await preview(change);
  const { status, body } = await at.kay.call<{ id: number }>('POST', '/records/changes', { change, reason, digest });
  expect(status).toBe(200);
  return body.id;
}
async function annual() {
  const { body } = await at.ina.get<BalanceView>('/balances/ina');
  const type = body.types.find(one => one.id === 'annual');
  const lines = type?.statement.lines.filter(line => line.request !== undefined) ?? [];
  return { balance: type?.statement.balance, lines: lines.map(({ kind, amount, reason }) => [kind, amount, reason]) };
}
const letters = () => small.db.select().from(t.effects).where(like(t.effects.key, 'restated:%'));

describe('a holiday added in the past', () => {
  test('is seen before it is saved, shown beneath each booking afterwards, told once, and taken back', async () => {
    const before = await annual();
    expect(before.lines).toEqual([
      ['taken', -5, 'taken with request R-70'],
      ['taken', -2, 'taken with request R-71'],
    ]);
    const change = withDays('2026-01-06', '2026-01-20');
    expect((await preview(change)).leave).toMatchObject([
      { name: 'Ina Okell', request: 'R-70', before: '5 days', after: '4 days' },
      { name: 'Ina Okell', request: 'R-71', before: '2 days', after: '1 day' },
    ]);
    const id = await made(change, 'The regatta was a holiday.');
    const after = await annual();
    expect(after.lines).toEqual([
      ['taken', -5, 'taken with request R-70'],
      ['restated', 1, 'The regatta was a holiday.'],
      ['taken', -2, 'taken with request R-71'],
      ['restated', 1, 'The regatta was a holiday.'],
    ]);
    expect(after.balance).toBe((before.balance ?? 0) + 2);
    const told = await letters();
    expect(told.map(one => one.payload.to)).toEqual(['ina']);
    expect(told[0].payload.body).toContain('Annual leave: 2 days less than before.');

    const back = await at.kay.call('POST', `/records/changes/${id}/back`, { reason: 'It was not, after all.' });
    expect(back.status).toBe(200);
    const undone = await annual();
    expect(undone.balance).toBe(before.balance);
    expect(undone.lines.map(([kind, amount]) => [kind, amount])).toEqual([
      ['taken', -5],
      ['restated', 1],
      ['restated', -1],
      ['taken', -2],
      ['restated', 1],
      ['restated', -1],
    ]);
    expect(await letters()).toHaveLength(2);
  });

  test('that counts nothing anew is told to nobody', async () => {
    await made(withDays('2026-01-10'), 'A Saturday.');
    expect(await letters()).toHaveLength(2);
  });
});

test('an open request shows its deciders from what to what it was counted anew, and why', async () => {
  const asked = await at.ina.ask('2026-03-09', '2026-03-13');
  expect(asked.status).toBe(201);
  await made(withDays('2026-01-10', '2026-03-10'), 'Council day.');
  const tom = await signedIn(small.base, 'tom');
  const { body } = await tom.get<RequestView>(`/requests/${asked.body.request}`);
  expect(body.restated).toMatchObject([{ before: 5, after: 4, unit: 'days', cause: 'Council day.' }]);
  // Its statement shows nothing of it once it is booked: what is booked is what was counted last.
  expect((await annual()).lines.filter(([kind]) => kind === 'restated')).toHaveLength(4);
});

test('a calendar that builds on itself, a day twice and a pattern whose nights overlap are told at their fields', async () => {
  const faults = async (change: unknown) =>
    (await at.kay.call('POST', '/records/preview', { change })).problem.faults?.map(one => one.field);
  expect(await faults(withDays('2026-01-06', '2026-01-06'))).toEqual([expect.stringMatching(/holidays.\d+.date/)]);
  expect(
    await faults({ what: 'calendar', calendar: { ...calendar, rules: [], holidays: [], buildsOn: calendar.id } }),
  ).toEqual(['change.calendar.buildsOn']);
  const night = { pm: ['20:00', '44:30'] };
  expect(
    await faults({
      what: 'pattern',
      pattern: { id: 'new', name: 'Nights', anchor: '2026-01-05', cycle: [night, night] },
    }),
  ).toEqual(['change.pattern.cycle.0']);
});
