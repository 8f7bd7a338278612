/** Who is found among people, and which day it is for them: that of the place where they work. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { AccountRow, CoversView, FoundPeople } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Small, signedIn, startSmall } from '../testing/serving.ts';

// In Lisbon it is half past midnight on 2 July; by UTC it is 1 July still.
const lateEvening = '2026-07-01T23:30:00Z';

let small: Small;
beforeAll(async () => {
  small = await startSmall();
  const { db } = small;
  await db.update(t.people).set({ joined: '2026-07-02' }).where(eq(t.people.id, 'ina'));
  await db.update(t.people).set({ leftOn: '2026-07-01' }).where(eq(t.people.id, 'per'));
  await db.update(t.house).set({ now: lateEvening }).where(eq(t.house.id, 1));
  await raiseDirectoryVersion(db);
});
afterAll(() => small.stop());

describe('between midnight where people work and midnight by UTC', () => {
  const found = async (words: string) =>
    (await (await signedIn(small.base, 'dora')).get<FoundPeople>(`/people?words=${words}`)).body.people.map(p => p.id);

  test('whoever begins today is found, and whoever’s last day was yesterday is not', async () => {
    expect(await found('Ina')).toEqual(['ina']);
    expect(await found('Per')).toEqual([]);
  });

  test('whoever begins today is signed in, and others can be invited under them from today on', async () => {
    const ina = await signedIn(small.base, 'ina');
    expect((await ina.get('/session')).body).toMatchObject({ self: { id: 'ina' } });
    const dora = await signedIn(small.base, 'dora');
    const input = { name: 'Nuno Vale', mail: 'nuno@selkie.example', post: 'Helper', manager: 'ina', rights: [] };
    const { status } = await dora.call<AccountRow[]>('POST', '/accounts', input);
    expect(status).toBe(201);
    const [nuno] = await small.db.select().from(t.people).where(eq(t.people.id, 'nuno-vale'));
    expect(nuno.joined).toBe('2026-07-02');
    expect(await found('Nuno')).toEqual(['nuno-vale']);
  });

  test('a cover until yesterday is over, and none can be set for yesterday', async () => {
    await small.db
      .insert(t.covers)
      .values({ person: 'ina', from: '2026-06-29', by: 'tom', to: '2026-07-01', workflows: null, setBy: null });
    await raiseDirectoryVersion(small.db);
    const ina = await signedIn(small.base, 'ina');
    expect((await ina.get<CoversView>('/covers')).body.mine).toEqual([]);
    const late = { by: 'tom', from: '2026-07-01', to: '2026-07-01', workflows: null };
    const { status, problem } = await ina.call('PUT', '/covers', late);
    expect([status, problem.faults?.[0].field]).toEqual([400, 'to']);
  });
});
