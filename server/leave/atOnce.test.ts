/** Many wishes against one balance at once, over the end of a leave year: exactly what fits is booked. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { BalanceView, TriedView } from '@north-pebble/contract';
import { addDays, type CivilDate, toDay, weekday } from '@north-pebble/core/time';
import { type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
beforeAll(async () => {
  small = await startSmall();
});
afterAll(() => small.stop());

/** Working days of the office from a day on. */
function workdays(from: CivilDate, count: number): CivilDate[] {
  const found: CivilDate[] = [];
  for (let day = from; found.length < count; day = addDays(day, 1)) if (weekday(toDay(day)) <= 5) found.push(day);
  return found;
}

test('two hundred days asked for at once, from summer into the next spring', async () => {
  const ina = await signedIn(small.base, 'ina');
  const days = workdays('2026-07-01' as CivilDate, 200);
  const asked = await Promise.all(days.map(day => ina.ask(day, day)));
  expect(asked.every(({ status }) => status === 201 || status === 400)).toBe(true);
  const refused = days.filter((_, n) => asked[n]!.status === 400);
  // Of 2026 twenty-six, of 2027 as many; what was carried from 2025 has lapsed before summer.
  expect(days.length - refused.length).toBe(52);
  const { ahead } = (await ina.get<BalanceView>('/balances/me')).body.types[0]!;
  expect(Math.min(...ahead.lines.map(line => line.balance))).toBeGreaterThanOrEqual(0);
  // Nothing of what was refused fits after all.
  for (let n = 0; n < refused.length; n += 8) {
    const spans = refused.slice(n, n + 8).map(date => ({ from: { date, half: 'am' }, to: { date, half: 'pm' } }));
    const { body } = await ina.call<TriedView>('POST', '/balances/me/try', { type: 'annual', spans });
    expect(body.filter(one => one.fits)).toEqual([]);
  }
});
