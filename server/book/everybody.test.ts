/** Everybody’s leave as a thread keeps it: what has changed is read anew, and nothing else is. */
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import { and, eq } from 'drizzle-orm';
import { date, directory, halves, person } from '../../core/testing/house.ts';
import { type Database, openDatabase, tables as t } from '../database/index.ts';
import { insertMany } from '../house/index.ts';
import { smallHouse } from '../testing/serving.ts';
import { EverybodysLeave } from './everybody.ts';

const today = date('2026-02-02');
let db: Database;
let leave: EverybodysLeave;
beforeAll(async () => {
  db = openDatabase(await smallHouse(), 2);
});
afterAll(() => db.pool.end());

const row = (request: string, who: string, from: string, to: string) => ({
  ...{ request, person: who, type: 'annual', state: 'booked' as const, planner: true },
  ...{ firstDay: from, lastDay: to, span: halves(from, to) as never },
});

beforeEach(async () => {
  await db.delete(t.leaveEntries);
  await db.delete(t.leaveAdjustments);
  await insertMany(db, t.leaveEntries, [
    row('R-1', 'ina', '2026-03-02', '2026-03-06'),
    row('R-2', 'ina', '2026-05-04', '2026-05-05'),
    row('R-3', 'tom', '2026-03-02', '2026-03-03'),
  ]);
  await db
    .insert(t.leaveAdjustments)
    .values({ person: 'kay', type: 'annual', date: '2026-01-01', amount: 2, reason: 'Brought' });
  leave = new EverybodysLeave(db);
  await leave.refresh();
});

const requestsOf = (who: string) => leave.of(person(who), today).entries.map(({ request }) => request);
const lists = () => new Map(directory.people.map(({ id }) => [id, leave.of(id, today)]));
/** Whose lists are others than before. */
async function changedBy(change: () => Promise<unknown>): Promise<string[]> {
  const before = lists();
  await change();
  await leave.refresh();
  return [...lists()].flatMap(([id, own]) => (own === before.get(id) ? [] : [id])).sort();
}

describe('everybody’s leave', () => {
  test('is what stands in the tables, and nothing for whoever has none', () => {
    expect(requestsOf('ina').sort()).toEqual(['R-1', 'R-2']);
    expect(leave.of(person('kay'), today).adjustments).toEqual([
      { person: 'kay', type: 'annual', date: '2026-01-01', amount: 2, reason: 'Brought' },
    ]);
    expect(leave.of(person('dora'), today)).toEqual({ entries: [], adjustments: [] });
  });

  test('stays the same list where nothing has changed', async () => {
    expect(await changedBy(async () => {})).toEqual([]);
  });

  test.each([
    ['moved', () => db.update(t.leaveEntries).set({ span: halves('2026-03-03', '2026-03-06') as never })],
    ['granted as another kind', () => db.update(t.leaveEntries).set({ type: 'sick' })],
    ['only asked for', () => db.update(t.leaveEntries).set({ state: 'held' })],
    ['given a reason', () => db.update(t.leaveEntries).set({ reason: 'By telephone' })],
  ] as const)('is read anew of whoever has leave %s, and of nobody else', async (_, change) => {
    const one = change().where(and(eq(t.leaveEntries.person, 'ina'), eq(t.leaveEntries.request, 'R-1')));
    expect(await changedBy(() => one)).toEqual(['ina']);
  });

  test('is empty once the last of it is gone', async () => {
    expect(await changedBy(() => db.delete(t.leaveEntries).where(eq(t.leaveEntries.person, 'tom')))).toEqual(['tom']);
    expect(requestsOf('tom')).toEqual([]);
    expect(await changedBy(() => db.delete(t.leaveAdjustments))).toEqual(['kay']);
    expect(leave.of(person('kay'), today).adjustments).toEqual([]);
  });

  test('two people who swap what they have are both read anew', async () => {
    const swap = async () => {
      await db.delete(t.leaveEntries);
      await insertMany(db, t.leaveEntries, [
        row('R-1', 'tom', '2026-03-02', '2026-03-06'),
        row('R-2', 'tom', '2026-05-04', '2026-05-05'),
        row('R-3', 'ina', '2026-03-02', '2026-03-03'),
      ]);
    };
    expect(await changedBy(swap)).toEqual(['ina', 'tom']);
    expect(requestsOf('ina')).toEqual(['R-3']);
  });

  test('what has no end yet goes on until the day that is asked for', async () => {
    const open = { ...halves('2026-01-28', '2026-01-28'), open: true };
    await db
      .update(t.leaveEntries)
      .set({ span: open as never })
      .where(eq(t.leaveEntries.person, 'tom'));
    await leave.refresh();
    const endOn = (day: string) => leave.of(person('tom'), date(day)).entries[0]?.span.to.date;
    expect([endOn('2026-02-02'), endOn('2026-02-04')]).toEqual(['2026-02-02', '2026-02-04']);
  });
});
