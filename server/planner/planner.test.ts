import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { BalanceView, FoundPeople, PlannerView } from '@north-pebble/contract';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
beforeAll(async () => {
  small = await startSmall();
});
afterAll(() => small.stop());

describe('balances and planner', () => {
  test('one’s own balance and those below are seen, a colleague’s is not', async () => {
    const status = async (who: string, whose: string) => {
      const browser = await signedIn(small.base, who);
      return (await browser.get<BalanceView>(`/balances/${whose}`)).status;
    };
    expect(await status('ina', 'me')).toBe(200);
    expect(await status('tom', 'ina')).toBe(200);
    expect(await status('dora', 'ina')).toBe(200);
    expect(await status('ina', 'tom')).toBe(404);
    expect(await status('sub', 'ina')).toBe(404);
    expect(await status('tom', 'nobody')).toBe(404);
  });

  test('the planner shows the own team with half days, and refuses spans that are none', async () => {
    const ina = await signedIn(small.base, 'ina');
    const { body } = await ina.get<PlannerView>('/planner?from=2026-02-09&to=2026-02-15');
    expect(body.teams.map(team => team.people.map(p => p.id))).toEqual([['ina', 'per']]);
    expect(body.teams[0].people[0].marks).toBe('wwwwwwwwwh----');
    expect(body.teams[0].here).toEqual([2, 2, 2, 2, 2, 0, 0]);
    expect((await ina.get('/planner?from=2026-02-15&to=2026-02-09')).status).toBe(400);
    expect((await ina.get('/planner?from=soon&to=later')).status).toBe(400);
    expect((await ina.get('/planner?from=2020-01-01&to=2026-01-01')).status).toBe(400);
  });

  test('a whole place or department is shown to those who look after it, and to nobody else', async () => {
    const days = 'from=2026-02-09&to=2026-02-15';
    const kay = await signedIn(small.base, 'kay');
    const own = (await kay.get<PlannerView>(`/planner?${days}`)).body;
    expect(own.groups.map(group => group.name)).toContain('Ovay Station');
    const { body } = await kay.get<PlannerView>(`/planner?${days}&place=ovay`);
    expect(body.teams.map(team => team.name)).toEqual(['Ovay Station']);
    expect(body.teams[0].people.map(p => p.id)).toEqual(expect.arrayContaining(['ina', 'per', 'tom']));
    expect((await kay.get(`/planner?${days}&department=observatory`)).status).toBe(200);
    expect((await kay.get(`/planner?${days}&place=nowhere`)).status).toBe(404);
    const ina = await signedIn(small.base, 'ina');
    expect((await ina.get<PlannerView>(`/planner?${days}`)).body.groups).toEqual([]);
    expect((await ina.get(`/planner?${days}&place=ovay`)).status).toBe(404);
  });

  test('where too few would be here, whoever looks after them sees on which days and who asks for them', async () => {
    await small.db.insert(t.leastPresence).values({
      ...{
        id: 'watch',
        name: 'the watch',
        place: 'ovay',
        department: null,
        people: 8,
        weekdays: [3],
        from: null,
        to: null,
      },
    });
    await raiseDirectoryVersion(small.db);
    const ina = await signedIn(small.base, 'ina');
    const { request } = (await ina.ask('2026-04-14', '2026-04-16')).body;
    const days = 'from=2026-04-13&to=2026-04-26';
    const kay = await signedIn(small.base, 'kay');
    const [seen] = (await kay.get<PlannerView>(`/planner?${days}&place=ovay`)).body.presence;
    expect(seen).toMatchObject({ name: 'the watch', needed: 8 });
    // Wednesdays alone.
    expect(seen!.here.flatMap((n, i) => (n === null ? [] : [[i, n]]))).toEqual([
      [2, 7],
      [9, 8],
    ]);
    expect(seen!.asked).toEqual([{ request, name: 'Ina Okell', from: '2026-04-14', to: '2026-04-16' }]);
    // A colleague sees how many are here, and not who asks.
    const per = await signedIn(small.base, 'sub');
    const [own] = (await per.get<PlannerView>(`/planner?${days}`)).body.presence;
    expect(own).toMatchObject({ needed: 8, asked: [] });
  });

  test('people are found with where they are, and whether their balance may be seen', async () => {
    const found = async (who: string) =>
      (await (await signedIn(small.base, who)).get<FoundPeople>('/people?words=ina')).body.people;
    expect(await found('ina')).toMatchObject([{ id: 'ina', what: expect.stringContaining('Tide observer, ') }]);
    expect((await found('tom'))[0].balance).toBe(true);
    expect((await found('sub'))[0].balance).toBe(false);
  });
});
