import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { SessionView } from '@north-pebble/contract';
import { eq } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { dropOldSessions } from './index.ts';

let small: Small;
beforeAll(async () => {
  small = await startSmall({ NP_SIGN_IN_TRIES: '3' });
});
afterAll(() => small.stop());

const self = async (browser: Browser) => (await browser.get<SessionView>('/session')).body.self;

describe('sessions', () => {
  test('a password opens a session that is kept only as a hash; signing out ends it', async () => {
    const browser = new Browser(small.base);
    const signIn = await browser.call('POST', '/session', { mail: 'Ina@selkie.example', password: 'low-tide' });
    expect(signIn.status).toBe(201);
    expect(await self(browser)).toMatchObject({
      id: 'ina',
      name: 'Ina Okell',
      zone: 'Europe/Lisbon',
      seenBy: null,
      keepsLists: false,
      hasReports: false,
      looksAfterSome: false,
    });
    const token = browser.cookie.split('=')[1];
    const kept = await small.db.select().from(t.sessions);
    expect(kept.length).toBeGreaterThan(0);
    expect(JSON.stringify(kept)).not.toContain(token);
    const { cookie } = browser;
    await browser.call('DELETE', '/session');
    browser.cookie = cookie;
    expect(await self(browser)).toBeNull();
  });

  test('signing in again gives a new token and ends the old one', async () => {
    const browser = await signedIn(small.base, 'tom');
    const old = new Browser(small.base);
    old.cookie = browser.cookie;
    await browser.call('POST', '/session', { card: 'tom' });
    expect(browser.cookie).not.toBe(old.cookie);
    expect(await self(old)).toBeNull();
    expect(await self(browser)).toMatchObject({ id: 'tom', hasReports: true, looksAfterSome: false });
    expect(await self(await signedIn(small.base, 'dora'))).toMatchObject({ looksAfterSome: true });
  });

  test('leavers do not sign in, made-up cookies are nobody, and empty fields are named', async () => {
    const browser = new Browser(small.base);
    expect((await browser.call('POST', '/session', { card: 'old' })).status).toBe(403);
    browser.cookie = 'np_session=made-up';
    expect(await self(browser)).toBeNull();
    expect((await browser.call('POST', '/session', { mail: '', password: '' })).status).toBe(400);
  });

  test('guessing is slowed down', async () => {
    const browser = new Browser(small.base);
    const tries = [];
    for (let i = 0; i < 5; i++) {
      tries.push(
        (await browser.call('POST', '/session', { mail: 'tom@selkie.example', password: `guess ${i}` })).status,
      );
    }
    expect(tries.at(-1)).toBe(429);
    expect(tries).not.toContain(201);
  });

  test('another account is not kept out by those who guess at one', async () => {
    const browser = new Browser(small.base);
    for (let i = 0; i < 5; i++)
      await browser.call('POST', '/session', { mail: 'kay@selkie.example', password: `guess ${i}` });
    const right = { mail: 'per@selkie.example', password: 'low-tide' };
    expect((await browser.call('POST', '/session', right)).status).toBe(201);
  });

  test('whoever has left, or is switched off, has no rights from the next call on, and hears nothing more', async () => {
    const stays = async (who: string, change: () => Promise<unknown>, back: () => Promise<unknown>) => {
      const browser = await signedIn(small.base, who);
      const stream = await fetch(`${small.base}/api/live`, { headers: { Cookie: browser.cookie } });
      const reading = (async () => {
        for await (const _ of stream.body ?? []);
      })();
      expect((await browser.get('/desk')).status).toBe(200);
      await change();
      const after = (await browser.get('/desk')).status;
      await reading;
      await back();
      return after;
    };
    const leave = (leftOn: string | null) => () =>
      small.db.update(t.people).set({ leftOn }).where(eq(t.people.id, 'con'));
    expect(await stays('con', leave('2026-02-01'), leave(null))).toBe(401);
    const close = (closed: boolean) => () =>
      small.db.update(t.accounts).set({ closed }).where(eq(t.accounts.person, 'per'));
    expect(await stays('per', close(true), close(false))).toBe(401);
    const out = await signedIn(small.base, 'sub');
    const stream = await fetch(`${small.base}/api/live`, { headers: { Cookie: out.cookie } });
    await out.call('DELETE', '/session');
    for await (const _ of stream.body ?? []);
  });

  test('over TLS the cookie never goes out in the open, and sessions that are over are forgotten', async () => {
    const secure = await startSmall({ NP_ADDRESS: 'https://pebble.selkie.example' });
    const response = await fetch(`${secure.base}/api/session`, {
      method: 'POST',
      headers: { 'X-North-Pebble': '1', 'Content-Type': 'application/json' },
      body: JSON.stringify({ card: 'tom' }),
    });
    expect(response.headers.get('Set-Cookie')).toContain('; Secure');
    expect(response.headers.get('Strict-Transport-Security')).toContain('max-age=');
    await secure.db.update(t.sessions).set({ expires: 1 });
    await dropOldSessions(secure.db);
    expect(await secure.db.select().from(t.sessions)).toEqual([]);
    await secure.stop();
  });
});
