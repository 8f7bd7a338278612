/** A second factor: set up, asked for, required of rights, lost. */
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { AccountRow, Right, SessionView } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
import { Secret, TOTP } from 'otpauth';
import { tables as t } from '../database/index.ts';
import { Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

let small: Small;
let dora: Browser;
beforeAll(async () => {
  small = await startSmall();
  dora = await signedIn(small.base, 'dora');
});
afterAll(() => small.stop());
beforeEach(async () => {
  await small.db.update(t.accounts).set({
    factorSecret: null,
    factorBegun: null,
    factorStep: 0,
    factorCodes: null,
    factorFailures: 0,
    factorUntil: 0,
  });
  await small.db.update(t.house).set({ factorRights: null });
  await small.db.update(t.sessions).set({ strong: false });
});

/** What the other device shows, `steps` of thirty seconds from now. */
const shows = (secret: string, steps = 0) =>
  new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: Date.now() + steps * 30_000 });

async function setUp(browser: Browser) {
  const { body } = await browser.call<{ secret: string; address: string }>('POST', '/factor', { password: 'low-tide' });
  const confirmed = await browser.call<{ codes: string[] }>('PUT', '/factor', { code: shows(body.secret) });
  expect(confirmed.status).toBe(200);
  return { ...body, codes: confirmed.body.codes };
}
const signIn = (browser: Browser, who: string, code?: string) =>
  browser.call('POST', '/session', {
    mail: `${who}@selkie.example`,
    password: 'low-tide',
    ...(code === undefined ? {} : { code }),
  });
const rightsOf = async (browser: Browser) => {
  const self = (await browser.get<SessionView>('/session')).body.self;
  return [self?.rights, self?.withheld];
};
const require = (rights: Right[]) => dora.call('PUT', '/factor/required', { rights });

