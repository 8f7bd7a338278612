import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { BalanceView, FoundPeople, PlannerAway, PlannerRows, PlannerView } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
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
    expect(body.teams.map(team => team.people)).toEqual([2]);
    const rows = (await ina.get<PlannerRows>('/planner/rows?from=2026-02-09&to=2026-02-15')).body;
    expect(rows.rows.map(row => row.id)).toEqual(['ina', 'per']);
    expect(rows.shades[rows.rows[0].shade]).toBe('wwwwwwwwwh----');
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
    expect(body.teams.every(team => team.name.endsWith('Ovay Station'))).toBe(true);
    const rows = (await kay.get<PlannerRows>(`/planner/rows?${days}&place=ovay`)).body.rows;
    expect(rows.map(p => p.id)).toEqual(expect.arrayContaining(['ina', 'per', 'tom']));
    expect(rows).toHaveLength(body.teams.reduce((sum, team) => sum + team.people, 0));
    const some = (await kay.get<PlannerRows>(`/planner/rows?${days}&place=ovay&skip=1&take=2`)).body.rows;
    expect(some.map(row => row.id)).toEqual(rows.slice(1, 3).map(row => row.id));
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

  test('a line is shown to whoever leads it and to those who look after them; the house to those who read everything', async () => {
    const days = 'from=2026-02-09&to=2026-02-15';
    const ids = async (who: string, whose: string) => {
      const browser = await signedIn(small.base, who);
      const { status, body } = await browser.get<PlannerRows>(`/planner/rows?${days}&${whose}`);
      return status === 200 ? body.rows.map(row => row.id) : status;
    };
    // Everybody under the director: the lead, and those under the lead.
    expect(await ids('dora', 'line=dora')).toEqual(expect.arrayContaining(['tom', 'ina', 'per']));
    expect(await ids('tom', 'line=tom')).toEqual(['ina', 'per']);
    expect(await ids('tom', 'line=dora')).toBe(404);
    expect(await ids('ina', 'line=ina')).toEqual([]);
    expect(await ids('kay', 'line=tom')).toEqual(['ina', 'per']);
    expect(await ids('kay', 'line=nobody')).toBe(404);
    expect(await ids('tom', 'house=yes')).toBe(404);
    expect(await ids('kay', 'house=yes')).toEqual(expect.arrayContaining(['dora', 'kay', 'rin', 'con']));
    // Whoever left before these days is not there.
    expect(await ids('kay', 'house=yes')).not.toContain('old');
    expect(await ids('kay', 'house=yes&words=%C3%ADna')).toEqual(['ina']);
    expect(await ids('kay', 'house=no')).toBe(400);
    expect(await ids('kay', 'house=yes&take=100000')).toBe(400);
    const kay = await signedIn(small.base, 'kay');
    const { groups } = (await kay.get<PlannerView>(`/planner?${days}`)).body;
    expect(groups.filter(group => group.kind === 'line').map(group => group.id)).toContain('dora');
    const tom = await signedIn(small.base, 'tom');
    expect((await tom.get<PlannerView>(`/planner?${days}`)).body.groups).toEqual([]);
  });

  test('what waits for the reader says so, and colleagues read neither kind nor request', async () => {
    const ina = await signedIn(small.base, 'ina');
    const { request } = (await ina.ask('2026-05-11', '2026-05-13')).body;
    const days = 'from=2026-05-11&to=2026-05-17';
    const bars = async (who: string) => {
      const browser = await signedIn(small.base, who);
      const { rows } = (await browser.get<PlannerRows>(`/planner/rows?${days}`)).body;
      return rows.find(row => row.id === 'ina')?.bars;
    };
    const words = 'Annual leave, asked for: Mon 11 to Wed 13 May';
    const shared = { first: 0, last: 5, kind: 'asked' };
    expect(await bars('tom')).toEqual([{ ...shared, label: words, request, waits: true }]);
    expect(await bars('ina')).toEqual([{ ...shared, label: words, request }]);
    // Per audits the house; without that right they are a colleague like others.
    const of = eq(t.accounts.person, 'per');
    const rights = (await small.db.select().from(t.accounts).where(of))[0]!.rights;
    await small.db.update(t.accounts).set({ rights: [] }).where(of);
    expect(await bars('per')).toEqual([{ ...shared, label: 'Away, asked for: Mon 11 to Wed 13 May' }]);
    await small.db.update(t.accounts).set({ rights }).where(of);
  });

  test('who is away is told in the order of days, once though they are in two teams, and as a table', async () => {
    const tom = await signedIn(small.base, 'tom');
    const days = 'from=2026-05-11&to=2026-05-17';
    const { body } = await tom.get<PlannerAway>(`/planner/away?${days}`);
    expect(body).toMatchObject({ all: 1, rows: [{ name: 'Ina Okell', from: '2026-05-11', to: '2026-05-13' }] });
    const kay = await signedIn(small.base, 'kay');
    const table = await (
      await fetch(`${small.base}/api/planner/file.csv?${days}&house=yes`, { headers: { Cookie: kay.cookie } })
    ).text();
    expect(table).toContain('"Name","Team","First day","Last day","State","What"');
    expect(table).toContain('"Ina Okell","Observatory, Ovay Station","2026-05-11","2026-05-13","asked for"');
  });

  test('people are found with where they are, and whether their balance may be seen', async () => {
    const found = async (who: string) =>
      (await (await signedIn(small.base, who)).get<FoundPeople>('/people?words=ina')).body.people;
    expect(await found('ina')).toMatchObject([{ id: 'ina', what: expect.stringContaining('Tide observer, ') }]);
    expect((await found('tom'))[0].balance).toBe(true);
    expect((await found('sub'))[0].balance).toBe(false);
  });
});
