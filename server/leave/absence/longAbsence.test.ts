/** Long absence, children and letters about what lapses: in the house, from the fact to the mail, the pay file and the statement. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { BalanceView, ChangePreview, LeaveRulesView, PersonPageView, StandingsView } from '@north-pebble/contract';
import { like } from 'drizzle-orm';
import { audit } from '../../audit/index.ts';
import { tables as t } from '../../database/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../../testing/serving.ts';
import { tellOfLongAbsence } from './longAbsence.ts';

let small: Small;
const at = {} as Record<'ina' | 'kay' | 'tom', Browser>;
beforeAll(async () => {
  small = await startSmall();
  for (const one of ['ina', 'kay', 'tom'] as const) at[one] = await signedIn(small.base, one);
  await ill('R-901', '2025-12-01', '2025-12-31');
  await ill('R-902', '2026-01-26', '2026-02-20');
});
afterAll(() => small.stop());

async function ill(request: string, from: string, to: string): Promise<void> {
  const span = { from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } } as never;
  await small.db.insert(t.leaveEntries).values({
    request,
    person: 'ina',
    type: 'sick',
    state: 'booked',
    firstDay: from,
    lastDay: to,
    span,
    planner: true,
  });
}
const preview = (change: unknown, browser = at.kay) =>
  browser.call<ChangePreview>('POST', '/records/preview', { change });
async function made(change: unknown): Promise<{ id: number; says: readonly string[] }> {
  const { body, problem } = await preview(change);
  if (!body.digest) throw new Error(JSON.stringify(problem));
  const saved = await at.kay.call<{ id: number }>('POST', '/records/changes', {
    change,
    reason: 'As agreed.',
    digest: body.digest,
  });
  expect(saved.status).toBe(200);
  return { id: saved.body.id, says: body.says };
}
const circumstance = (holds: unknown, id = 'new') => ({ what: 'circumstance', person: 'ina', id, holds });
async function sickSays(more: object): Promise<void> {
  const { body } = await at.kay.get<LeaveRulesView>('/leave/rules');
  const { later: _, ...rules } = body.types.find(one => one.id === 'sick')!;
  await made({ what: 'leave type', type: { ...rules, ...more }, from: null });
}
const letters = async () =>
  (await small.db.select().from(t.effects).where(like(t.effects.key, 'absence:%'))).map(
    ({ payload }) => `${(payload as { to: string }).to}: ${(payload as { subject: string }).subject}`,
  );
const payLines = async (from: string, to: string) => {
  const { body } = await at.kay.call<{ id: number }>('POST', '/leave/pay', { from, to });
  const table = await fetch(`${small.base}/api/leave/pay/${body.id}/file.csv`, { headers: { Cookie: at.kay.cookie } });
  return (await table.text())
    .trim()
    .split('\r\n')
    .slice(1)
    .map(line => line.replaceAll('"', '').split(','));
};
const aDay = () => tellOfLongAbsence(small.serving.house);

/** What the house says of sickness. */
const ruled = {
  counting: 'calendar',
  payCode: '200',
  payLater: [{ after: 35, code: '210' }],
  spellMonths: 6,
  tellsHr: [38],
};

test('spells that HR puts down to one cause count as one: for pay, and for whom it is told', async () => {
  await sickSays(ruled);
  // Of another cause it is day 8: nothing is told.
  await aDay();
  expect(await letters()).toEqual([]);
  // Another's absence, or none at all, is refused at its place; and a stage that begins before the absence.
  const fault = async (holds: object) =>
    (await at.kay.call('POST', '/records/preview', { change: circumstance(holds) })).problem.faults?.[0]?.field;
  expect(await fault({ is: 'same cause', request: 'R-1', follows: 'R-901' })).toBe('change.holds.request');
  expect(await fault({ is: 'same cause', request: 'R-902', follows: 'R-1' })).toBe('change.holds.follows');
  const stages = [{ from: '2026-01-25', minutes: 60 }];
  expect(await fault({ is: 'stages', request: 'R-902', stages })).toBe('change.holds.stages.0.from');
  const { says } = await made(circumstance({ is: 'same cause', request: 'R-902', follows: 'R-901' }));
  expect(says).toEqual(['Ina Okell: absence R-902 has the same cause as R-901.']);
  // 31 days in December, so 1 February is day 38.
  await aDay();
  await aDay();
  expect(await letters()).toEqual(['dora: Ina Okell: day 38 of sick leave']);
  const lines = await payLines('2026-01-29', '2026-01-31');
  expect(lines.map(cells => cells.slice(4, 8).join(' '))).toEqual([
    '200 2026-01-29 1 450',
    '210 2026-01-30 1 450',
    '210 2026-01-31 1 0',
  ]);
});

