/** Openings, and a plan in another unit: by hand and by file, with what follows, on the statement, and taken back. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { BalanceView, ChangePreview, MovingPreview, PersonPageView } from '@north-pebble/contract';
import { matched } from '@north-pebble/core/movingIn';
import { type CivilDate, fullDate } from '@north-pebble/core/time';
import { eq } from 'drizzle-orm';
import { audit } from '../audit/index.ts';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
const at = {} as Record<'ina' | 'kay', Browser>;
beforeAll(async () => {
  small = await startSmall();
  for (const one of ['ina', 'kay'] as const) at[one] = await signedIn(small.base, one);
  await small.db.insert(t.leavePlans).values({
    id: 'crew',
    name: 'Crew',
    unit: 'hours',
    rules: {
      yearStart: '01-01',
      perYear: [{ fromServiceYears: 0, amount: 208 }],
      accrual: 'yearly',
      proration: 'daily',
      rounding: { step: 0.5, mode: 'nearest' },
      carryOver: { max: 40, expires: '03-31' },
    },
  } as never);
  await raiseDirectoryVersion(small.db);
});
afterAll(() => small.stop());

const preview = (change: unknown, browser = at.kay) =>
  browser.call<ChangePreview>('POST', '/records/preview', { change });
async function made(change: unknown): Promise<{ id: number; preview: ChangePreview }> {
  const { body } = await preview(change);
  const saved = await at.kay.call<{ id: number }>('POST', '/records/changes', {
    change,
    reason: 'Closing of 2025.',
    digest: body.digest,
  });
  expect(saved.status).toBe(200);
  return { id: saved.body.id, preview: body };
}
const takenBack = (id: number) => at.kay.call('POST', `/records/changes/${id}/back`, { reason: 'A slip.' });
const annual = async () => {
  const { body } = await at.ina.get<BalanceView>('/balances/me');
  const found = body.types.find(one => one.id === 'annual');
  if (!found) throw new Error('no annual leave');
  return found.statement;
};
const opening = (own: number, more: object = {}) => ({
  what: 'opening',
  person: 'ina',
  type: 'annual',
  opening: { on: '2026-01-12', own, carried: 3, lapses: '2026-02-28', source: 'Payroll', ...more },
});

test('an opening by hand is shown with what follows, begins the statement, and is taken back', async () => {
  const before = await annual();
  const { id, preview: shown } = await made(opening(20));
  expect(shown.says).toEqual([
    'Ina Okell: opening balance on Mon 12 January 2026: 20 of the leave year and 3 carried over, to use by Sat 28 February 2026.',
  ]);
  expect(shown.balances.map(one => one.name)).toEqual(['Ina Okell']);
  const after = await annual();
  expect(after.lines[0]).toMatchObject({
    date: '2026-01-12',
    kind: 'opening',
    balance: 23,
    reason: 'opening balance: 20 of the leave year, 3 carried over, to use by Sat 28 February (Payroll)',
  });
  expect(after).toMatchObject({ balance: 23, expiring: [{ amount: 3, on: '2026-02-28' }] });
  // Whoever designs reads the directory, and no balance of anybody in it.
  const directory = await at.kay.get('/directory');
  expect(directory.status).toBe(200);
  expect(JSON.stringify(directory.body)).not.toContain('openings');
  const faults = async () => (await audit(small.db)).faults.filter(({ request }) => request?.startsWith('opening'));
  expect(await faults()).toEqual([]);
  // Written past the server, it is not what was sealed.
  await small.db.update(t.leaveOpenings).set({ own: 30 }).where(eq(t.leaveOpenings.person, 'ina'));
  expect(await faults()).toHaveLength(1);
  await small.db.update(t.leaveOpenings).set({ own: 20 }).where(eq(t.leaveOpenings.person, 'ina'));
  // A second one takes its place; it never stands beside it.
  expect((await preview(opening(20))).problem.faults?.[0]).toMatchObject({
    message: expect.stringContaining('so already'),
  });
  const second = await made(opening(18));
  expect((await annual()).balance).toBe(21);
  expect((await takenBack(second.id)).status).toBe(200);
  expect((await takenBack(id)).status).toBe(200);
  expect(await annual()).toEqual(before);
});

test('one that cannot be is told at its place: before the first day, lapsing before it begins, by whoever may not', async () => {
  const fault = async (change: unknown) => (await preview(change)).problem.faults?.[0]?.field;
  expect(await fault(opening(20, { on: '1999-01-01' }))).toBe('change.opening.on');
  expect(await fault(opening(20, { lapses: '2026-01-01' }))).toBe('change.opening.lapses');
  expect(await fault({ ...opening(20), type: 'nothing' })).toBe('change.type');
  expect((await preview(opening(20), at.ina)).status).toBe(403);
  expect((await preview(opening(20, { own: 1e9 }))).status).toBe(400);
});

test('openings move in by a file, and the same file again does nothing', async () => {
  const headings = ['Person', 'Leave', 'On', 'Own', 'Carried over', 'Lapses on', 'Source'];
  const file = (own: string, lapses = '2026-03-31') => ({
    table: 'openings' as const,
    form: { dates: 'year first', decimal: '.' } as const,
    columns: matched('openings', headings),
    rows: [['ina', 'annual', '2026-01-12', own, '2.5', lapses, 'old house']],
  });
  const look = (given: unknown) => at.kay.call<MovingPreview>('POST', '/moving/preview', { files: [given] });
  expect((await look(file('many'))).body.faults).toMatchObject([{ column: 'Own', line: 2 }]);
  expect((await look(file('21', '2025-12-31'))).body.faults).toMatchObject([{ column: 'Lapses on', line: 2 }]);
  const { body } = await look(file('21'));
  expect(body).toMatchObject({ faults: [], counts: [{ table: 'openings', added: 1 }] });
  expect((await at.kay.call('POST', '/moving', { files: [file('21')], digest: body.digest })).status).toBe(200);
  expect((await annual()).lines[0]).toMatchObject({ kind: 'opening', balance: 23.5 });
  expect((await look(file('21'))).body.counts).toMatchObject([{ same: 1, added: 0, changed: 0 }]);
  await made({ ...opening(0), opening: null });
});

test('a plan in the other unit takes along what is left, at the hours of a day of the pattern or as it is said', async () => {
  const goes = (set: object) => ({ what: 'record', person: 'ina', from: '2026-01-01', set: { plan: 'crew', ...set } });
  const left = (await annual()).lines.filter(line => line.date < '2026-01-01').at(-1)?.balance ?? 0;
  const { body: proposed } = await preview(goes({}));
  expect(proposed.says).toContain('1 day of the old plan counts as 7½ hours.');
  expect(proposed.notes.join()).toContain('brought along from Standard');
  const { id } = await made(goes({ planPer: 8 }));
  const after = await annual();
  expect(after).toMatchObject({ unit: 'hours', plan: 'Crew' });
  expect(after.lines.find(line => line.kind === 'brought along')).toMatchObject({
    date: '2026-01-01',
    balance: left * 8,
  });
  // What was before is not gone: it is said in the unit of then.
  expect((await takenBack(id)).status).toBe(200);
  expect((await annual()).unit).toBe('days');
});

test('a first day is corrected by hand, with what follows, in its own words; never past an opening or the last day', async () => {
  const first = (joined: string) => ({ what: 'first day', person: 'ina', joined });
  const { body: now } = await at.kay.get<PersonPageView>('/records/ina');
  const before = await annual();
  const { body: shown } = await preview(first('2026-01-12'));
  expect(shown.says).toEqual([`First day: ${fullDate(now.joined as CivilDate)} → Mon 12 January 2026.`]);
  expect(shown.balances.map(one => one.name)).toEqual(['Ina Okell']);
  const { id } = await made(first('2026-01-12'));
  const after = await annual();
  expect(after.lines.map(line => [line.date, line.kind])).toEqual([['2026-01-12', 'accrued']]);
  expect((await takenBack(id)).status).toBe(200);
  expect(await annual()).toEqual(before);
  const { id: opened } = await made(opening(20));
  expect((await preview(first('2026-01-13'))).problem.faults?.[0]).toMatchObject({ field: 'change.joined' });
  await takenBack(opened);
});

test('pattern, hours and plan of one person change together, with one preview and no wrong balance between', async () => {
  const before = await annual();
  const from = '2026-03-01';
  const record = (set: object) => ({ what: 'record', person: 'ina', from, set });
  const change = { what: 'several', changes: [record({ fte: 0.6 }), record({ plan: 'crew' })] };
  const { id, preview: shown } = await made(change);
  expect(shown.says).toEqual([
    'Hours from Sun 1 March 2026: full time → 60 % of full time.',
    'Leave plan from Sun 1 March 2026: Standard → Crew.',
    '1 day of the old plan counts as 7½ hours.',
  ]);
  expect(shown.notes.join()).toContain('brought along from Standard');
  const { body: page } = await at.kay.get<PersonPageView>('/records/ina');
  expect(page.changes?.filter(one => one.id === id)).toHaveLength(1);
  expect((await takenBack(id)).status).toBe(200);
  expect(await annual()).toEqual(before);
});

test('leave from elsewhere is added, put right and taken away by hand, and the same file again finds it', async () => {
  const before = await annual();
  const taken = async () => (await annual()).lines.filter(line => line.kind === 'taken').map(line => line.date);
  const had = await taken();
  const day = (of: string, half = 'am') => ({ date: of, half });
  const leave = (from: object, to: object, id = 'new') => ({
    what: 'booking',
    person: 'ina',
    id,
    booking: { type: 'annual', from, to },
  });
  const { preview: shown } = await made(leave(day('2026-01-19'), day('2026-01-20', 'pm')));
  expect(shown.says.join()).toContain('leave from Mon 19 January 2026 to Tue 20 January 2026');

  const { body } = await at.kay.get<BalanceView>('/balances/ina');
  const [own] = body.elsewhere;
  expect(body.elsewhere).toMatchObject([{ type: 'annual' }]);
  expect((await at.ina.get<BalanceView>('/balances/ina')).body.elsewhere).toEqual([]);
  expect((await taken()).length).toBe(had.length + 1);
  // On days that are leave already, and past its own end.
  const fault = async (change: object) => (await preview(change)).problem.faults?.[0]?.field;
  expect(await fault(leave(day('2026-01-20'), day('2026-01-21', 'pm')))).toBe('change.booking.from');
  expect(await fault(leave(day('2026-01-23'), day('2026-01-22', 'pm')))).toBe('change.booking.to');
  expect(await fault(leave({ date: '2026-01-23', time: '09:00' }, day('2026-01-23', 'pm')))).toBe('change.booking.to');
  expect(await fault(leave(day('2026-01-26'), day('2026-01-26', 'pm'), 'R-1'))).toBe('change.id');
  expect((await preview(leave(day('2026-01-26'), day('2026-01-26', 'pm')), at.ina)).status).toBe(403);
  // Another beginning is another booking, as in a file.
  const { id } = await made(leave(day('2026-01-20'), day('2026-01-20', 'pm'), own?.id ?? ''));
  expect(await taken()).toEqual([...had, '2026-01-20']);
  const file = {
    ...{ table: 'bookings' as const, form: { dates: 'year first', decimal: '.' } as const },
    columns: matched('bookings', ['Person', 'Leave', 'From', 'To']),
    rows: [['ina', 'annual', '2026-01-20', '2026-01-20']],
  };
  const look = await at.kay.call<MovingPreview>('POST', '/moving/preview', { files: [file] });
  expect(look.body.counts).toMatchObject([{ same: 1, added: 0, changed: 0 }]);
  expect((await takenBack(id)).status).toBe(200);
  expect((await at.kay.get<BalanceView>('/balances/ina')).body.elsewhere).toEqual(body.elsewhere);
  await made({ ...leave({}, {}, own?.id ?? ''), booking: null });
  expect(await annual()).toEqual(before);
});
