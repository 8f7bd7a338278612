import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { SessionView } from '@north-pebble/contract';
import { tables as t } from '../database/index.ts';
import { Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';

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
});