test('where nobody looks after them, HR operations hear of it, and nobody who has left', async () => {
  const role = (person: string, held: boolean) => ({
    ...{ what: 'role', role: 'HR partner', person, place: null, department: null, held },
  });
  const heard = async (day: number) => {
    await sickSays({ ...ruled, tellsHr: [day] });
    await aDay();
    // Those to HR operations go on to whoever they are as soon as the outbox comes to them.
    return (await letters()).filter(one => one.endsWith(`day ${day} of sick leave`));
  };
  const { id: other } = await made({ what: 'several', changes: [role('per', true), role('dora', false)] });
  expect(await heard(37)).toEqual(['per: Ina Okell: day 37 of sick leave']);
  const { id: left } = await made({ what: 'last day', person: 'per', left: '2026-02-01' });
  const told = await heard(39);
  expect(told).toContain('#operations: Ina Okell: day 39 of sick leave');
  expect(told.join()).not.toContain('per: ');
  for (const id of [left, other])
    expect((await at.kay.call('POST', `/records/changes/${id}/back`, { reason: 'A slip.' })).status).toBe(200);
  const { id: nobody } = await made(role('dora', false));
  expect(await heard(36)).toContain('#operations: Ina Okell: day 36 of sick leave');
  expect((await at.kay.call('POST', `/records/changes/${nobody}/back`, { reason: 'A slip.' })).status).toBe(200);
  await sickSays(ruled);
});

test('back by stages, pay is told of what is lost; taken away, of what has changed', async () => {
  await made(circumstance({ is: 'stages', request: 'R-902', stages: [{ from: '2026-02-09', minutes: 180 }] }));
  const [line] = await payLines('2026-02-09', '2026-02-09');
  expect(line?.slice(4, 8).join(' ')).toBe('210 2026-02-09 1 270');
  const page = (await at.kay.get<PersonPageView>('/records/ina')).body.circumstances;
  expect(page?.all.map(one => one.words)).toEqual([
    'Same cause: Sick leave, Mon 26 January to Fri 20 February and Sick leave, Mon 1 to Wed 31 December 2025',
    'Back by stages (Sick leave, Mon 26 January to Fri 20 February): 3 hours a day from Mon 9 February',
  ]);
  await made(circumstance(null, '2'));
  const [again] = await payLines('2026-02-10', '2026-02-10').then(lines =>
    lines.filter(cells => cells[5] === '2026-02-09'),
  );
  expect(again?.slice(5)).toEqual(['2026-02-09', '1', '450', 'changed', '1', '270']);
});

test('children are read by them and by HR alone, also in what was changed; bad ones are refused at their place', async () => {
  await made(circumstance({ is: 'child', born: '2019-09-30' }));
  expect((await at.ina.get<PersonPageView>('/records/ina')).body.circumstances?.all.at(-1)?.words).toBe(
    'A child, born Mon 30 September 2019',
  );
  // The manager reads the record and its changes, and none of this.
  const { body } = await at.tom.get<PersonPageView>('/records/ina');
  expect(body.lines).not.toBeNull();
  expect(body.circumstances).toBeNull();
  expect(JSON.stringify(body)).not.toMatch(/child|cause|stages/);
  const { body: directory } = await at.tom.get<object>('/directory');
  expect(JSON.stringify(directory)).not.toContain('circumstances');
  const bad = await preview(circumstance({ is: 'paper at once', type: 'none', from: '2026-02-01', to: null }));
  expect(bad.problem).toMatchObject({ faults: [{ field: 'change.holds.type' }] });
  const backwards = await preview(
    circumstance({ is: 'paper at once', type: 'sick', from: '2026-02-02', to: '2026-02-01' }),
  );
  expect(backwards.problem).toMatchObject({ faults: [{ field: 'change.holds.to' }] });
  expect((await preview(circumstance({ is: 'child', born: '2019-09-31' }))).status).toBe(400);
  // Nobody keeps their own.
  expect((await preview(circumstance({ is: 'child', born: '2020-01-01' }), at.ina)).status).toBe(403);
});

test('a letter that tells what lapses is a line of the statement, once, and what lapses hangs on it', async () => {
  const { body } = await at.kay.get<LeaveRulesView>('/leave/rules');
  const plan = body.plans.find(one => one.id === 'standard')!;
  const rules = { ...plan.rules, carryOver: { max: 5, expires: '03-31', warned: true } };
  await made({ what: 'leave plan', plan: { id: 'standard', name: plan.name, unit: 'days', rules }, from: null });
  const linesOf = async (day: 'statement' | 'ahead') =>
    (await at.ina.get<BalanceView>('/balances/me')).body.types[0]![day].lines;
  expect((await linesOf('statement')).some(line => line.kind === 'lapsed')).toBe(false);
  const write = async (id: string) => {
    const found = (await at.kay.get<StandingsView>('/leave/balances?type=annual&words=okell&only=lapsing')).body;
    expect(found.rows.map(row => [row.person, row.atTurn > 0])).toEqual([['ina', true]]);
    const find = { type: 'annual', words: 'okell', only: 'lapsing' };
    return at.kay.call<{ letters: number }>('POST', '/leave/letters', { id, people: 1, note: '', ...find });
  };
  expect((await write(randomUUID())).body).toEqual({ letters: 1 });
  // Written to again on the same day, it is one line all the same.
  expect((await write(randomUUID())).body).toEqual({ letters: 1 });
  const said = (await linesOf('statement')).filter(line => line.kind === 'adjustment');
  expect(said.map(({ date, amount, reason }) => [date, amount, reason])).toEqual([
    ['2026-02-02', 0, expect.stringMatching(/^letter: [\d½]+ days lapse unless taken, by Thu 31 December 2026$/)],
  ]);
  // All but the two absences that this test put there.
  const { faults } = await audit(small.db);
  expect(faults.filter(fault => !fault.request.startsWith('booking R-90'))).toEqual([]);
});