describe('a second factor', () => {
  test('is in use from its first code on; then a password alone opens nothing', async () => {
    const kay = await signedIn(small.base, 'kay');
    // An open session alone does not do: whoever finds one must not shut its owner out.
    const stolen = await kay.call('POST', '/factor', { password: 'high-tide' });
    expect([stolen.status, stolen.problem.faults?.[0].field]).toEqual([400, 'password']);
    const begun = await kay.call<{ secret: string; address: string }>('POST', '/factor', { password: 'low-tide' });
    expect(begun.body.address).toMatch(/^otpauth:\/\/totp\//);
    // Begun is not in use: whoever never finishes is not locked out.
    expect((await signIn(new Browser(small.base), 'kay')).status).toBe(201);
    expect((await kay.call('PUT', '/factor', { code: '000000' })).problem.faults?.[0].field).toBe('code');
    const { secret } = await setUp(kay);
    const alone = await signIn(new Browser(small.base), 'kay');
    expect([alone.status, alone.problem.faults?.[0].field]).toEqual([400, 'code']);
    expect((await signIn(new Browser(small.base), 'kay', shows(secret, 1))).status).toBe(201);
    expect((await kay.call('POST', '/factor', { password: 'low-tide' })).status).toBe(422);
    const [account] = await small.db.select().from(t.accounts).where(eq(t.accounts.person, 'kay'));
    expect(JSON.stringify(account.factorCodes)).not.toContain(secret);
  });

  test('takes no code twice, none of long ago, and none of somebody else’s', async () => {
    const [kay, tom] = await Promise.all([signedIn(small.base, 'kay'), signedIn(small.base, 'tom')]);
    const { secret } = await setUp(kay);
    const other = await setUp(tom);
    const next = shows(secret, 1);
    expect((await signIn(new Browser(small.base), 'kay', next)).status).toBe(201);
    expect((await signIn(new Browser(small.base), 'kay', next)).status).toBe(400);
    for (const code of [shows(secret, -5), shows(secret, 40), shows(other.secret, 1)])
      expect((await signIn(new Browser(small.base), 'kay', code)).status).toBe(400);
  });

  test('that is lost gives way to a written code, each once; a wrong password tells nothing of it', async () => {
    const kay = await signedIn(small.base, 'kay');
    const { codes } = await setUp(kay);
    expect(new Set(codes).size).toBe(8);
    const [first] = codes;
    expect(
      (await signIn(new Browser(small.base), 'kay', ` ${first.slice(0, 5)}-${first.slice(5).toUpperCase()}`)).status,
    ).toBe(201);
    expect((await signIn(new Browser(small.base), 'kay', first)).status).toBe(400);
    expect((await kay.get('/factor')).body).toEqual({ isOn: true, codesLeft: 7, hasPassword: true });
    const wrong = await new Browser(small.base).call('POST', '/session', {
      mail: 'kay@selkie.example',
      password: 'guess',
      code: codes[1],
    });
    expect([wrong.status, wrong.problem.faults]).toEqual([400, undefined]);
    expect((await kay.get('/factor')).body).toMatchObject({ codesLeft: 7 });
  });

  test('is not guessed: after some wrong codes even the right one has to wait, longer each time', async () => {
    const kay = await signedIn(small.base, 'kay');
    const { secret } = await setUp(kay);
    const row = async () => (await small.db.select().from(t.accounts).where(eq(t.accounts.person, 'kay')))[0];
    for (let n = 0; n < 5; n++) expect((await signIn(new Browser(small.base), 'kay', '000000')).status).toBe(400);
    const waits: number[] = [];
    for (let n = 0; n < 3; n++) {
      expect((await signIn(new Browser(small.base), 'kay', shows(secret, 1))).problem.detail).toMatch(/Wait/);
      waits.push((await row()).factorUntil - Date.now());
      // The time is over; another wrong one.
      await small.db.update(t.accounts).set({ factorUntil: 0 }).where(eq(t.accounts.person, 'kay'));
      expect((await signIn(new Browser(small.base), 'kay', '000000')).status).toBe(400);
    }
    expect(waits[1]).toBeGreaterThan(waits[0] * 1.5);
    expect(waits[2]).toBeGreaterThan(waits[1] * 1.5);
    await small.db.update(t.accounts).set({ factorUntil: 0 }).where(eq(t.accounts.person, 'kay'));
    expect((await signIn(new Browser(small.base), 'kay', shows(secret, 1))).status).toBe(201);
    expect(await row()).toMatchObject({ factorFailures: 0, factorUntil: 0 });
  });

  test('is given up with a code, and taken away by an administrator; sessions do not count as strong any more', async () => {
    const kay = await signedIn(small.base, 'kay');
    const { secret } = await setUp(kay);
    expect((await kay.call('POST', '/factor/off', { code: '123456' })).status).toBe(400);
    expect((await kay.call('POST', '/factor/off', { code: shows(secret, 1) })).status).toBe(204);
    expect((await signIn(new Browser(small.base), 'kay')).status).toBe(201);
    await setUp(kay);
    const { body } = await dora.call<AccountRow[]>('PUT', '/accounts/kay', { factor: false });
    expect(body.find(row => row.person === 'kay')?.hasFactor).toBe(false);
    const open = await small.db.select().from(t.sessions).where(eq(t.sessions.person, 'kay'));
    expect(open.some(session => session.strong)).toBe(false);
    expect((await signIn(new Browser(small.base), 'kay')).status).toBe(201);
  });
});

describe('a right that needs a second factor', () => {
  test('waits for it at once, in sessions that are open too, and is there when it is used', async () => {
    const kay = await signedIn(small.base, 'kay');
    await small.db
      .update(t.accounts)
      .set({ rights: ['designer'] })
      .where(eq(t.accounts.person, 'kay'));
    expect((await kay.get('/workflows')).status).toBe(200);
    expect((await require(['designer'])).status).toBe(200);
    expect(await rightsOf(kay)).toEqual([[], ['designer']]);
    expect((await kay.get('/workflows')).status).toBe(403);
    expect((await kay.get('/desk')).status).toBe(200);
    const elsewhere = await signedIn(small.base, 'kay');
    const { secret } = await setUp(kay);
    expect(await rightsOf(kay)).toEqual([['designer'], []]);
    // The other session has given no code.
    expect((await elsewhere.get('/workflows')).status).toBe(403);
    const again = new Browser(small.base);
    expect((await signIn(again, 'kay', shows(secret, 1))).status).toBe(201);
    expect((await again.get('/workflows')).status).toBe(200);
  });

  test('is required by nobody who would lose theirs by it', async () => {
    const refused = await require(['administrator']);
    expect([refused.status, (await dora.get('/factor/required')).body]).toEqual([422, { rights: [] }]);
    await setUp(dora);
    expect((await require(['administrator'])).body).toEqual({ rights: ['administrator'] });
    expect((await dora.get('/accounts')).status).toBe(200);
    expect((await dora.call('PUT', '/factor/required', { rights: ['captain'] })).status).toBe(400);
  });
});
