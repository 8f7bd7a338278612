/** Wishes for the same days: asked for, filled by those whom they are for, compared in turn, decided together, and undone. */
import { createHash } from 'node:crypto';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { ChangePreview, WishesCompared, WishRoundsView } from '@north-pebble/contract';
import { eq, like } from 'drizzle-orm';
import { audit } from '../audit/index.ts';
import { tables as t } from '../database/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
const at = {} as Record<'ina' | 'per' | 'tom' | 'kay' | 'con', Browser>;
beforeAll(async () => {
  small = await startSmall();
  for (const one of ['ina', 'per', 'tom', 'kay', 'con'] as const) at[one] = await signedIn(small.base, one);
  // Ina had two days of the same time last year.
  const span = { from: { date: '2025-12-22', half: 'am' }, to: { date: '2025-12-23', half: 'pm' } } as never;
  await small.db.insert(t.leaveEntries).values({
    ...{ request: 'R-801', person: 'ina', type: 'annual', state: 'booked', span, planner: true },
    ...{ firstDay: '2025-12-22', lastDay: '2025-12-23' },
  });
});
afterAll(() => small.stop());

const days = (from: string, to: string) => ({ from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } });
const round = {
  ...{ name: 'Midwinter', type: 'annual', place: 'ovay', department: null, mostAway: 1 },
  ...{ from: '2026-12-21', to: '2027-01-02', closes: '2026-02-20' },
};
let id = 0;
const wish = (who: Browser, ...spans: object[]) => who.call<WishRoundsView>('PUT', `/wishes/${id}/own`, { spans });
const comparison = async () => (await at.kay.get<WishesCompared>(`/wishes/${id}`)).body;
const letters = async (of: string) =>
  (
    await small.db
      .select()
      .from(t.effects)
      .where(like(t.effects.key, `${of}:%`))
  )
    .map(({ payload }) => `${(payload as { to: string }).to}: ${(payload as { subject: string }).subject}`)
    .sort();
const passTo = (day: string) =>
  small.db
    .update(t.house)
    .set({ now: `${day}T10:00:00Z` as never })
    .where(eq(t.house.id, 1));

test('a round is made by HR alone, and everybody whom it is for is asked', async () => {
  expect((await at.tom.call('POST', '/wishes', round)).status).toBe(403);
  const bad = await at.kay.call('POST', '/wishes', { ...round, closes: '2026-12-21' });
  expect(bad.problem).toMatchObject({ faults: [{ field: 'closes' }] });
  expect((await at.kay.call('POST', '/wishes', { ...round, type: 'sick' })).problem).toMatchObject({
    faults: [{ field: 'type' }],
  });
  const made = await at.kay.call<{ id: number }>('POST', '/wishes', round);
  expect(made.status).toBe(201);
  id = made.body.id;
  expect(await letters('wishes-asked')).toContain('ina: Your wishes for Midwinter, by Fri 20 February');
});

test('one’s own wishes are kept, in the days of the round alone, and read by nobody but HR', async () => {
  const outside = await wish(at.ina, days('2026-12-18', '2026-12-22'));
  expect(outside.problem).toMatchObject({ faults: [{ field: 'spans.0' }] });
  const four = await wish(at.ina, ...[1, 2, 3, 4].map(() => days('2026-12-22', '2026-12-22')));
  expect(four.status).toBe(400);
  const { body } = await wish(at.ina, days('2026-12-22', '2026-12-24'), days('2026-12-28', '2026-12-30'));
  expect(body.rounds[0]).toMatchObject({ state: 'open', seed: null, own: [{}, {}], people: null });
  await wish(at.per, days('2026-12-22', '2026-12-23'));
  await wish(at.tom, days('2026-12-23', '2026-12-23'));
  expect((await at.per.get<WishRoundsView>('/wishes')).body.rounds[0]?.own).toHaveLength(1);
  expect((await at.per.get(`/wishes/${id}`)).status).toBe(403);
  expect((await at.kay.get<WishRoundsView>('/wishes')).body.rounds[0]).toMatchObject({ wished: 3 });
});

