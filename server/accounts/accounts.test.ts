/** A house that begins, and accounts: links that work once, passwords, who may look after whom. */
import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { AccountRow, SessionView } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
import { createSchema, tables as t } from '../database/index.ts';
import { type Serving, serve } from '../serve.ts';
import {
  Browser,
  eventually,
  type MailStandIn,
  type Small,
  settingsFor,
  signedIn,
  startMail,
  startSmall,
} from '../testing/serving.ts';
import { leastWait } from './service.ts';

const password = 'a calm sea at low tide';

describe('a house that begins', () => {
  let serving: Serving;
  let base: string;
  beforeAll(async () => {
    const url = await createSchema(process.env.NP_DATABASE ?? '', `t_${randomBytes(6).toString('hex')}`);
    serving = await serve(settingsFor(url, { NP_DEMO: '0' }));
    base = `http://127.0.0.1:${serving.port}`;
  });
  afterAll(() => serving.stop());

  const house = (token: string, more: object = {}) => ({
    token,
    house: 'Mill Weir Trust',
    name: 'Nora Ó Briain',
    mail: 'Nora@house.example',
    password,
    place: 'Mill Weir',
    zone: 'Europe/Oslo',
    pattern: 'office',
    calendar: 'common',
    days: 25,
    ...more,
  });

  test('is set up on its one-time address, once; what is wrong is said at its field and uses nothing up', async () => {
    const browser = new Browser(base);
    expect((await browser.get<SessionView>('/session')).body).toMatchObject({ isNew: true, house: null });
    const token = serving.setup?.split('#')[1] ?? '';
    for (const [field, wrong] of [
      ['zone', 'Middle/Earth'],
      ['password', 'short'],
      ['mail', 'nora'],
      ['pattern', 'never'],
      ['days', 400],
    ] as const) {
      const { status, problem } = await browser.call('POST', '/setup', house(token, { [field]: wrong }));
      expect([field, status, problem.faults?.[0].field]).toEqual([field, 400, field]);
    }
    expect((await browser.call('POST', '/setup', house(randomBytes(32).toString('base64url')))).status).toBe(422);
    expect((await browser.call('POST', '/setup', house(token))).status).toBe(204);
    expect((await browser.call('POST', '/setup', house(token, { mail: 'else@house.example' }))).status).toBe(422);
    expect((await browser.call('POST', '/session', { mail: 'nora@house.example', password })).status).toBe(201);
    expect((await browser.get<SessionView>('/session')).body).toMatchObject({
      isNew: false,
      house: 'Mill Weir Trust',
      self: { name: 'Nora Ó Briain', zone: 'Europe/Oslo', rights: ['administrator', 'designer'] },
    });
    const { body } = await browser.get('/balances/nora-o-briain');
    expect(JSON.stringify(body)).toContain('Annual leave');
  });

  test('is alive, and ready once what works in the background has come round', async () => {
    expect(await (await fetch(`${base}/api/health`)).json()).toEqual({ ok: true });
    expect(await (await fetch(`${base}/api/ready`)).json()).toEqual({ ready: true });
    const { beats } = serving.house;
    beats.set('timers', Date.now() - 120_000);
    // As if nothing came round any more: what still does would be noted in the middle of this.
    beats.set = () => beats;
    const late = await fetch(`${base}/api/ready`);
    expect([late.status, await late.json()]).toEqual([503, { ready: false, late: ['timers'] }]);
  });
});

