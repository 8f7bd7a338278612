import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { PersonId } from '@north-pebble/core/people';
import { type Context, evaluateFigures, factsOf } from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import { pino } from 'pino';
import { annualLeave, directory, halves } from '../../core/testing/house.ts';
import { type Database, openDatabase, tables as t } from '../database/index.ts';
import { Proving } from '../proving/index.ts';
import { smallHouse } from '../testing/serving.ts';
import { contextOf, inContext } from './context.ts';
import { type House, openHouse, raiseDirectoryVersion } from './house.ts';

let db: Database;
let house: House;
beforeAll(async () => {
  db = openDatabase(await smallHouse(), 2);
  house = openHouse({
    proving: new Proving(),
    db,
    log: pino({ level: 'silent' }),
    demo: true,
    address: 'http://pebble.example',
    wake: () => undefined,
  });
});
afterAll(() => db.pool.end());

const name = directory.people.find(p => p.id === 'ina')?.name;
const about = { subject: 'ina' as PersonId, actor: 'tom' as PersonId, workflow: 'annual' };
const book = (person: string, day: string) => ({
  request: `R-${person}-${day}`,
  person,
  type: 'annual',
  state: 'booked' as const,
  firstDay: day,
  lastDay: day,
  span: { from: { date: day, half: 'am' as const }, to: { date: day, half: 'pm' as const } },
  planner: true,
});

test('work that looks at no leave is done once, without reading any', async () => {
  let begun = 0;
  const { result } = await inContext(house, db, await house.moment(db), about, context => {
    begun += 1;
    return [context.actor, context.index.person(about.subject)?.name, context.book.types.map(type => type.id)];
  });
  expect(begun).toBe(1);
  expect(result).toEqual(['tom', name, ['annual', 'sick']]);
});

type Looking = (context: Context) => unknown;

test.each<[string, Looking]>([
  ['their entries', c => c.book.entries.map(e => e.request)],
  ['what was granted', c => c.book.adjustments.length],
  ['who is away', c => c.away.map(a => a.person)],
])('work that looks at %s is begun anew with all of it', async (_, look) => {
  await db
    .insert(t.leaveEntries)
    .ignore()
    .values([book('ina', '2026-02-02'), book('con', '2026-02-02')] as never);
  const { result } = await inContext(house, db, await house.moment(db), about, look);
  expect(result).toEqual(look(await contextOf(house, db, about)));
});

test('figures that were worked out before leave was looked at are no hindrance when it is begun anew', async () => {
  const plain = { ...annualLeave, figures: [] };
  const answers = { kind: 'annual', dates: halves('2026-03-02', '2026-03-03') };
  const { result } = await inContext(house, db, await house.moment(db), about, context => {
    const { figures } = evaluateFigures(plain, answers, factsOf(context, about.subject, about.subject));
    return [figures, context.book.entries.length > 0];
  });
  expect(result).toEqual([{}, true]);
});

test('a fault of the work itself is not taken for leave that is missing', async () => {
  const failing = inContext(house, db, await house.moment(db), about, () => {
    throw new RangeError('ours');
  });
  await expect(failing).rejects.toThrow(RangeError);
});

test('a directory that another server changed meanwhile is read anew', async () => {
  await db.update(t.people).set({ name: 'Ina Vale' }).where(eq(t.people.id, 'ina'));
  expect((await contextOf(house, db, about)).index.person(about.subject)?.name).toBe(name);
  await raiseDirectoryVersion(db);
  expect((await contextOf(house, db, about)).index.person(about.subject)?.name).toBe('Ina Vale');
});

test('a clock that another server moved to another day asks for the leave of that day', async () => {
  await db
    .insert(t.leaveEntries)
    .ignore()
    .values([book('con', '2026-03-04')] as never);
  expect((await contextOf(house, db, about)).away.map(a => a.from)).not.toContain('2026-03-04');
  await db.update(t.house).set({ now: '2026-03-04T10:00:00Z' });
  const context = await contextOf(house, db, about);
  expect([context.now, context.away.map(a => a.person)]).toEqual(['2026-03-04T10:00:00Z', ['con']]);
});