test('they are compared in turn: fewer days last year first, a lot between equals that anybody can check', async () => {
  const { rows, before, round: seen } = await comparison();
  expect(before).toEqual({ from: '2025-12-21', to: '2026-01-02' });
  expect(rows.at(-1)).toMatchObject({ person: 'ina', had: 2 });
  // One at a time may be away: the second of the two that had none finds 23 December taken, and Ina her first wish.
  expect(rows.map(row => row.proposed)).toEqual([0, null, 1]);
  expect(rows[1]?.wishes[0]?.why).toBe('2 would be away on Wed 23 December, and at most 1 may be.');
  expect(seen.seed).toBeNull();
  const [row] = await small.db.select().from(t.wishRounds);
  const hash = (text: string) => createHash('sha256').update(text).digest('hex');
  expect(hash(row?.seed ?? '')).toBe(seen.seal);
  for (const { person, lot } of rows) expect(lot).toBe(hash(`${row?.seed} ${person}`).slice(0, 16));
});

const decision = async () => {
  const { rows } = await comparison();
  const chosen = rows.flatMap(({ person, wishes, proposed }) => {
    const span = proposed === null ? undefined : wishes[proposed]?.span;
    return span ? [{ person, from: span.from, to: span.to }] : [];
  });
  const without = rows.filter(row => row.proposed === null).map(row => row.person);
  return { what: 'wishes', round: id, name: 'Midwinter', type: 'annual', chosen, without };
};
const preview = (change: unknown) => at.kay.call<ChangePreview>('POST', '/records/preview', { change });

test('nothing is decided while wishes are taken; then all at once, everybody is told, and it is undone at once', async () => {
  const change = await decision();
  expect((await preview(change)).problem).toMatchObject({ faults: [{ field: 'change.round' }] });
  await passTo('2026-02-21');
  expect((await wish(at.ina)).status).toBe(422);
  // Not beside other changes, where nobody would look what they have.
  expect((await preview({ what: 'several', changes: [change] })).status).toBe(400);
  const tooMuch = { ...change, chosen: [{ person: 'per', ...days('2026-12-21', '2027-03-02') }] };
  expect((await preview(tooMuch)).problem).toMatchObject({ faults: [{ field: 'change.chosen.0' }] });
  // What nobody wished for is nobody's wish, and who wished for nothing is not told that it could not be met.
  const notWished = { ...change, chosen: [{ person: 'ina', ...days('2026-12-29', '2026-12-30') }] };
  expect((await preview(notWished)).problem).toMatchObject({ faults: [{ field: 'change.chosen.0' }] });
  for (const without of [['kay'], [change.chosen[0]?.person], [...change.without, ...change.without]])
    expect((await preview({ ...change, without })).problem.faults?.[0]?.field).toMatch(/^change\.without\./);
  expect((await preview({ ...change, name: 'Another' })).problem).toMatchObject({
    faults: [{ field: 'change.round' }],
  });
  const { body: shown } = await preview(change);
  expect(shown.says).toEqual(['Midwinter: the wishes of 2 people are met, those of one are not.']);
  const [one, other] = await Promise.all(
    [1, 2].map(() =>
      at.kay.call<{ id: number }>('POST', '/records/changes', { change, reason: 'In turn.', digest: shown.digest }),
    ),
  );
  expect([one.status, other.status].sort()).toEqual([200, 400]);
  const made = one.status === 200 ? one : other;
  expect(await letters('wishes')).toHaveLength(3);
  expect(await letters('wishes')).toContain('ina: Booked: Midwinter');
  expect((await at.ina.get<WishRoundsView>('/wishes')).body.rounds[0]).toMatchObject({
    state: 'decided',
    given: days('2026-12-28', '2026-12-30'),
  });
  // What was proposed is seen as it was when it was decided.
  expect((await comparison()).rows.map(row => row.proposed)).toEqual([0, null, 1]);
  expect((await at.kay.call('DELETE', `/wishes/${id}`)).status).toBe(422);
  const back = await at.kay.call('POST', `/records/changes/${made.body.id}/back`, { reason: 'One was forgotten.' });
  expect(back.status).toBe(200);
  expect(await letters('wishes')).toContain('ina: Undone: Midwinter');
  const booked = await small.db.select().from(t.leaveEntries).where(like(t.leaveEntries.request, 'wish-%'));
  expect(booked).toEqual([]);
  expect((await at.ina.get<WishRoundsView>('/wishes')).body.rounds[0]?.state).toBe('closed');
  const { faults } = await audit(small.db);
  expect(faults.filter(fault => fault.request !== 'booking R-801')).toEqual([]);
  expect((await at.kay.call('DELETE', `/wishes/${id}`)).status).toBe(204);
  expect((await at.ina.get<WishRoundsView>('/wishes')).body.rounds).toEqual([]);
});