describe('accounts', () => {
  let small: Small;
  let dora: Browser;
  let post: MailStandIn;
  beforeAll(async () => {
    post = await startMail();
    small = await startSmall({ NP_SMTP: post.smtp });
    dora = await signedIn(small.base, 'dora');
  });
  afterAll(async () => {
    await small.stop();
    post.stop();
  });

  const letters = async (to: string) =>
    (await small.db.select().from(t.effects)).filter(row => row.payload.to?.startsWith(to)).map(row => row.payload);
  const seen = new Set<string>();
  /** What the next mail to somebody brings: the address is made as it goes out, and what waits has none. */
  const tokenIn = async (to: string) => {
    expect(JSON.stringify(await letters(to))).not.toContain('link#');
    let token: string | undefined;
    await eventually(async () => {
      for (const mail of await post.mails())
        if (!seen.has(mail.id) && mail.to.includes(`${to}@`)) {
          seen.add(mail.id);
          token = /link#(\S+)/.exec(mail.text)?.[1];
        }
      return token !== undefined;
    });
    return token ?? '';
  };
  const guest = () => new Browser(small.base);
  const choose = (token: string, words = password) => guest().call('POST', '/password', { token, password: words });

  test('somebody is invited under somebody, chooses a password by a link that works once, and is known at once', async () => {
    const input = {
      name: 'Íñigo Hale',
      mail: 'inigo@selkie.example',
      post: 'Gauge fitter',
      manager: 'tom',
      rights: [],
    };
    const { status, body } = await dora.call<AccountRow[]>('POST', '/accounts', input);
    expect(status).toBe(201);
    expect(body.find(row => row.name === 'Íñigo Hale')).toMatchObject({ person: 'inigo-hale', isOpen: false });
    const token = await tokenIn('inigo');
    expect((await guest().get(`/links/${token}`)).body).toEqual({
      purpose: 'invitation',
      name: 'Íñigo Hale',
      mail: 'inigo@selkie.example',
    });
    expect((await choose(token, 'short')).status).toBe(400);
    expect((await choose(token)).status).toBe(204);
    expect((await choose(token)).status).toBe(422);
    const browser = guest();
    expect((await browser.call('POST', '/session', { mail: input.mail, password })).status).toBe(201);
    // Their leave goes to whoever leads them.
    const sent = await browser.ask('2026-03-09', '2026-03-13');
    expect(sent.status).toBe(201);
    const [request] = await small.db.select().from(t.requests).where(eq(t.requests.asker, 'inigo-hale'));
    expect(request.state.tasks.map(task => task.holder)).toEqual(['tom']);
    const again = await dora.call('POST', '/accounts', { ...input, name: 'Another' });
    expect([again.status, again.problem.faults?.[0].field]).toEqual([400, 'mail']);
    const nobody = await dora.call('POST', '/accounts', { ...input, mail: 'x@selkie.example', manager: 'nobody' });
    expect([nobody.status, nobody.problem.faults?.[0].field]).toEqual([400, 'manager']);
  });

  test('a forgotten password: the same answer for everybody, a link for those who have an account', async () => {
    for (const mail of ['ina@selkie.example', 'nobody@selkie.example']) {
      const begun = performance.now();
      expect((await guest().call('POST', '/password/forgotten', { mail })).status).toBe(204);
      // Nor does the time that it takes tell who has one.
      expect(performance.now() - begun).toBeGreaterThan(leastWait - 2);
    }
    expect(await letters('ina')).toHaveLength(1);
    const before = await signedIn(small.base, 'ina');
    const first = await tokenIn('ina');
    await guest().call('POST', '/password/forgotten', { mail: 'ina@selkie.example' });
    // A newer link puts an older one out of use.
    const second = await tokenIn('ina');
    expect((await choose(first)).status).toBe(422);
    expect((await choose(second)).status).toBe(204);
    expect((await before.get('/desk')).status).toBe(401);
  });

  test('a link is over after its time', async () => {
    await guest().call('POST', '/password/forgotten', { mail: 'per@selkie.example' });
    const token = await tokenIn('per');
    await small.db.update(t.links).set({ expires: Date.now() - 1 });
    expect((await guest().get(`/links/${token}`)).status).toBe(404);
    expect((await choose(token)).status).toBe(422);
  });

  test('one changes one’s own password knowing the old one; other sessions end, this one stays', async () => {
    const [here, there] = [await signedIn(small.base, 'kay'), await signedIn(small.base, 'kay')];
    const wrong = await here.call('PUT', '/password', { before: 'high-tide', password });
    expect([wrong.status, wrong.problem.faults?.[0].field]).toEqual([400, 'before']);
    expect((await here.call('PUT', '/password', { before: 'low-tide', password })).status).toBe(204);
    expect((await here.get('/desk')).status).toBe(200);
    expect((await there.get('/desk')).status).toBe(401);
  });

  test('one sees one’s own sessions and ends the others', async () => {
    const [here, there] = [await signedIn(small.base, 'tom'), await signedIn(small.base, 'tom')];
    const { body } = await here.get<{ isThis: boolean }[]>('/sessions');
    expect(body.filter(session => session.isThis)).toHaveLength(1);
    expect((await here.call('DELETE', '/sessions/others')).status).toBe(204);
    expect((await there.get('/desk')).status).toBe(401);
    expect((await here.get('/desk')).status).toBe(200);
  });

  test('an account switched off ends its sessions at once; somebody always looks after the house', async () => {
    const per = await signedIn(small.base, 'per');
    expect((await dora.call('PUT', '/accounts/per', { closed: true })).status).toBe(200);
    expect((await per.get('/desk')).status).toBe(401);
    expect((await dora.call('PUT', '/accounts/dora', { rights: [] })).status).toBe(422);
    expect((await dora.call('PUT', '/accounts/dora', { closed: true })).status).toBe(422);
    expect((await dora.call('PUT', '/accounts/nobody', { closed: true })).status).toBe(404);
    expect((await dora.call('PUT', '/accounts/tom', { rights: ['administrator'] })).status).toBe(200);
    expect((await dora.call('PUT', '/accounts/dora', { rights: ['designer'] })).status).toBe(200);
    expect((await dora.get('/accounts')).status).toBe(403);
  });
});

