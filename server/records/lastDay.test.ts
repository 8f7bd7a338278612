/** A last day with leave after it: told one by one beforehand, gone from statement, planner and calendars, and back when it moves. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { BalanceView, ChangePreview, FeedMade, PlannerRows, RequestView } from '@north-pebble/contract';
import { amountWords } from '@north-pebble/core/time';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
const at = {} as Record<'ina' | 'tom' | 'kay', Browser>;
let booked: string;
let open: string;
beforeAll(async () => {
  small = await startSmall();
  for (const one of ['ina', 'tom', 'kay'] as const) at[one] = await signedIn(small.base, one);
  booked = (await at.ina.ask('2026-03-09', '2026-03-13')).body.request;
  const { tasks, version } = (await at.ina.get<RequestView>(`/requests/${booked}`)).body;
  const yes = { kind: 'answer', seen: version, task: tasks[0].id, outcome: 'approve', note: null } as const;
  expect((await at.tom.command(booked, yes)).status).toBe(200);
  open = (await at.ina.ask('2026-04-07', '2026-04-09')).body.request;
});
afterAll(() => small.stop());

const lastDay = (left: string | null) => ({ what: 'last day', person: 'ina', left });
const preview = async (change: unknown) =>
  (await at.kay.call<ChangePreview>('POST', '/records/preview', { change })).body;
async function made(change: unknown): Promise<number> {
  const { digest } = await preview(change);
  const saved = await at.kay.call<{ id: number }>('POST', '/records/changes', { change, reason: 'Notice.', digest });
  expect(saved.status).toBe(200);
  return saved.body.id;
}
const statement = async () => {
  const { body } = await at.kay.get<BalanceView>('/balances/ina');
  return body.types.find(one => one.id === 'annual')?.ahead;
};
const bars = async () =>
  (await at.kay.get<PlannerRows>('/planner/rows?from=2026-03-01&to=2026-04-30&place=ovay')).body.rows?.find(
    row => row.id === 'ina',
  )?.bars;

test('what lies after it is named one by one, counts nowhere, and is there again when it moves or goes', async () => {
  const before = await statement();
  const { body: feed } = await at.ina.call<FeedMade>('POST', '/feeds', { of: 'self', group: null });
  const calendar = async () => (await fetch(small.base + new URL(feed.address).pathname)).text();
  const ends = (text: string) => [...text.matchAll(/DTEND[^:]*:(\d{8})(?!T)/g)].map(match => match[1]);
  const whole = ends(await calendar());
  expect(whole).toHaveLength(2);

  const shown = await preview(lastDay('2026-03-10'));
  expect(shown.leave.map(({ request, before: was, after }) => [request, was, after])).toEqual([
    [booked, '5 days', '2 days'],
    [open, '3 days', '0 days'],
  ]);
  // Two days of March are earned and two are taken; what is asked for after it is named.
  expect(shown.notes.filter(note => note.includes('annual leave'))).toHaveLength(1);
  expect(shown.notes[0]).toMatch(/^Ina Okell (is owed|owes) [\d½]+ days? of annual leave on their last day, /);
  expect(shown.notes.find(note => note.startsWith(open))).toMatch(/stays open, and cannot be approved as it is/);
  const id = await made(lastDay('2026-03-10'));
  const after = await statement();
  const taken = after?.lines
    .filter(line => ['taken', 'restated'].includes(line.kind))
    .reduce((s, l) => s + l.amount, 0);
  expect(taken).toBe(-2);
  expect(ends(await calendar())).toHaveLength(1);
  expect(await bars()).toHaveLength(1);

  // Moved on by two days it gives two back, and taken away all of it.
  const moved = await made(lastDay('2026-03-12'));
  expect((await statement())?.lines.filter(line => line.kind !== 'accrued' && line.request).length).toBeGreaterThan(0);
  expect((await at.kay.call('POST', `/records/changes/${moved}/back`, { reason: 'A slip.' })).status).toBe(200);
  expect((await at.kay.call('POST', `/records/changes/${id}/back`, { reason: 'She stays.' })).status).toBe(200);
  const again = await statement();
  expect(again?.balance).toBe(before?.balance);
  expect(ends(await calendar())).toEqual(whole);
  expect(await bars()).toHaveLength(2);
});

test('what is owed is the balance at the end of the last day, and a day before the opening balance is refused', async () => {
  const shown = await preview(lastDay('2026-06-30'));
  const id = await made(lastDay('2026-06-30'));
  const left = await statement();
  // What is asked for in April is not decided yet: it is owed until it is.
  const held = left?.lines.filter(line => line.request === open).reduce((sum, line) => sum + line.amount, 0) ?? 0;
  expect(held).toBe(-3);
  const owed = (left?.balance ?? 0) - held;
  expect(shown.notes[0]).toContain(`is owed ${amountWords(owed)} days of annual leave`);
  expect((await at.kay.call('POST', `/records/changes/${id}/back`, { reason: 'She stays.' })).status).toBe(200);
  const opening = { on: '2026-05-01', own: 9, carried: 0, lapses: null, source: 'The old book' };
  const opened = await made({ what: 'opening', person: 'ina', type: 'annual', opening });
  const { problem } = await at.kay.call('POST', '/records/preview', { change: lastDay('2026-04-30') });
  expect(problem.faults?.[0]).toMatchObject({ field: 'change.left' });
  expect(problem.faults?.[0]?.message).toContain('opening balance is of');
  expect((await preview(lastDay('2026-05-31'))).says).toHaveLength(1);
  expect((await at.kay.call('POST', `/records/changes/${opened}/back`, { reason: 'So.' })).status).toBe(200);
});