describe('the address to which password letters go', () => {
  let small: Small;
  const at = {} as Record<'dora' | 'kay' | 'per', Browser>;
  beforeAll(async () => {
    small = await startSmall();
    for (const one of ['dora', 'kay', 'per'] as const) at[one] = await signedIn(small.base, one);
  });
  afterAll(() => small.stop());
  type Change =
    | { what: 'own'; person: string; set: { mail: string } }
    | { what: 'last day'; person: string; left: string };
  async function change(by: Browser, change: Change) {
    const seen = await by.call<{ digest: string }>('POST', '/records/preview', { change });
    if (seen.status !== 200) return seen;
    return by.call('POST', '/records/changes', { change, reason: 'Married.', digest: seen.body.digest });
  }
  const mail = (person: string, address: string): Change => ({ what: 'own', person, set: { mail: address } });
  const written = async (to: string) =>
    (await small.db.select().from(t.effects)).flatMap(({ payload }) => (payload.address === to ? [payload] : []));
  const forgot = (address: string) => new Browser(small.base).call('POST', '/password/forgotten', { mail: address });

  test('of whoever holds a right is changed by those who keep accounts alone', async () => {
    expect((await change(at.kay, mail('per', 'kay.else@evil.example'))).status).toBe(403);
    expect((await change(at.dora, mail('per', 'per.lauder@selkie.example'))).status).toBe(200);
  });

  test('is for a day still the one of before, which is told', async () => {
    expect((await change(at.kay, mail('ina', 'ina.new@selkie.example'))).status).toBe(200);
    expect((await written('ina@selkie.example')).map(one => one.subject)).toEqual([
      'Your mail address in North Pebble has changed',
    ]);
    // A second change on the same day brings it no further.
    expect((await change(at.kay, mail('ina', 'ina.newer@selkie.example'))).status).toBe(200);
    await forgot('ina.newer@selkie.example');
    expect(await written('ina.newer@selkie.example')).toEqual([]);
    expect((await written('ina@selkie.example')).at(-1)?.account).toEqual({ person: 'ina', purpose: 'password' });
    await small.db
      .update(t.accounts)
      .set({ mailSince: Date.now() - 86_400_001 })
      .where(eq(t.accounts.person, 'ina'));
    await forgot('ina.newer@selkie.example');
    expect((await written('ina.newer@selkie.example')).map(one => one.subject)).toEqual([
      'A new password for North Pebble',
    ]);
  });

  test('the last administrator is given no last day, and nobody who has one counts as the last', async () => {
    expect((await change(at.kay, { what: 'last day', person: 'dora', left: '2026-06-30' })).status).toBe(422);
    await small.db
      .update(t.accounts)
      .set({ rights: ['administrator'] })
      .where(eq(t.accounts.person, 'tom'));
    expect((await change(at.kay, { what: 'last day', person: 'tom', left: '2026-06-30' })).status).toBe(200);
    expect((await change(at.kay, { what: 'last day', person: 'dora', left: '2026-06-30' })).status).toBe(422);
    expect((await at.dora.call('PUT', '/accounts/dora', { rights: ['designer'] })).status).toBe(422);
  });

  test('an administrator turns off their own second factor with a code alone', async () => {
    expect((await at.dora.call('PUT', '/accounts/dora', { factor: false })).status).toBe(422);
  });
});
